import type * as z from "zod";
import type { Field } from "../steps/declare";

/** A check of all bodies of a part, told without geometry: its `run` stands beside it. */
export interface CheckType<S extends z.ZodType = z.ZodType> {
  id: string;
  /** What it is asked for. Numbers with units are marked, and may be formulas. */
  schema: S;
  words: {
    label: string;
    /** One line on what it tells. */
    line: string;
  };
  fields: Field[];
  /** Whether bodies of the other parts are looked at, too, where they stand. */
  wholeJob?(values: z.infer<S>): boolean;
}

export function declareCheck<S extends z.ZodType>(check: CheckType<S>): CheckType<S> {
  return check;
}

/** What stands in a table: words, or a number in the unit that is shown. */
export type Cell =
  | string
  | { length: number }
  | { area: number }
  /** Degrees, from the least to the most, and how far both may be off: 0 where they are exact. */
  | { angles: [number, number]; within: number };

/** A line of the table of a check, with what of the model it is about: pointing at it lights that. */
export interface Found {
  cells: Cell[];
  body: string;
  /** By place. */
  faces: number[];
  edges: number[];
  /** What has to be looked at. */
  bad: boolean;
  /** Of two bodies: the other one, with its faces, and where they are nearest. */
  pair?: FoundPair;
}

/** Two bodies that a line is about: they light up together, and a fit can be wanted of them. */
export interface FoundPair {
  /** `at`: at which of its part's places, by id; empty for its own. */
  one: { part: string; at: string; body: string };
  other: { part: string; at: string; body: string; faces: number[] };
  /** A place on each, mm. */
  at: [Place, Place];
  /** The fit that is wanted of them, by its place in the job's list; null where none is. */
  fit: number | null;
}
type Place = [number, number, number];

/** How a part of a scale is drawn: tones differ in lightness and in their hatching, so that nothing is read by colour alone. */
export type Tone = "away" | "away-little" | "none" | "towards-little" | "towards";

/** A part of a scale of values. */
export interface Band {
  /** Up to this value; the last has none above it. */
  to: number | null;
  words: string;
  tone: Tone;
}

/** A value for every corner of a body's mesh. */
export interface Paint {
  body: string;
  /** Which mesh: values are for no other. */
  meshId: string;
  values: Float32Array;
}

export interface CheckResult {
  /** What came of it, in a sentence. */
  summary: string;
  /** Whether nothing has to be looked at. */
  good: boolean;
  /** Said where something is approximate, and how far. */
  note?: string;
  columns: string[];
  found: Found[];
  /** What is lit in the view: edges and faces of bodies by place. */
  lit: { body: string; faces: number[]; edges: number[] }[];
  bands: Band[];
  paint: Paint[];
}
