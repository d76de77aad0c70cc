import { lengthOf, placeAlong } from "../../curve/span";
import { has } from "../../items/kinds";
import {
  allEdgeFacts,
  alongEdge,
  contains,
  distanceToPoint,
  edgeLengthAt,
  facesOf,
  freeShape,
  type Shape,
  shellOf,
  type Vec3,
} from "../../kernel";
import { type Thing, withShape } from "./between";
import { type Line, linesRound } from "./lines-round";

/** How far away the other thing is from one place, mm: below 0 as far as the place lies within it. */
export interface GapPlace {
  /** How far along, mm; or how far round, degrees. */
  along: number;
  gap: number;
  from: Vec3;
  to: Vec3;
}

/** The gap from one of two things to the other along an edge or a curve, or round an axis. */
export interface GapCourse {
  by: "length" | "turn";
  /** Which of the two things it runs along. */
  of: "first" | "second";
  /** In order; a place round an axis where the face is not there has none. */
  places: GapPlace[];
  least: GapPlace;
  most: GapPlace;
}

/** In how many places the gap is measured. Each is exact; between them it is not known. */
const PLACES = 73;
/** How often the stretch round the least and the most of them is narrowed to find where they are. */
const NARROWED = 16;

/**
 * How the gap between two things runs: along the first if that is an edge or a curve, or else the second; round the axis of the
 * first face that is a cylinder or a cone. Null where there is nothing to run along.
 */
export function gapCourse(first: Thing, second: Thing): GapCourse | null {
  const ways = [
    [first, second, "first"],
    [second, first, "second"],
  ] as const;
  for (const [run, other, of] of ways) {
    const line = lineAlong(run);
    if (line) return courseOf(line, "length", of, other);
  }
  for (const [run, other, of] of ways) {
    const round = "body" in run && run.part?.kind === "face" ? linesRound(run.body.shape, run.part.place) : null;
    if (round) return courseOf(round, "turn", of, other);
  }
  return null;
}

/** An edge or a curve as a line to run along, one place each; null for another thing. */
function lineAlong(thing: Thing): Line | null {
  if ("curve" in thing) {
    const { spans } = thing.curve;
    return { end: lengthOf(spans), at: (along) => [placeAlong(spans, along)] };
  }
  const { shape } = thing.body;
  const { part } = thing;
  if (part?.kind !== "edge" || !allEdgeFacts(shape)[part.place]) return null;
  return { end: edgeLengthAt(shape, part.place), at: (along) => [alongEdge(shape, part.place, along).at] };
}

function courseOf(line: Line, by: GapCourse["by"], of: GapCourse["of"], other: Thing): GapCourse | null {
  return withSkin(other, (gapTo) => {
    const placeAt = (along: number): GapPlace | null => {
      let least: GapPlace | null = null;
      for (const from of line.at(along)) {
        const found = gapTo(from);
        if (found && (!least || found.gap < least.gap)) least = { along, gap: found.gap, from, to: found.to };
      }
      return least;
    };
    const all = Array.from({ length: PLACES }, (_, i) => placeAt((line.end * i) / (PLACES - 1)));
    const places = all.flatMap((place) => place ?? []);
    if (places.length === 0) return null;
    const step = line.end / (PLACES - 1);
    const extreme = (sign: 1 | -1): GapPlace => {
      let best = places.reduce((a, b) => (sign * b.gap < sign * a.gap ? b : a));
      // A search by the golden section in the two stretches beside it: what it finds is measured, like the others.
      let [low, high] = [Math.max(0, best.along - step), Math.min(line.end, best.along + step)];
      for (let i = 0; i < NARROWED; i++) {
        const [a, b] = [high - GOLDEN * (high - low), low + GOLDEN * (high - low)];
        const [one, two] = [placeAt(a), placeAt(b)];
        for (const found of [one, two]) if (found && sign * found.gap < sign * best.gap) best = found;
        if (one && (!two || sign * one.gap < sign * two.gap)) high = b;
        else low = a;
      }
      return best;
    };
    const [least, most] = [extreme(1), extreme(-1)];
    const shown = [...new Set([...places, least, most])].sort((a, b) => a.along - b.along);
    return { by, of, places: shown, least, most };
  });
}

const GOLDEN = (Math.sqrt(5) - 1) / 2;

type GapTo = (at: Vec3) => { gap: number; to: Vec3 } | null;

/** Does something with a measure of how far places are from a thing: from the skin of a solid, below 0 within it. */
function withSkin<T>(thing: Thing, use: (gapTo: GapTo) => T): T | null {
  const measured =
    (shape: Shape, solid: Shape | null): GapTo =>
    (at) => {
      const found = distanceToPoint(shape, at);
      if (!found) return null;
      const inside = solid !== null && found.gap > 0 && contains(solid, at);
      return { gap: inside ? -found.gap : found.gap, to: found.on2 };
    };
  if ("curve" in thing || thing.part || !has(thing.body, "closed"))
    return withShape(thing, (shape) => use(measured(shape, null)));
  const { shape } = thing.body;
  const skin = shellOf(facesOf(shape));
  try {
    return use(measured(skin, shape));
  } finally {
    freeShape(skin);
  }
}
