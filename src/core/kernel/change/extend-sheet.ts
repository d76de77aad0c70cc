import { fuse } from "../divide/fuse";
import { distanceToPoint } from "../facts/distance";
import { areaOf } from "../facts/mass";
import { openPlaces, readPoint } from "../facts/measure";
import { adjacency } from "../facts/neighbourhoods";
import { pointOnFace } from "../facts/on-face";
import { KernelFault } from "../library/faults";
import { makeSegment } from "../library/geometry";
import { incidenceOf } from "../library/incidence";
import { lib } from "../library/library";
import { type Scope, scoped } from "../library/scope";
import { asEdge, occurrences, ownHandle, type Shape, ShapeMap, shellOf, subshapes } from "../library/topology";
import type { MadeSheet } from "../make/sheet";
import { triangulate } from "../mesh/tessellate";
import { add, scale, sub, unit } from "../space/vectors";
import { extendFace } from "./extend-face";

/**
 * Extends a sheet past all its open edges by at least `by` mm, each face along its own surface: planes stay planes,
 * cylinders grow along their axis. Neighbouring faces are trimmed where they meet. Holes in a face are closed.
 * @throws KernelFault when the faces do not meet again once extended.
 */
export function extendSheet(sheet: MadeSheet, by: number): MadeSheet {
  if (by === 0) return { shape: ownHandle(sheet.shape), sources: sheet.sources };
  return scoped((scope) => {
    const faces = subshapes(scope, sheet.shape, "face");
    const { neighbours } = adjacency(sheet.shape);
    const { edges } = incidenceOf(sheet.shape);
    const open = new Set(openPlaces(sheet.shape).map((edge) => edges[edge]!.faces[0]!));
    const larger = faces.map((face, i) => (open.has(i) ? extendFace(scope, face, by) : face));
    if (faces.length === 1) return { shape: shellOf(larger), sources: sheet.sources };

    const reach = 4 * (by + boxReach(sheet.shape));
    const trimmed = larger.map((face, i) => {
      if (!open.has(i)) return face;
      const knives = neighbours[i]!.flatMap((n) => knivesBetween(scope, faces[i]!, faces[n]!, larger[n]!, reach));
      return knives.length === 0 ? face : trimTo(scope, face, knives, faces[i]!);
    });
    const sewing = scope.use(new (lib().BRepBuilderAPI_Sewing)(1e-5, true, true, true, false));
    for (const face of trimmed) sewing.Add(face);
    sewing.Perform(scope.use(new (lib().Message_ProgressRange)()));
    const sewn = scope.use(sewing.SewedShape());
    const shells = subshapes(scope, sewn, "shell");
    const area = areaOf(sheet.shape);
    if (
      shells.length !== 1 ||
      areaOf(sewn) < area * (1 - 1e-9) ||
      subshapes(scope, sewn, "face").length !== faces.length
    )
      throw new KernelFault(
        "These faces do not meet again once extended. Offset fewer faces, or extend them one at a time.",
        false,
      );
    const place = new ShapeMap<number>();
    trimmed.forEach((face, i) => {
      place.set(scope.use(sewing.ModifiedSubShape(face)), i);
    });
    const result = ownHandle(shells[0]!);
    return { shape: result, sources: subshapes(scope, result, "face").map((f) => sheet.sources[place.get(f) ?? 0]!) };
  });
}

function boxReach(shape: Shape): number {
  const mesh = triangulate(shape, [], { linear: 1, angular: 1 });
  let low = Number.POSITIVE_INFINITY;
  let high = Number.NEGATIVE_INFINITY;
  for (const value of mesh.positions) {
    low = Math.min(low, value);
    high = Math.max(high, value);
  }
  return high - low;
}

/** What trims a face along the edges that it shares with a neighbour: the whole line or circle, else the neighbour. */
function knivesBetween(scope: Scope, face: Shape, other: Shape, largerOther: Shape, reach: number): Shape[] {
  const oc = lib();
  const shared = new ShapeMap<true>();
  for (const edge of occurrences(scope, other, "edge")) shared.set(edge, true);
  return occurrences(scope, face, "edge")
    .filter((edge) => shared.get(edge))
    .map((edge) => {
      const curve = scope.use(new oc.BRepAdaptor_Curve(asEdge(scope, edge)));
      const kind = curve.GetType() as string;
      if (kind === "GeomAbs_Line") {
        const a = readPoint(scope, curve.Value(curve.FirstParameter()));
        const b = readPoint(scope, curve.Value(curve.LastParameter()));
        const along = scale(unit(sub(b, a)), reach);
        return scope.use(makeSegment(sub(a, along), add(b, along)));
      }
      if (kind === "GeomAbs_Circle")
        return scope.use(scope.use(new oc.BRepBuilderAPI_MakeEdge(scope.use(curve.Circle()))).Edge());
      return largerOther;
    });
}

/** Divides a face by edges and faces and gives back the part that holds the middle of the original. */
function trimTo(scope: Scope, face: Shape, knives: Shape[], original: Shape): Shape {
  const middle = pointOnFace(original);
  const fusion = fuse([face, ...knives]);
  try {
    const images = fusion.images[0]![0]!;
    let best: { shape: Shape; gap: number } | null = null;
    for (const { face: number } of images) {
      const shape = fusion.faceHandle(number);
      const gap = distanceToPoint(shape, middle)?.gap ?? Number.POSITIVE_INFINITY;
      if (!best || gap < best.gap) best = { shape, gap };
    }
    if (!best) throw new KernelFault("A face of the sheet was lost while it was extended.", false);
    return scope.use(ownHandle(best.shape));
  } finally {
    fusion.free();
  }
}
