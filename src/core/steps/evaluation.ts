import type * as z from "zod";
import type { Trouble } from "../errors";
import type { Body, Item } from "../items";
import type { EdgeFacts, Shape, Vec3 } from "../kernel";
import type { Move } from "../motion";
import type { Resolved } from "../params";
import type { Transform } from "../place";
import type { CornerRef, EdgeRef, FaceRef } from "../references";
import type { Front, Knife, Piece, PresetFate, Spot } from "../seam";
import type { StepType } from "./declare";

/** What a step may ask for while it is evaluated. */
export interface StepContext {
  step: string;
  /** All items that a reference means: an item's id, or a step's id for all that it made. */
  items(refs: readonly string[]): Item[];
  /** All items that are there: for a step that says so with `needsAll`. */
  all(): Item[];
  bodies(refs: readonly string[]): Body[];
  /** The body and face (by place) that a face reference means; a guess is noted as a warning. */
  face(ref: FaceRef): { body: Body; face: number };
  /** The same with the faces that its rule brings along, the picked one first. @throws SeamError where the rule says nothing of such a face */
  faces(ref: FaceRef): { body: Body; faces: readonly number[] };
  /** The body and edge (by place) that an edge reference means, what it is, and the faces (by place) that meet there. */
  edge(ref: EdgeRef): { body: Body; edge: number; facts: EdgeFacts; faces: number[] };
  /** Where the corner is that a reference means. */
  corner(ref: CornerRef): Vec3;
  /** What a person calls an item. */
  nameOf(id: string): string;
  /** The ids that an item had before it was changed, the latest first. */
  earlier(id: string): readonly string[];
  /** The points, by id and in order, that the curve was drawn through which a face (by name) was drawn out from. */
  drawnThrough(face: string): readonly string[] | null;
  /** An earlier step that is named by `repeats`, to be done again elsewhere. @throws SeamError where it cannot be */
  again(step: string): DoneStep;
  /** What the step names of another part, as it lies on the bench there, and how that lies in this part. */
  elsewhere(): Elsewhere;
  /** The bytes of an imported file. */
  file(id: string): { name: string; bytes: Uint8Array };
  warn(trouble: Trouble): void;
  /** Whether details of pieces are wanted: while the step is edited. */
  wantsPieces: boolean;
  /** What does not do only says so: what would do instead is not looked for. */
  brisk: boolean;
  /**
   * What is made of one body alone, on the way to something else: made, or as it was made of that very body before.
   * @param words what else it depends on, as JSON. @param make its shape is kept, and let go of, elsewhere
   */
  derived(of: Body, words: unknown, make: (warn: (trouble: Trouble) => void) => Body): Body;
  /**
   * What other values of the open step leave as it is: made, or as it was made for the same things and words before.
   * @param things what it is made from, each that very one. @param words what else it depends on, as JSON.
   * @returns it, and how to let go of it, which the step does at its end.
   */
  held<T extends { free(): void }>(
    things: readonly object[],
    words: unknown,
    make: () => T,
  ): { value: T; done(): void };
}

/** Another part, to what names something of it: as the step's own part is to other references. */
export interface Elsewhere extends Pick<StepContext, "faces" | "edge"> {
  items(refs: readonly string[]): Item[];
  /** How what is there lies in this part. */
  lies: Transform;
}

/** An earlier step, as it was done. */
export interface DoneStep {
  id: string;
  type: string;
  /** Its place on the sheet, from 1. */
  number: number;
  values: Readonly<Record<string, unknown>>;
  /** What it put into other bodies. */
  tools: readonly Body[];
  /** In which what it named means what it meant to it; what has to be told is told of the step that does it again. */
  context: StepContext;
}

