import {
  type BenchItem,
  evaluatePart,
  freePieces,
  fromStored,
  type PartResult,
  pack,
  ResultCache,
  type StepReport,
  type StepResult,
  type StoredResult,
  toStored,
  unpack,
  WARM_ROUNDS,
  warmUp,
  warnOfPinches,
} from "@/core/build";
import { measure, measureBetween, measureThing, type Thing } from "@/core/check";
import { SeamError } from "@/core/errors";
import { type Inspection, inspectStep, outBodies, writeBodies } from "@/core/exchange";
import { hashBytes } from "@/core/hash";
import type { Job, Part } from "@/core/job";
import {
  allEdgeFacts,
  allFaceFacts,
  boxOf,
  diagonal,
  edgeNeighbourhoods,
  innerPoint,
  inSpace,
  KernelFault,
  kernelHeapBytes,
  kernelTrusted,
  MeshStore,
  type Shape,
  surfaceCentre,
  verticesOf,
  viewDeflection,
} from "@/core/kernel";
import { type Body, isBody, type SketchItem, topologyNames } from "@/core/naming";
import { curvesOf, filledRegions, type Profile, polyline, profileOf } from "@/core/sketch";
import {
  type BodyView,
  type EngineApi,
  type EngineConfig,
  type EngineFault,
  type EvaluateRequest,
  type Evaluation,
  type ItemView,
  isBodyView,
  type Measurement,
  type MeasureRequest,
  type PieceView,
  type Progress,
  type RegionView,
  type ReleaseRequest,
  type SketchView,
  type Target,
  type ViewMesh,
} from "./contract";

/** Tells how far a build is: after each step, and what a step is at while it takes its time. */
function telling(progress: (progress: Progress) => void, { steps }: Part) {
  let done = 0;
  return {
    onStep: (report: StepReport, now: number, total: number) => {
      done = now;
      progress({ done, total, step: report.id });
    },
    onStage: (step: string, stage: string) => progress({ done, total: steps.length, step, stage }),
  };
}

/** What a host brings along: how to load the kernel and how to fetch bytes. */
export interface Surroundings {
  load(config: EngineConfig): Promise<void>;
  /** The bytes at an address; null when there are none. */
  fetch(url: string): Promise<Uint8Array | null>;
  store(url: string, bytes: Uint8Array): Promise<void>;
}

/** A step that took longer than this is worth storing, ms. */
const WORTH_STORING = 120;

/** The core behind the contract. Browser and Node workers expose one each. */
export class EngineSession implements EngineApi {
  private config: EngineConfig = {};
  private readonly cache = new ResultCache();
  private readonly meshes = new MeshStore();
  private readonly files = new Map<string, Uint8Array>();
  private readonly warming = warmUp(WARM_ROUNDS);
  private readonly parts = new WeakMap<StepResult, Map<string, PartsView>>();

  constructor(private readonly surroundings: Surroundings) {}

  async start(config: EngineConfig): Promise<void> {
    this.config = config;
    await this.guard(() => this.surroundings.load(config));
  }

  warm(): Promise<boolean> {
    return this.guard(async () => !this.warming.next().done);
  }

  evaluate(request: EvaluateRequest, progress?: (progress: Progress) => void): Promise<Evaluation> {
    return this.guard(async () => {
      const result = await this.build(request, progress);
      const known = new Set(request.known);
      const view = (entry: BenchItem): ItemView => {
        const made = (report: StepReport) => report.key === entry.key && report.made.includes(entry.item.id);
        const step = result.steps.find(made)?.id ?? "";
        if (isBody(entry.item))
          return {
            ...this.bodyView(result.results.get(entry.key)!, entry.item.id, entry.name, step, known),
            was: entry.was,
            lacks: entry.lacks,
          };
        if (entry.item.kind === "sketch") return sketchView(entry.item, entry.name, step);
        const { kind, id, origin, normal } = entry.item;
        return { kind, id, origin, normal, name: entry.name, step };
      };
      const items = result.bench.map(view);
      for (const item of items) if (isBodyView(item)) known.add(item.meshId);
      const before = result.before?.map(view);
      const pieces = result.pieces?.map((piece) => this.pieceView(piece));
      if (result.pieces) freePieces(result.pieces);
      this.cache.trim(new Set(result.results.keys()));
      this.storeSlow(result);
      return {
        steps: warnOfPinches(result.steps, items.filter(isBodyView)),
        items,
        heapBytes: kernelHeapBytes(),
        ...(before ? { before } : {}),
        ...(pieces ? { pieces } : {}),
      };
    });
  }

