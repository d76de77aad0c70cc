import { Groups } from "../../groups";
import { SAME_PLACE } from "../../tolerance";
import { fuseOnce } from "../divide/general-fuse";
import { distanceToPoint } from "../facts/distance";
import { faceIntegrals } from "../facts/integrals";
import { areaOf } from "../facts/mass";
import { edgePoint, isValid, openPlaces } from "../facts/measure";
import { edgeHandles, incidenceOf } from "../library/incidence";
import { lib } from "../library/library";
import { type Scope, scoped } from "../library/scope";
import { asFace, compound, facesOf, ownHandle, type Shape, shapeKind, subshapes } from "../library/topology";
import { sheetFromFaces } from "../make/sheet";

/** What closes an opening: a face, and what it closes – the face that the opening is in, or the open edges round it. */
export interface Covers {
  /** One face for each opening, looking where the skin about it looks. It belongs to the caller. */
  shape: Shape;
  /** By face of it: the faces of the body (by place) about the opening; the first is the one that it lies on, where it lies on one. */
  about: number[][];
}

/**
 * The openings in a body's skin, each closed. Of a solid: every rim inside a face, closed along that face's own surface – the end of
 * a bore, the mouth of a pocket or of a neck; what stands on a face has such a rim, too, and its cover lies within the solid. Of a
 * sheet: every flat ring of open edges.
 * @returns null where there is none.
 */
export function coversOf(body: Shape): Covers | null {
  return scoped((scope) => {
    const found = shapeKind(body) === "solid" ? overRims(scope, body) : overRings(scope, body);
    if (found.length === 0) return null;
    return { shape: compound(found.map(({ face }) => face)), about: found.map(({ about }) => about) };
  });
}

interface Cover {
  face: Shape;
  about: number[];
}

function overRims(scope: Scope, body: Shape): Cover[] {
  const { faces } = incidenceOf(body);
  return facesOf(body).flatMap((_, place) => {
    const uses = faces[place]!.wires.flat().map(({ edge }) => edge);
    // A rim may run over the line where a round face meets itself: it is no wire of its own then.
    return new Set(uses).size < uses.length ? onRound(scope, body, place) : inWires(scope, body, place);
  });
}

/** What each inner rim of a face leaves open, on the face's surface. */
function inWires(scope: Scope, body: Shape, place: number): Cover[] {
  const oc = lib();
  const { faces, edges } = incidenceOf(body);
  const { wires, forward } = faces[place]!;
  if (wires.length < 2) return [];
  const plain = asFace(scope, scope.use(facesOf(body)[place]!.Oriented("TopAbs_FORWARD" as never)));
  const builder = scope.use(new oc.TopoDS_Builder());
  return subshapes(scope, plain, "wire").flatMap((wire, w): Cover[] => {
    // With the rim run through the other way the surface within it is a face; with the outer edge it would be less than nothing.
    const cover = asFace(scope, scope.use(plain.EmptyCopied()));
    builder.Add(cover, scope.use(wire.Reversed()));
    if (!faceIntegrals(incidenceOf(cover), 0) || !isValid(cover)) return [];
    const beside = wires[w]!.flatMap(({ edge }) => edges[edge]!.faces.filter((other) => other !== place));
    return [{ face: forward ? cover : scope.use(cover.Reversed()), about: [place, ...new Set(beside)] }];
  });
}

/** mm², relative: what a face lacks of its whole surface is more. */
const LACKING = 1e-9;

