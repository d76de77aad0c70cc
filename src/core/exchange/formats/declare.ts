import type { CurveSpan } from "../../curve/span";
import type { Trait } from "../../items/kinds";
import type { Shape } from "../../kernel";

/** A format that items are written in, told without geometry: its `write` stands beside it. */
export interface OutFormat {
  id: string;
  /** As a choice: its name, and what it holds. */
  label: string;
  /** Of the file's name, without the dot. */
  extension: string;
  mime: string;
  /** Triangles, within a tolerance of the exact bodies; or exact. */
  exact: boolean;
  /** What an item needs one of to be written: closed bodies alone have an inside. */
  takes: readonly Trait[];
  /** What a file holds beside the shapes, as a sentence. */
  holds: string;
}

/** What is written: a body, or a curve in space. */
export type OutItem = OutBody | OutCurve;

interface Out {
  name: string;
  /** `#rrggbb`; null for none of its own. */
  colour: string | null;
}
export interface OutBody extends Out {
  kind: "solid" | "sheet";
  shape: Shape;
}
export interface OutCurve extends Out {
  kind: "curve";
  spans: readonly CurveSpan[];
}

export interface WriteOptions {
  title: string;
  /** How far a triangle may lie from the exact surface, mm. */
  tolerance: number;
}

/** Writes items that its format takes, in millimetres. @throws SeamError */
export type OutWriter = (items: readonly OutItem[], options: WriteOptions) => Uint8Array;