export interface StepOutcome {
  made: Item[];
  /** Ids of items that exist no longer after this step. */
  used: string[];
  /**
   * Of those, the ones that live on in one body that was made, and in which: what names them later means that one. So does
   * an id that it would have had before what it was made from was changed.
   */
  becomes?: Record<string, string>;
  /** What went into other bodies, as it was before: for steps that repeat it. They stay with the result. */
  tools?: Body[];
  /** What was measured of it and is worth saying, with its place: nothing that is wrong. */
  told?: Trouble[];
  /** The pieces, where the step divides and they were asked for. */
  pieces?: PieceReport[];
  /** With them: where each cutter cuts, and which way its front looks there. */
  fronts?: Front[];
  /** What its bodies are known by, where it divides: how names given before an edit are found again. */
  traces?: Trace[][];
}

/** What became of a piece, or of pieces that are one body, and what it is known by. Those of one list are told apart. */
export interface Trace {
  /** The body that it is now; null for scrap, and for what went into a group. */
  id: string | null;
  /** How its id may begin, after the step's. */
  keys: string[];
  bounds: string[];
  /** Spans of drawn curves that it lies at, where there are any. */
  spans?: string[];
  spot: Spot | null;
  /** How an older release would have named it. */
  once?: string;
  /** Its kind, and the cutters that bound it: what it was called before the step had all of them. Where there are several. */
  among?: { kind: string; cutBy: string[] };
}

/** A piece with its fate, for the tray. The shape belongs to whoever asked. */
export interface PieceReport {
  /** The piece itself, which is the same one as long as what divides is the same. */
  source: object;
  piece: Omit<Piece, "fusion" | "shape" | "uses" | "bounds" | "spans" | "spot" | "cutBy" | "kinds" | "key" | "mark"> & {
    key: string;
    mark: string;
  };
  shape: Shape;
  fate: PresetFate;
  /** The pieces, by index, that were cut from it: they share a face with it, of sheets an edge. */
  neighbours: number[];
  /** Whether a decision gave it its fate. */
  decided: boolean;
  /** The preset's own fate: what it would be without a decision. */
  preset: PresetFate;
}

/** The values that a step is evaluated with: numbers with units are millimetres, degrees or plain numbers. */
export type ValuesOf<T> = T extends StepType<infer S> ? Resolved<z.infer<S>> : never;

/** What a step divides, and by what. */
export interface Parties {
  stock: readonly Body[];
  knives: readonly Knife[];
  /** Whether the stock divides each other, too. */
  shared: boolean;
  /** Lets go of the knives that were made for it. */
  free(): void;
}

/** A solid that a step hollows, and to what walls. */
export interface Hollow {
  body: Body;
  /** How thick they are, mm, by face; null where one is left open. */
  walls: readonly (number | null)[];
  /** Whether they go outside of what is there. */
  outward: boolean;
}

/** A solid that a step moves along a way. */
export interface OnWay {
  body: Body;
  moves: readonly Move[];
}

/** What a kind of step does. */
export interface StepEvaluation<S extends z.ZodType = z.ZodType> {
  step: StepType<S>;
  /** Whether it holds what it makes of these values against the law of sound solids itself: closed, valid, the right way out. */
  weighed?(values: Resolved<z.infer<S>>): boolean;
  /** The result depends on these values, the referenced items and files alone. @throws SeamError */
  evaluate(values: Resolved<z.infer<S>>, context: StepContext): StepOutcome;
  /** What it divides, for a picture of it before it is divided. Null where there is none. @throws SeamError */
  parties?(values: Resolved<z.infer<S>>, context: StepContext): Parties | null;
  /** What it hollows, likewise. */
  hollow?(values: Resolved<z.infer<S>>, context: StepContext): Hollow | null;
  /** What it moves, and how. */
  onWay?(values: Resolved<z.infer<S>>, context: StepContext): OnWay | null;
}

/** Says what a declared kind of step does. */
export function evaluates<S extends z.ZodType>(
  step: StepType<S>,
  work: Omit<StepEvaluation<S>, "step">,
): StepEvaluation<S> {
  return { step, ...work };
}