  release({ job, part, bodies, format, tolerance }: ReleaseRequest): Promise<Uint8Array> {
    return this.guard(async () => {
      const { bench } = await this.build({ job, part, known: [] });
      const wanted = bench.filter((entry) => bodies.includes(entry.item.id));
      const own = job.parts.find((candidate) => candidate.id === part)!;
      return writeBodies(format, outBodies(own, wanted), { title: own.name, tolerance });
    });
  }

  measure({ job, part, first, second }: MeasureRequest): Promise<Measurement> {
    return this.guard(async () => {
      const { bench } = await this.build({ job, part, known: [] });
      const find = (target: Target): Thing => thingOf(bench, target);
      const one = find(first);
      if (!second) return { first: measureThing(one) };
      const two = find(second);
      return { first: measureThing(one), second: measureThing(two), between: measureBetween(one, two) };
    });
  }

  inspect(name: string, bytes: Uint8Array): Promise<Inspection> {
    return this.guard(async () => inspectStep(bytes, name));
  }

  private async build(request: EvaluateRequest, progress?: (progress: Progress) => void): Promise<PartResult> {
    const { job, upTo, pieces } = request;
    const part = job.parts.find((candidate) => candidate.id === request.part);
    if (!part) throw new SeamError({ code: "part-missing", message: "That part is no longer in the job." });
    await this.fetchFiles(job, request.files);
    const stored = await this.fetchStored(request.storedKeys ?? []);
    return evaluatePart(job, part, {
      cache: this.cache,
      file: (id) => this.files.get(job.files.find((file) => file.id === id)?.sha256 ?? ""),
      stored: (key) => {
        const found = stored.get(key);
        return found ? fromStored(found) : undefined;
      },
      ...(upTo ? { upTo } : {}),
      ...(pieces ? { pieces } : {}),
      ...(progress ? telling(progress, part) : {}),
    });
  }

  private async fetchFiles(job: Job, given: EvaluateRequest["files"] = {}): Promise<void> {
    for (const file of job.files) {
      // A file whose contents stand in the job is known by them, too.
      const own = file.text === undefined ? undefined : new TextEncoder().encode(file.text);
      if (own) file.sha256 ??= hashBytes(own);
      const { sha256 } = file;
      if (!sha256 || this.files.has(sha256)) continue;
      const bytes = own ?? given[sha256] ?? (await this.fetched(this.config.files, sha256));
      if (bytes) this.files.set(sha256, bytes);
    }
  }

  private async fetchStored(keys: readonly string[]): Promise<Map<string, StoredResult>> {
    const stored = new Map<string, StoredResult>();
    await Promise.all(
      keys
        .filter((key) => !this.cache.get(key))
        .map(async (key) => {
          const bytes = await this.fetched(this.config.geometry, key);
          if (!bytes) return;
          try {
            stored.set(key, unpack(bytes) as StoredResult);
          } catch {
            // What was stored cannot be read: it is computed again.
          }
        }),
    );
    return stored;
  }

  private async fetched(base: string | undefined, key: string): Promise<Uint8Array | null> {
    return base ? this.surroundings.fetch(base + key) : null;
  }

  /** Stores what took long, for the next time; failing to is no loss. */
  private storeSlow(result: PartResult): void {
    const { geometry } = this.config;
    if (!geometry) return;
    for (const report of result.steps) {
      const made = report.key && report.ms > WORTH_STORING ? result.results.get(report.key) : undefined;
      if (made) this.surroundings.store(geometry + made.key, pack(toStored(made))).catch(() => {});
    }
  }

  private bodyView(
    result: StepResult,
    id: string,
    name: string,
    step: string,
    known: Set<string>,
  ): Omit<BodyView, "was" | "lacks"> {
    const item = result.made.find((candidate) => candidate.id === id);
    if (!item || !isBody(item)) throw new Error(`No body ${id} in its result.`);
    const extras = result.extras.get(id) ?? {};
    result.extras.set(id, extras);
    extras.measures ??= measure(item.shape, item.kind);
    const meshId = `${result.key}/${id}`;
    if (!known.has(meshId)) extras.mesh ??= this.meshFor(item.shape, item.faces);
    const parts = this.parts.get(result) ?? new Map<string, PartsView>();
    this.parts.set(result, parts);
    if (!parts.has(id)) parts.set(id, partsView(item));
    return {
      kind: item.kind,
      id,
      name,
      step,
      meshId,
      measures: extras.measures,
      ...parts.get(id)!,
      ...(known.has(meshId) ? {} : { mesh: extras.mesh! }),
    };
  }

