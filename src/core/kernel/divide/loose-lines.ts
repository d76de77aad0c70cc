import { contains, distanceToPoint, normalNear } from "../facts/distance";
import { edgeEnds } from "../facts/edge-ahead";
import { lib } from "../library/library";
import { scoped } from "../library/scope";
import { asEdge, type Shape, shapeKind } from "../library/topology";
import { add, cross, distance, length, scale, unit, type Vec3 } from "../space/vectors";
import type { Fusion } from "./general-fuse";

/** A line that a solid's skin leaves within a face of a sheet without parting it. */
interface LooseLine {
  edge: number;
  face: number;
  /** The solid, by place. */
  by: number;
}

/**
 * Lines that solids leave in sheets which are divided. Where a solid only touches a sheet they are right; where it goes through,
 * what lies in it and what does not are parted: its skin has no end.
 * @param divided how many of the arguments, from the first, are what is divided.
 */
export function looseLines(args: readonly Shape[], fusion: Fusion, divided: number): LooseLine[] {
  const { images, faceEdges } = fusion;
  const lines = args
    .slice(0, divided)
    .flatMap((arg, a) =>
      shapeKind(arg) === "solid"
        ? []
        : images[a]!.flat().flatMap(({ face }) =>
            faceEdges(face).flatMap(({ edge, loose }) => (loose ? [{ edge, face }] : [])),
          ),
    );
  if (lines.length === 0) return [];
  const skins = args.map((arg, a) => (shapeKind(arg) === "solid" ? images[a]!.flat().map(({ face }) => face) : []));
  return lines.flatMap(({ edge, face }) =>
    skins.flatMap((skin, by) =>
      !skin.includes(face) && skin.some((other) => faceEdges(other).some((use) => use.edge === edge))
        ? [{ edge, face, by }]
        : [],
    ),
  );
}

/** mm: a line that is longer than this was meant to end where it does. */
const STUB = 0.05;

/**
 * The longest of the short ones, mm; 0 where there is none. Where skins nearly coincide, so do the lines where they begin to go
 * round, and the library has been seen to cross a sheet along the one and to end the cut at the other, a thousandth of a
 * millimetre beside it.
 */
export function longestStub(lines: readonly LooseLine[], fusion: Fusion): number {
  const lengths = lines.map(({ edge }) => spanOf(fusion.edgeHandle(edge))).filter((span) => span <= STUB);
  return Math.max(0, ...lengths);
}

const spanOf = (edge: Shape): number => {
  const [from, to] = edgeEnds(edge);
  return from && to ? distance(from.at, to.at) : 0;
};

/** A place on a line that has its solid's inside on one side of it and its outside on the other: it ought to part the face. */
export function unparted(args: readonly Shape[], lines: readonly LooseLine[], fusion: Fusion): Vec3 | null {
  for (const { edge, face, by } of lines) {
    const beside = placesBeside(fusion.faceHandle(face), fusion.edgeHandle(edge));
    if (!beside) continue;
    const [one, other] = beside.sides.map((at) => contains(args[by]!, at));
    if (one !== other) return beside.at;
  }
  return null;
}

/** How far beside a line, as a part of its length and at most, mm, it is looked. */
const ASIDE = 0.02;
const FAR_ASIDE = 0.5;

/** The middle of a line in a face, and a place in the face on each side of it; null for a line too short to tell. */
function placesBeside(face: Shape, edge: Shape): { at: Vec3; sides: [Vec3, Vec3] } | null {
  return scoped((scope) => {
    const oc = lib();
    const curve = scope.use(new oc.BRepAdaptor_Curve(asEdge(scope, edge)));
    const [first, last] = [curve.FirstParameter(), curve.LastParameter()];
    const p = scope.use(new oc.gp_Pnt());
    const t = scope.use(new oc.gp_Vec());
    curve.D1((first + last) / 2, p, t);
    const at: Vec3 = [p.X(), p.Y(), p.Z()];
    const along: Vec3 = [t.X(), t.Y(), t.Z()];
    const run = length(along) * (last - first);
    if (!(run > STUB)) return null;
    const aside = scale(unit(cross(normalNear(face, at), unit(along))), Math.min(FAR_ASIDE, ASIDE * run));
    const onFace = (place: Vec3) => distanceToPoint(face, place)?.on2 ?? place;
    return { at, sides: [onFace(add(at, aside)), onFace(add(at, scale(aside, -1)))] };
  });
}
