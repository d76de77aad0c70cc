import type { StepReport } from "@/core/build";
import type { BetweenMeasures, Measures, ThingMeasures } from "@/core/check";
import type { Inspection } from "@/core/exchange";
import type { Job } from "@/core/job";
import type { EdgeFacts, FaceFacts, Mesh, PlaneFrame, Vec3 } from "@/core/kernel";
import type { Piece, PresetFate, Side } from "@/core/seam";
import type { Entity } from "@/core/sketch";

/** What the core's host is asked for. Plain values both ways: the contract crosses threads. */
export interface EvaluateRequest {
  job: Job;
  part: string;
  /** Build up to and including this step, as while it is edited. */
  upTo?: string;
  /** The step whose pieces are wanted. */
  pieces?: string;
  /** Meshes that the asker has already, by mesh id; they are not sent again. */
  known: string[];
  /** Keys of step results that an earlier run stored; fetched before anything is computed. */
  storedKeys?: string[];
  /** The job's files, by the hash of their bytes, where the engine cannot fetch them. */
  files?: Record<string, Uint8Array>;
}

/** A mesh with its seam lines: 1 for each edge where faces of different steps meet. */
export interface ViewMesh extends Mesh {
  seams: Uint8Array;
}

export interface FaceView extends FaceFacts {
  name: string;
}

/** An edge, by the place that its line has in the mesh; null where an edge has no length. */
export interface EdgeView extends EdgeFacts {
  name: string;
}

export interface CornerView {
  name: string;
  at: Vec3;
}

export interface BodyView {
  kind: "solid" | "sheet";
  id: string;
  /** The ids that it had before it was changed. */
  was: string[];
  /** Steps that should have changed it, or what it was made of, and were not done: by id. */
  lacks: string[];
  name: string;
  /** The step that made it. */
  step: string;
  /** Identifies the mesh: equal ids, equal meshes. */
  meshId: string;
  /** Absent when the asker has it. */
  mesh?: ViewMesh;
  measures: Measures;
  faces: FaceView[];
  edges: (EdgeView | null)[];
  corners: CornerView[];
}

export interface PlaneView {
  kind: "workplane";
  id: string;
  name: string;
  step: string;
  origin: Vec3;
  normal: Vec3;
}

export interface SketchView {
  kind: "sketch";
  id: string;
  name: string;
  step: string;
  frame: PlaneFrame;
  /** What bodies give to draw by. */
  given: Entity[];
  /** Its curves as segments in space, xyz pairs: within a hundredth of what can be seen. */
  lines: number[];
  curves: number;
  /** Its straight lines, by id: to turn it about. */
  straight: string[];
  regions: RegionView[];
}

/** A closed region of a sketch, to be picked. */
export interface RegionView {
  /** The curves round it, with the side of each that it lies on. */
  key: string;
  /** A point inside it, in the sketch's plane. */
  inner: [number, number];
  /** mm² */
  area: number;
  /** Whether it is drawn out when none are chosen: it is no hole. */
  filled: boolean;
  /** Its outline and its holes as chains of places in the sketch's plane. */
  rings: [number, number][][];
}

export type ItemView = BodyView | PlaneView | SketchView;

export function isBodyView(item: ItemView): item is BodyView {
  return item.kind === "solid" || item.kind === "sheet";
}

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
  fate: PresetFate;
  /** Whether a decision gave it its fate. */
  decided: boolean;
  preset: PresetFate;
  measures: Measures;
  inner: Vec3 | null;
  /** Centre of its skin: how a step remembers its place. */
  centre: Vec3;
  mesh: ViewMesh;
}

export interface Evaluation {
  steps: StepReport[];
  items: ItemView[];
  /** The items as they were before the step that is edited: what it can pick from. */
  before?: ItemView[];
  pieces?: PieceView[];
}

export interface ReleaseRequest {
  job: Job;
  part: string;
  /** Items to write, by id. */
  bodies: string[];
  /** The id of a format (`BODY_FORMATS`). */
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

export interface EngineConfig {
  /** Browser: where the kernel's module and WebAssembly file lie. */
  kernel?: { module: string; wasm: string };
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
  evaluate: { asks: EvaluateRequest; gives: Evaluation };
  release: { asks: ReleaseRequest; gives: Uint8Array };
  /** Measures of one thing, or of two and how they lie to each other: exact. */
  measure: { asks: MeasureRequest; gives: Measurement };
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
