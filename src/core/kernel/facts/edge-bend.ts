import { edgeHandles, incidenceOf } from "../library/incidence";
import { facesOf, type Shape } from "../library/topology";
import { add, dot, scale, sub, unit } from "../space/vectors";
import { type Inwards, inwardsFrom } from "./at-edge";
import { normalNear } from "./distance";

/** How two faces of a solid meet along an edge: outwards as at a block's corner, inwards as at a pocket's floor, or without an edge to be seen. */
type Bend = "outwards" | "inwards" | "smooth";

interface Meeting {
  /** The edge, by place. */
  edge: number;
  faces: [number, number];
  bend: Bend;
}

/**
 * How the material bends on the way across an edge: where two faces run on smoothly, as they curve on that way (a rounding of a rim outwards, one of a
 * pocket's floor inwards); "flat" where neither does, or one each way.
 */
type Bow = "outwards" | "inwards" | "flat";

/** Sine of the angle between faces up to which they run on smoothly: 0.08 degrees. */
const SMOOTH = 1.4e-3;

const known = new WeakMap<Shape, Meeting[]>();

/** How the faces of a solid, by place, meet along each edge that two of them share, in its middle. */
export function meetingsOf(shape: Shape): Meeting[] {
  let meetings = known.get(shape);
  if (!meetings) {
    const faces = facesOf(shape);
    const handles = edgeHandles(shape);
    meetings = incidenceOf(shape).edges.flatMap(({ faces: sides, point }, place): Meeting[] => {
      const [one, other] = sides;
      if (point || one === undefined || other === undefined || one === other) return [];
      const bend = bendOf(shape, one, inwardsFrom(faces[other]!, handles[place]!, [0.5])[0]);
      return bend ? [{ edge: place, faces: [one, other], bend }] : [];
    });
    known.set(shape, meetings);
  }
  return meetings;
}

/** How a face, by place, meets another, given the way into that one from their edge. */
function bendOf(shape: Shape, one: number, into: Inwards | undefined): Bend | null {
  if (!into) return null;
  const rise = dot(unit(normalNear(facesOf(shape)[one]!, into.at)), into.into);
  return Math.abs(rise) < SMOOTH ? "smooth" : rise < 0 ? "outwards" : "inwards";
}

/** Faces of a solid, by place, with all that run smoothly on from them, across one edge after another. */
export function withSmoothOn(shape: Shape, places: readonly number[]): number[] {
  return spread(
    places,
    meetingsOf(shape).filter(({ bend }) => bend === "smooth"),
  );
}

/** Faces, by place, with all that are reached from them across some meetings, one after another. */
export function spread(places: readonly number[], across: readonly { faces: [number, number] }[]): number[] {
  const found = new Set(places);
  const queue = [...found];
  while (queue.length > 0) {
    const from = queue.pop()!;
    for (const { faces } of across) {
      if (!faces.includes(from)) continue;
      const to = faces[0] === from ? faces[1] : faces[0];
      if (found.has(to)) continue;
      found.add(to);
      queue.push(to);
    }
  }
  return [...found];
}

const bowed = new WeakMap<Shape, { faces: [number, number]; bow: Bow }[]>();

/** How a solid bends across each edge that two of its faces, by place, share. */
export function bowsOf(shape: Shape): { faces: [number, number]; bow: Bow }[] {
  let bows = bowed.get(shape);
  if (!bows) {
    const faces = facesOf(shape);
    const handles = edgeHandles(shape);
    bows = incidenceOf(shape).edges.flatMap(({ faces: sides, point }, place) => {
      const [one, other] = sides;
      if (point || one === undefined || other === undefined || one === other) return [];
      const ways = [one, other].map((face) => inwardsFrom(faces[face]!, handles[place]!, [0.5])[0]);
      const bend = bendOf(shape, one, ways[1]);
      if (!bend) return [];
      const bow = bend === "smooth" ? bowOf([one, other].map((face, i) => turnInto(faces[face]!, ways[i]))) : bend;
      return [{ faces: [one, other] as [number, number], bow }];
    });
    bowed.set(shape, bows);
  }
  return bows;
}

/** How far a face is looked into, mm, and how much its normal has turned there where it curves at all, of one. */
const LOOK_INTO = 0.02;
const CURVES = 1e-7;

/** How the normal of a face turns on the way into it: above 0 outwards, as a ball's does. */
function turnInto(face: Shape, way: Inwards | undefined): number {
  if (!way) return 0;
  const { at, into } = way;
  const turned = sub(unit(normalNear(face, add(at, scale(into, LOOK_INTO)))), unit(normalNear(face, at)));
  const turn = dot(turned, into);
  return Math.abs(turn) < CURVES ? 0 : Math.sign(turn);
}

function bowOf(turns: readonly number[]): Bow {
  const most = Math.max(...turns);
  const least = Math.min(...turns);
  if (most > 0 && least >= 0) return "outwards";
  return least < 0 && most <= 0 ? "inwards" : "flat";
}