  private pieceView({ piece, shape, fate, decided, preset }: NonNullable<PartResult["pieces"]>[number]): PieceView {
    return {
      ...piece,
      fate,
      decided,
      preset,
      measures: measure(shape, piece.form),
      inner: innerPoint(shape),
      centre: surfaceCentre(shape),
      mesh: this.meshFor(shape, piece.faces),
    };
  }

  /** A mesh to look at, with the edges marked where faces of different steps meet: the seam lines. */
  private meshFor(shape: Shape, faces: readonly string[]): ViewMesh {
    const box = boxOf(shape);
    const mesh = this.meshes.mesh(shape, viewDeflection(box ? diagonal(box) : 1));
    const seams = edgeNeighbourhoods(shape).edges.map(
      (edge) => new Set(edge?.faces.map((face) => originOf(faces[face]!))).size > 1,
    );
    return { ...mesh, seams: Uint8Array.from(seams, Number) };
  }

  private async guard<T>(work: () => Promise<T>): Promise<T> {
    try {
      return await work();
    } catch (cause) {
      throw asEngineFault(cause);
    }
  }
}

/** What a target names. @throws SeamError when it is there no longer. */
function thingOf(bench: readonly BenchItem[], { body: id, part }: Target): Thing {
  const item = bench.find((entry) => entry.item.id === id)?.item;
  const gone = () =>
    new SeamError({ code: "measured-gone", message: "What was measured is there no longer. Pick again." });
  if (!item || !isBody(item)) throw gone();
  if (!part) return { body: item };
  const names = topologyNames(item.shape, item.faces);
  const list = { face: item.faces, edge: names.edges, corner: names.vertices }[part.kind];
  const place = list.indexOf(part.name);
  if (place < 0) throw gone();
  return { body: item, part: { kind: part.kind, place } };
}

function sketchView({ kind, id, frame, entities, given }: SketchItem, name: string, step: string): SketchView {
  const curves = curvesOf(entities, true);
  const lines = curves.flatMap((curve) =>
    polyline(
      { curve, from: 0, to: 1, stretch: 0, forwards: true },
      curve.shape.kind === "line" ? 1 : curve.entity === curve.id ? 96 : 8,
    ).flatMap((ends) => ends.flatMap((end) => [...inSpace(frame, end)])),
  );
  return {
    kind,
    id,
    name,
    step,
    frame,
    given,
    lines,
    curves: curves.length,
    straight: entities.filter(({ type }) => type === "line").map((line) => line.id),
    regions: regionViews(profileOf(entities)),
  };
}

function regionViews(profile: Profile): RegionView[] {
  const filled = new Set(filledRegions(profile));
  return profile.regions.map((region) => ({
    key: region.key,
    inner: [...region.inner],
    area: region.area,
    filled: filled.has(region),
    rings: [region.outline, ...region.holes].map((parts) =>
      parts.flatMap((part) => polyline(part).map(([from]): [number, number] => [...from])),
    ),
  }));
}

type PartsView = Pick<BodyView, "faces" | "edges" | "corners">;

/** The faces, edges and corners of a body with their names: what can be picked. */
function partsView({ shape, faces }: Body): PartsView {
  const names = topologyNames(shape, faces);
  const corners = verticesOf(shape);
  return {
    faces: allFaceFacts(shape).map((facts, f) => ({ ...facts, name: faces[f]! })),
    edges: allEdgeFacts(shape).map((facts, e) => (facts ? { ...facts, name: names.edges[e]! } : null)),
    corners: names.vertices.map((name, v) => ({ name, at: corners[v]! })),
  };
}

/** The step that a face comes from. */
function originOf(face: string): string {
  return face.split(":")[0]!;
}

/** Comlink carries an Error's name, message and stack; the rest rides in the message as JSON. */
export function asEngineFault(cause: unknown): Error {
  const fault: EngineFault =
    cause instanceof SeamError
      ? { code: cause.trouble.code, message: cause.message, fatal: !kernelTrusted() }
      : cause instanceof KernelFault
        ? { code: "kernel", message: "The geometry could not be computed.", fatal: cause.fatal }
        : { code: "engine", message: cause instanceof Error ? cause.message : String(cause), fatal: true };
  const error = new Error(JSON.stringify(fault));
  error.name = "EngineFault";
  return error;
}

export function readEngineFault(cause: unknown): EngineFault {
  if (cause instanceof Error && cause.name === "EngineFault") {
    try {
      return JSON.parse(cause.message) as EngineFault;
    } catch {
      // Not one of ours after all.
    }
  }
  return { code: "engine", message: cause instanceof Error ? cause.message : String(cause), fatal: true };
}
