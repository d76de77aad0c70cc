import type { BenchItem, PartResult, StepReport, StepResult } from "@/core/build";
import { measure } from "@/core/check";
import {
  allEdgeFacts,
  allFaceFacts,
  boxOf,
  diagonal,
  edgeNeighbourhoods,
  innerPoint,
  inSpace,
  MeshStore,
  type Shape,
  surfaceCentre,
  verticesOf,
  viewDeflection,
} from "@/core/kernel";
import { type Body, isBody, type SketchItem, topologyNames } from "@/core/naming";
import { curvesOf, filledRegions, type Profile, polyline, profileOf } from "@/core/sketch";
import type { BodyView, ItemView, PieceView, RegionView, SketchView, ViewMesh } from "./contract";

/** What is on the bench, as the page draws it: measures and names kept with their results, meshes only where they are asked for. */
export class Views {
  private readonly meshes = new MeshStore();
  private readonly parts = new WeakMap<StepResult, Map<string, PartsView>>();

  /** An item of a part that was built. @param known the meshes that the asker has. */
  item(entry: BenchItem, { results, steps }: PartResult, known: ReadonlySet<string>): ItemView {
    const made = (report: StepReport) => report.key === entry.key && report.made.includes(entry.item.id);
    const step = steps.find(made)?.id ?? "";
    if (isBody(entry.item))
      return {
        ...this.body(results.get(entry.key)!, entry.item.id, entry.name, step, known),
        was: entry.was,
        lacks: entry.lacks,
      };
    if (entry.item.kind === "sketch") return sketchView(entry.item, entry.name, step);
    const { kind, id, origin, normal } = entry.item;
    return { kind, id, origin, normal, name: entry.name, step };
  }

  private body(
    result: StepResult,
    id: string,
    name: string,
    step: string,
    known: ReadonlySet<string>,
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

  piece({ piece, shape, fate, decided, preset }: NonNullable<PartResult["pieces"]>[number]): PieceView {
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
