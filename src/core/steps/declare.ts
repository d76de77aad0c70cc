import type * as z from "zod";
import type { Trait } from "../items/kinds";

/** The stages of the work, in its order. A stage without tools is not shown. */
export const STAGES = ["draw", "shape", "sheets", "seam", "fit", "tube", "mould", "check", "release"] as const;
export type Stage = (typeof STAGES)[number];

/** A field is shown while another has one of these values, or holds anything at all; of a list, all have to hold. */
export type FieldCondition =
  | { key: string; is: string[] }
  /** One of these lists has something in it. */
  | { any: string[] };

/** How a form asks for a value. The form is drawn from these alone. */
export type Field = {
  key: string;
  label: string;
  help?: string;
  /** What it is called while another field has one of these values. */
  labels?: { key: string; of: Record<string, string> };
  when?: FieldCondition | FieldCondition[];
  /** It does something only with what has a trait in one of some lists, or with anything in another: else a form need not ask for it. */
  onlyWith?: { trait: Trait; in: string[]; orAnyIn?: string };
  /** A form asks for it only while it is set to something, or where the step has something to say about it. */
  quiet?: true;
} & (
  | { kind: "angle" | "count" }
  /** `processes`: a gap, for which ways of making have a usual one. */
  | { kind: "length"; processes?: true }
  | { kind: "fit" }
  | { kind: "point"; labels?: [string, string, string]; plain?: boolean }
  | { kind: "choice"; options: { value: string; label: string }[] }
  | { kind: "toggle" }
  | { kind: "file"; accept: string }
  | { kind: "bodies"; accepts: Trait[]; min: number; max?: number }
  | { kind: "faces"; accepts: "any" | "plane" | "cylinder"; min: number; max?: number; rules?: true }
  | { kind: "edges"; accepts: "any" | "line"; min: number; max?: number }
  | { kind: "corners"; min: number; max?: number }
  | { kind: "sketch" }
  | { kind: "points" }
  | { kind: "moves" }
  | { kind: "part" }
  | { kind: "elsewhere"; of: string }
  | { kind: "other-faces"; of: string }
  | { kind: "other-edges"; of: string }
  /** One of the places of the part that another field names, where it has several. */
  | { kind: "place"; of: string }
  | { kind: "steps" }
  | { kind: "starts"; of: string }
  | { kind: "regions"; of: string }
  | { kind: "sketch-line"; of: string }
  | { kind: "cutters" }
  | { kind: "fates" }
);

export interface StepWords {
  /** A verb or noun of the trade, as on the tool. */
  label: string;
  /** One line on what the tool is for. */
  line: string;
  /** The group it stands in on its stage. */
  stage: Stage;
}

/** A change of how a kind of step is written: its values as the release before wrote them, to what they are since. */
export interface StepUpgrade {
  /** What changed, in a few words. */
  name: string;
  up(step: Record<string, unknown>): Record<string, unknown>;
}

/** What a kind of step is, told without geometry: its values, its words and its form. What it does stands in its `evaluate`. */
export interface StepType<S extends z.ZodType = z.ZodType> {
  type: string;
  /** Its values. References, files and numbers with units are marked in it, so that nobody lists them again. */
  schema: S;
  words: StepWords;
  /** What its form asks for. A value whose field is not shown is as if it had never been filled in. */
  fields: Field[];
  /** Raised when it makes something else of the same values than before, so that stored results of an older release are left alone. */
  version?: number;
  /**
   * How steps of earlier releases become those of this one: in order, each done to those that were written before it. One
   * that has landed is never changed. A value that is new needs none: it gets its default.
   */
  upgrades?: readonly StepUpgrade[];
  /** Values on which its result depends only by way of the items that it is given: they are no part of its key. */
  asides?: readonly string[];
  /** Of the bodies that it refers to, those that it changes: when it cannot be done, what goes on with them lacks it. None where left out. */
  changes?(values: z.infer<S>): string[];
  /** What it does to bodies, in a word (“joined”), where a step can do that again elsewhere; null where not. */
  repeats?(values: z.infer<S>): string | null;
  /** Whether it depends on everything that is there before it. */
  needsAll?(values: z.infer<S>): boolean;
}

/** Declares a kind of step; keeps the schema's type. */
export function declareStep<S extends z.ZodType>(step: StepType<S>): StepType<S> {
  return step;
}
