import type { Trouble } from "../errors";
import type { Front } from "../seam";
import type { Hollow, OnWay, Parties, PieceReport } from "../steps/evaluation";
import type { Bench, BenchItem } from "./bench";
import type { ResultCache } from "./cache";
import type { Held } from "./held";
import type { FoundReference } from "./references";
import type { StepResult } from "./result";
import type { Meanings, Whereabouts } from "./whereabouts";

export type StepState = "good" | "warned" | "failed" | "waiting" | "suppressed" | "held";

export interface StepReport {
  id: string;
  type: string;
  state: StepState;
  error?: Trouble;
  warnings: Trouble[];
  /** What was measured of what it made, with its place: nothing that is wrong. */
  told?: Trouble[];
  /** Steps that were not done to what it was made of: by id. */
  lacks?: string[];
  /** What it made, by item id. */
  made: string[];
  /** Which body each that it used up lives on in, where it is one: by item id. */
  becomes?: Record<string, string>;
  /** Milliseconds of computing; 0 when the result was at hand. */
  ms: number;
  key?: string;
}

export interface PartResult {
  steps: StepReport[];
  bench: BenchItem[];
  /** The bench as it was before the `upTo` step. */
  before?: BenchItem[];
  /** What the references of the `upTo` step mean on that. */
  meanings?: Meanings;
  /** Where the faces are that notes are on. */
  noted: Whereabouts[];
  /** Pieces of the step that was asked for; their shapes belong to the caller. */
  pieces?: PieceReport[];
  /** With them: where each cutter cuts, and which way its front looks there. */
  fronts?: Front[];
  /** What the step divides that was asked for; the caller frees it. */
  parties?: Parties;
  /** What it hollows. */
  hollow?: Hollow;
  /** What it moves. */
  onWay?: OnWay;
  /** The results used, for the cache to keep: those of parts that it brings something in from with them. */
  results: Map<string, StepResult>;
  /** What lies there, to be found by whoever names it. */
  sheet: Bench;
}

export interface EvaluateOptions {
  cache: ResultCache;
  /** The bytes of an imported file, by the file's id; undefined when it is not at hand. */
  file(id: string): Uint8Array | undefined;
  /** Build up to and including this step, as while it is edited, whatever the hold point says. */
  upTo?: string;
  /** The step whose pieces are wanted. */
  pieces?: string;
  /** Where that step keeps what other values of it leave as it is; without it, it makes all anew each time. */
  held?: Held;
  /** The step of which only what it divides is wanted, and by what, or what it hollows or moves: it is not done, nor what comes after it. */
  parties?: string;
  onStep?(report: StepReport, done: number, total: number): void;
  /** Told what a step is at while it takes its time: which, and in words. */
  onStage?(step: string, words: string): void;
  /** Told how each picked face, edge and corner was found, by steps that are evaluated anew. */
  onReference?(found: FoundReference): void;
  /**
   * What fails only says so: neither what would do instead is looked for, nor are repairs tried. For a trial of a repair, and for numbers
   * in a hand that moves.
   */
  brisk?: boolean;
  /** A result that an earlier run stored, if there is one. */
  stored?(key: string): StepResult | undefined;
}
