import type { Shape } from "../../kernel";

/** A format that bodies are written in, told without geometry: its `write` stands beside it. */
export interface BodyFormat {
  id: string;
  /** As a choice: its name, and what it holds. */
  label: string;
  /** Of the file's name, without the dot. */
  extension: string;
  mime: string;
  /** Triangles, within a tolerance of the exact bodies; or exact. */
  exact: boolean;
  /** Closed bodies alone have an inside; sheets are left out of formats that ask for one. */
  takes: "closed" | "any";
  /** What a file holds beside the shapes, as a sentence. */
  holds: string;
}

/** A body to be written. */
export interface OutBody {
  name: string;
  kind: "solid" | "sheet";
  shape: Shape;
  /** `#rrggbb`; null for none of its own. */
  colour: string | null;
}

export interface WriteOptions {
  title: string;
  /** How far a triangle may lie from the exact surface, mm. */
  tolerance: number;
}

/** Writes bodies that its format takes, in millimetres. @throws SeamError */
export type BodyWriter = (bodies: readonly OutBody[], options: WriteOptions) => Uint8Array;
