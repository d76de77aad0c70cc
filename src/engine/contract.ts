import type { BetweenMeasures, CheckResult, FitReport, GapCourse, Measures, ThingMeasures } from "@/core/check";
import type { LinkReport, Meanings, StepReport, Whereabouts } from "@/core/evaluate";
import type { Inspection } from "@/core/exchange";
import type { Furthest } from "@/core/fit/difference";
import type { BodyView, ItemView, ViewMesh } from "@/core/items";
import { isBody } from "@/core/items/kinds";
import type { Job } from "@/core/job";
import type { Vec3 } from "@/core/kernel";
import type { Front, Piece, PresetFate, Side } from "@/core/seam";
import type { Contact } from "@/core/triangles";

/** What the core's host is asked for. Plain values both ways: the contract crosses threads. */
export interface EvaluateRequest {
  job: Job;
  part: string;
  /** Build up to and including this step, as while it is edited. */
  upTo?: string;
  /** The step whose pieces are wanted. */
  pieces?: string;
  /** A number of it is in a hand that moves: what fails only says so. */
  brisk?: boolean;
  /** Meshes that the asker has already, by mesh id; they are not sent again. */
  known: string[];
  /** Keys of step results that an earlier run stored; fetched before anything is computed. */
  storedKeys?: string[];
  /** The job's files, by the hash of their bytes, where the engine cannot fetch them. */
  files?: Record<string, Uint8Array>;
}

export type {
  BodyView,
  CornerView,
  CurveView,
  EdgeView,
  FaceView,
  ItemView,
  PlaneView,
  RegionView,
  SketchView,
  ViewMesh,
} from "@/core/items";

/** Whether what is shown is made of faces. */
export const isBodyView: (item: ItemView) => item is BodyView = isBody;

export interface PieceView {
  index: number;
  key: string;
  kind: string;
  form: Piece["form"];
  stock: string[];
  sides: Record<string, Side>;
  faces: string[];
  /** What bounds it and its siblings: how a step remembers it. */
  mark: string;
  /** The pieces, by index, that were cut from it. */
  neighbours: number[];
  /** mm: how long its seam lines are together. */
  seam: number;
  fate: PresetFate;
  /** Whether a decision gave it its fate. */
  decided: boolean;
  preset: PresetFate;
  measures: Measures;
  inner: Vec3 | null;
  /** Centre of its skin: how a step remembers its place. */
  centre: Vec3;
  meshId: string;
  mesh: ViewMesh;
}

/** A piece as it is sent: without its mesh where the asker has it. */
export type SentPiece = Omit<PieceView, "mesh"> & { mesh?: ViewMesh };

/** What came of a part; `P`: its pieces as the page has them, or as they are sent. */
export interface Evaluation<P = PieceView> {
  steps: StepReport[];
  items: ItemView[];
  /** The items as they were before the step that is edited: what it can pick from. */
  before?: ItemView[];
  /** What its references mean of that, and where the faces are that notes are on. */
  meanings?: Meanings;
  noted: Whereabouts[];
  pieces?: P[];
  /** With them: where each cutter cuts, and which way its front looks there. */
  fronts?: Front[];
}

export interface RoughRequest {
  job: Job;
  part: string;
  /** The open step, of which what comes of it is wanted as triangles. */
  step: string;
  /** Meshes that the asker has already, by mesh id. */
  known: string[];
}

/** A piece as triangles: shown while the exact ones keep somebody waiting. */
export interface RoughPiece {
  stock: string[];
  sides: Record<string, Side>;
  /** The middle of its box. */
  at: Vec3;
  mesh: ViewMesh;
}

export interface RoughPieces {
  pieces: RoughPiece[];
  /** mm: how far the triangles may lie from what they stand for; null where that is not known. */
  within: number | null;
  /** What divides, as it lies now, where that is drawn beside the pieces; what is hollowed, as it is now. */
  items: ItemView[];
  /** How long it took once all was there for it, ms. */
  took: number;
}

export interface ReleaseRequest {
  job: Job;
  part: string;
  /** Items to write, by id. */
  bodies: string[];
  /** The id of a format (`OUT_FORMATS`). */
  format: string;
  /** Formats of triangles: largest deviation, mm. */
  tolerance: number;
}

