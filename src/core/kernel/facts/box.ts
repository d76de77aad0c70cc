import type { Bnd_Box } from "replicad-opencascadejs";
import { type Conic, conicTerms, type FaceStructure, furthestParameters, isConic, type SurfaceFrame } from "../binary";
import { identityOf, perShape } from "../library/identity";
import { edgeHandles, incidenceOf } from "../library/incidence";
import { lib } from "../library/library";
import { type Scope, scoped } from "../library/scope";
import { compound, facesOf, type Shape } from "../library/topology";
import { add, type Box, sub, type Vec3 } from "../space/vectors";
import { readPoint } from "./measure";
import { type ParameterRange, parameterRange } from "./parameter-range";

/** The tight box of a shape, millimetres; null for a shape without geometry. */
export const boxOf = perShape(tightBox);

/**
 * Planes, cylinders and cones reach no further than their edges, since a straight line runs through each of their
 * points; how far a ball, a ring, a line or a conic reaches is a closed form. The library is asked about
 * the rest.
 */
function tightBox(shape: Shape): Box | null {
  const { faces, edges, vertices } = incidenceOf(shape);
  const rest: Shape[] = [];
  const points: Vec3[] = vertices.map(({ at }) => at);
  faces.forEach((face, place) => {
    const reach = furthestOn(face);
    if (reach) points.push(...reach);
    else rest.push(facesOf(shape)[place]!);
  });
  edges.forEach(({ curve: run }, place) => {
    if (!run) return;
    if (isConic(run.curve)) points.push(...furthest(run.curve, run.from, run.to));
    else if (run.curve.kind !== "line") rest.push(edgeHandles(shape)[place]!);
  });
  if (rest.length === 0) return around(points);
  return scoped((scope) => {
    const box = optimal(scope, faces.length === 0 ? shape : scope.use(compound(rest)));
    return around(box ? [...points, box.min, box.max] : points);
  });
}

function around(points: readonly Vec3[]): Box | null {
  if (points.length === 0) return null;
  const ends = (pick: (...values: number[]) => number) =>
    [0, 1, 2].map((i) => points.reduce((end, point) => pick(end, point[i]!), points[0]![i]!)) as unknown as Vec3;
  return { min: ends(Math.min), max: ends(Math.max) };
}

/** The points of part of a conic that are furthest along each axis; its ends are vertices. */
function furthest(curve: Conic, from: number, to: number): Vec3[] {
  const { at, x, y } = curve;
  const found: Vec3[] = [];
  for (let i = 0; i < 3; i++)
    for (const t of furthestParameters(curve, x[i]!, y[i]!)) {
      const within = "major" in curve ? inRange(t, [from, to]) : t > from && t < to ? t : null;
      if (within === null) continue;
      const terms = conicTerms(curve, within);
      found.push([0, 1, 2].map((k) => at[k]! + terms.x[0] * x[k]! + terms.y[0] * y[k]!) as unknown as Vec3);
    }
  return found;
}

/**
 * The points inside a face that may be furthest along an axis: where its normal runs along one.
 * @returns null when that is not known here.
 */
function furthestOn(face: FaceStructure): Vec3[] | null {
  const { surface } = face;
  switch (surface?.kind) {
    case "plane":
    case "cylinder":
    case "cone":
      return [];
    case "sphere":
    case "torus": {
      const range = parameterRange(face);
      const [major, minor] = surface.kind === "torus" ? [surface.major, surface.minor] : [0, surface.radius];
      return range && furthestRound(surface, major, minor, range);
    }
    default:
      return null;
  }
}

/** The points of part of a ball or ring where its normal runs along an axis of space, either way. */
function furthestRound(
  { at, axis, x, y }: SurfaceFrame,
  major: number,
  minor: number,
  { u, v }: ParameterRange,
): Vec3[] {
  const found: Vec3[] = [];
  for (let i = 0; i < 3; i++) {
    const across = Math.hypot(x[i]!, y[i]!);
    for (const heading of [1, -1])
      for (const side of [1, -1]) {
        // The normal leaves the axis as far as `across` allows, on one side of it or the other.
        const around = across < 1e-12 ? u[0] : inRange(Math.atan2(side * heading * y[i]!, side * heading * x[i]!), u);
        const tilt = inRange(Math.atan2(heading * axis[i]!, side * across), v);
        if (around === null || tilt === null) continue;
        const [out, up] = [major + minor * Math.cos(tilt), minor * Math.sin(tilt)];
        const [c, s] = [out * Math.cos(around), out * Math.sin(around)];
        found.push([0, 1, 2].map((k) => at[k]! + c * x[k]! + s * y[k]! + up * axis[k]!) as unknown as Vec3);
      }
  }
  return found;
}

/** An angle with so many whole turns added that it lies in a range; null when there is none. */
function inRange(angle: number, [from, to]: readonly [number, number]): number | null {
  const found = from + ((((angle - from) % TURN) + TURN) % TURN);
  return found <= to ? found : null;
}

const TURN = 2 * Math.PI;

function optimal(scope: Scope, shape: Shape): Box | null {
  const box = scope.use(new (lib().Bnd_Box)());
  lib().BRepBndLib.AddOptimal(shape, box, false, false);
  return readBox(scope, box);
}

function readBox(scope: Scope, box: Bnd_Box): Box | null {
  return box.IsVoid() ? null : { min: readPoint(scope, box.CornerMin()), max: readPoint(scope, box.CornerMax()) };
}

const looseBoxes = new WeakMap<object, Box | null>();

/** Notes a box that surely holds a shape just made, so that nobody has to ask the library for it. */
export function rememberBox(shape: Shape, middle: Vec3, reach: number): void {
  const away: Vec3 = [reach, reach, reach];
  looseBoxes.set(identityOf(shape), { min: sub(middle, away), max: add(middle, away) });
}

/** A box that surely holds a shape, a little larger than need be: for sizing cutters, at a fraction of the cost. */
export function looseBoxOf(shape: Shape): Box | null {
  let known = looseBoxes.get(identityOf(shape));
  if (known === undefined) {
    known = scoped((scope) => {
      const box = scope.use(new (lib().Bnd_Box)());
      lib().BRepBndLib.Add(shape, box, false);
      return readBox(scope, box);
    });
    looseBoxes.set(identityOf(shape), known);
  }
  return known;
}