/** What a face that goes all the way round leaves open of its surface, between its ends: the parts of that which only it bounds. */
function onRound(scope: Scope, body: Shape, place: number): Cover[] {
  const oc = lib();
  const { edges, faces } = incidenceOf(body);
  const face = asFace(scope, facesOf(body)[place]!);
  const { VMin, VMax, UMin, UMax } = oc.BRepTools.UVBounds(face, 0, 0, 0, 0);
  const surface = scope.use(oc.BRep_Tool.Surface(face));
  const maker = scope.use(new oc.BRepBuilderAPI_MakeFace(surface, UMin, UMax, VMin, VMax, 1e-7));
  if (!maker.IsDone()) return [];
  const whole = scope.use(maker.Face());
  const own = scope.use(sheetFromFaces(body, [place]).shape);
  if (areaOf(whole) - areaOf(own) <= LACKING * areaOf(whole)) return [];
  const fusion = fuseOnce([whole, own], 0, false);
  try {
    const taken = new Set(fusion.images[1]!.flat().map(({ face: f }) => f));
    const open = fusion.images[0]!.flat().flatMap(({ face: f }) => (taken.has(f) ? [] : [f]));
    const bounding = new Set([...taken].flatMap((f) => fusion.faceEdges(f).map(({ edge }) => edge)));
    return connected(open, (f) => fusion.faceEdges(f).map(({ edge }) => edge)).flatMap((parts): Cover[] => {
      const uses = parts.flatMap((f) => fusion.faceEdges(f).map(({ edge }) => edge));
      const border = uses.filter((edge, i) => uses.indexOf(edge) === i && uses.lastIndexOf(edge) === i);
      if (!border.every((edge) => bounding.has(edge))) return [];
      const middles = border.map((edge) => edgePoint(scope, fusion.edgeHandle(edge), 0.5));
      const beside = edges.flatMap(({ faces: both }, e) =>
        both.includes(place) &&
        middles.some((at) => (distanceToPoint(edgeHandles(body)[e]!, at)?.gap ?? 1) < SAME_PLACE)
          ? both.filter((other) => other !== place)
          : [],
      );
      return parts.map((f) => {
        const part = scope.use(ownHandle(fusion.faceHandle(f)));
        return { face: faces[place]!.forward ? part : scope.use(part.Reversed()), about: [place, ...new Set(beside)] };
      });
    });
  } finally {
    fusion.free();
  }
}

/** Faces that share edges, together. */
function connected(parts: readonly number[], edgesOf: (face: number) => number[]): number[][] {
  const groups = new Groups(parts.length);
  const first = new Map<number, number>();
  parts.forEach((face, i) => {
    for (const edge of edgesOf(face)) {
      const other = first.get(edge);
      if (other === undefined) first.set(edge, i);
      else groups.join(i, other);
    }
  });
  return groups.all().map((group) => group.map((i) => parts[i]!));
}

function overRings(scope: Scope, sheet: Shape): Cover[] {
  const oc = lib();
  const { edges } = incidenceOf(sheet);
  return rings(sheet).flatMap((ring): Cover[] => {
    const wire = scope.use(new oc.BRepBuilderAPI_MakeWire());
    for (const edge of ring) wire.Add(edgeHandles(sheet)[edge]!);
    if (!wire.IsDone()) return [];
    const maker = scope.use(new oc.BRepBuilderAPI_MakeFace(scope.use(wire.Wire()), true));
    if (!maker.IsDone()) return [];
    const face = scope.use(maker.Face());
    return isValid(face) ? [{ face, about: [...new Set(ring.flatMap((edge) => edges[edge]!.faces))] }] : [];
  });
}

/** The open edges of a sheet as closed rings, each in order; those that run together in a corner of three are left out. */
function rings(sheet: Shape): number[][] {
  const { edges } = incidenceOf(sheet);
  const open = openPlaces(sheet);
  const at = new Map<number, number[]>();
  for (const edge of open)
    for (const vertex of edges[edge]!.vertices) at.set(vertex, [...(at.get(vertex) ?? []), edge]);
  const left = new Set(open);
  const found: number[][] = [];
  for (const first of open) {
    if (!left.delete(first)) continue;
    const ring = [first];
    const [start, end] = edges[first]!.vertices as [number, number];
    let here = end;
    while (here !== start) {
      const next = at.get(here)!.filter((edge) => left.has(edge));
      if (next.length !== 1) break;
      left.delete(next[0]!);
      ring.push(next[0]!);
      const [a, b] = edges[next[0]!]!.vertices as [number, number];
      here = a === here ? b : a;
    }
    if (here === start && ring.length > 0) found.push(ring);
  }
  return found;
}