/** Something of a body, by name: a face, an edge or a corner, or the whole. */
export interface Target {
  body: string;
  part?: { kind: "face" | "edge" | "corner"; name: string };
}

export interface MeasureRequest {
  job: Job;
  part: string;
  first: Target;
  second?: Target;
}

export interface Measurement {
  first: ThingMeasures;
  second?: ThingMeasures;
  between?: BetweenMeasures;
}

export interface CheckRequest {
  job: Job;
  part: string;
  /** The id of a check (`CHECKS`), and what it is asked for. */
  check: string;
  values: unknown;
}

/** Something that was brought in, as it was taken and as it is now: null where it was not, or is not. */
export interface LinkDifference {
  name: string;
  was: Version | null;
  now: Version | null;
  /** How far the two lie from each other at most; null where that is not measured. */
  furthest: Furthest | null;
}

interface Version {
  kind: ItemView["kind"];
  /** mm³ of a solid; null of all else. */
  volume: number | null;
  /** As it is drawn: a body by triangles, a curve or a drawing by segments. */
  mesh: ViewMesh | null;
  lines: readonly number[];
}

export interface ItemLine {
  id: string;
  kind: ItemView["kind"];
  name: string;
  /** The step that made it. */
  step: string;
  was: string[];
}

export interface EngineConfig {
  /** Browser: where the kernel's module and WebAssembly file lie. */
  kernel?: { module: string; wasm: string };
  /** Where what divides triangles lies, so. */
  triangles?: { module: string; wasm: string };
  /** Where imported files and stored results are fetched from, each followed by a key. */
  files?: string;
  geometry?: string;
}

export interface Progress {
  done: number;
  total: number;
  step: string;
  /** What the step is at, in words, where it takes its time. */
  stage?: string;
}

/** All that an engine is asked, by name: what each operation is given, and what it gives. */
export interface Operations {
  evaluate: { asks: EvaluateRequest; gives: Evaluation<SentPiece> };
  /** What comes of a step as triangles, in a few hundredths of a second; null where there are none of it. */
  rough: { asks: RoughRequest; gives: RoughPieces | null };
  /** What the body that a step moves is in on its way, once the step is done, by triangles; null where that cannot be told. */
  contacts: { asks: { job: Job; part: string; step: string }; gives: { contacts: Contact[]; within: number } | null };
  release: { asks: ReleaseRequest; gives: Uint8Array };
  /** Measures of one thing, or of two and how they lie to each other: exact. */
  measure: { asks: MeasureRequest; gives: Measurement };
  /** The gap between two things along an edge or a curve, or round an axis; null where there is nothing to run along. */
  course: { asks: MeasureRequest & { second: Target }; gives: GapCourse | null };
  /** A check of all bodies of a part. */
  check: { asks: CheckRequest; gives: CheckResult };
  /** Whether the bodies of a job lie as they are wanted to: of each wanted fit, by its place. */
  fits: { asks: { job: Job }; gives: FitReport[] };
  /** How all that is brought in stands to what it is of, in the whole job. */
  links: { asks: { job: Job }; gives: LinkReport[] };
  /** What a step brought in, as it was taken and as it is now. */
  compare: { asks: { job: Job; part: string; step: string }; gives: LinkDifference[] };
  /** What lies on the bench of a part, without its shapes: what can be brought in from it. */
  list: { asks: { job: Job; part: string }; gives: ItemLine[] };
  inspect: { asks: { name: string; bytes: Uint8Array }; gives: Inspection };
}
export type OperationName = keyof Operations;

/** What an operation gave, and how much memory the kernel has taken by then: bytes. */
export interface Answer<T> {
  answer: T;
  heapBytes: number;
}

/** One engine: it does one thing at a time. Errors cross as `EngineFault`. */
export interface EngineApi {
  start(config: EngineConfig): Promise<void>;
  /** Compiles and optimises the kernel with one small operation more; false when it is as warm as it gets. */
  warm(): Promise<boolean>;
  run<N extends OperationName>(
    operation: N,
    request: Operations[N]["asks"],
    progress?: (progress: Progress) => void,
  ): Promise<Answer<Operations[N]["gives"]>>;
}
