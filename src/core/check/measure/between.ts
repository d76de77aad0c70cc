import { curveEnds, lengthOf } from "../../curve/span";
import type { Body, CurveItem } from "../../items";
import {
  add,
  allEdgeFacts,
  allFaceFacts,
  areaOf,
  cross,
  curveShape,
  distance,
  dot,
  edgeHandles,
  facesOf,
  freeShape,
  length,
  nearest,
  type Shape,
  scale,
  sub,
  unit,
  type Vec3,
  vertexHandles,
  verticesOf,
  volumeOf,
  volumeWithin,
} from "../../kernel";
import { SAME_WAY } from "../../tolerance";

/** Something to measure: a body or one of its faces, edges or corners by its place; or a curve in space. */
export type Thing =
  | { body: Body; part?: { kind: "face" | "edge" | "corner"; place: number } }
  | { curve: CurveItem; part?: never };

/** What is known of one thing by itself. Lengths in mm. */
export interface ThingMeasures {
  kind: "solid" | "sheet" | "face" | "edge" | "corner" | "curve";
  /** What kind of surface or curve it is. */
  form?: string;
  volume?: number;
  /** How far the volume may be off, mm³, where it cannot be had exactly. */
  volumeWithin?: number;
  area?: number;
  length?: number;
  radius?: number;
  /** Where a corner is; the centre of a circle; of a sphere; a point of an axis. */
  at?: Vec3;
  /** The normal of a plane, the axis of something round, or the run of a line; unit. */
  direction?: Vec3;
}

/** A distance with its two ends. */
export interface Span {
  mm: number;
  from: Vec3;
  to: Vec3;
}

/** How two things lie to each other. */
export interface BetweenMeasures {
  /** The smallest distance: 0 where they touch or cross. */
  nearest: Span | null;
  /** Of the two points that are nearest, along X, Y and Z, mm. */
  along: Vec3 | null;
  /** Between what is parallel, between middles, and between a middle and a plane or line; with what that is. */
  apart: (Span & { what: string }) | null;
  /** The smaller of the two angles between them, degrees; null where they have none. */
  angle: number | null;
}

/** Measures of one thing: exact, from its exact form. */
export function measureThing(thing: Thing): ThingMeasures {
  if ("curve" in thing) return measureCurve(thing.curve);
  const { shape, kind } = thing.body;
  const { part } = thing;
  if (!part) return { kind, area: areaOf(shape), ...(kind === "solid" ? volumesOf(shape) : {}) };
  const { place } = part;
  if (part.kind === "corner") return { kind: "corner", at: verticesOf(shape)[place]! };
  if (part.kind === "edge") {
    const facts = allEdgeFacts(shape)[place]!;
    return {
      kind: "edge",
      form: facts.kind,
      length: facts.length,
      ...(facts.radius !== undefined ? { radius: facts.radius } : {}),
      ...(facts.direction ? { direction: facts.direction } : {}),
      at: facts.centre ?? facts.ends[0],
    };
  }
  const facts = allFaceFacts(shape)[place]!;
  return {
    kind: "face",
    form: facts.kind,
    area: areaOf(facesOf(shape)[place]!),
    ...(facts.radius !== undefined ? { radius: facts.radius } : {}),
    ...(facts.direction ? { direction: facts.direction } : {}),
    at: facts.axisAt ?? facts.centre,
  };
}

function volumesOf(shape: Shape): Pick<ThingMeasures, "volume" | "volumeWithin"> {
  const within = volumeWithin(shape);
  return { volume: volumeOf(shape), ...(within > 0 ? { volumeWithin: within } : {}) };
}

/** A curve is what its one part is, where it has one; else a chain of parts. */
function measureCurve({ spans }: CurveItem): ThingMeasures {
  const [only, more] = spans;
  const line = only?.kind === "line" && !more ? only : null;
  return {
    kind: "curve",
    form: line ? "line" : more ? "chain" : "spline",
    length: lengthOf(spans),
    at: curveEnds(spans)[0],
    ...(line ? { direction: unit(sub(line.to, line.from)) } : {}),
  };
}

/** How two things lie to each other: exact, from their exact forms. */
export function measureBetween(a: Thing, b: Thing): BetweenMeasures {
  const found = withShape(a, (one) => withShape(b, (two) => nearest(one, two)));
  const span = found && { mm: found.gap, from: found.on1, to: found.on2 };
  const [one, two] = [measureThing(a), measureThing(b)];
  return {
    nearest: span,
    along:
      span && (sub(span.to, span.from).map((value) => (Math.abs(value) < SAME_WAY ? 0 : value)) as unknown as Vec3),
    apart: apartBy(one, two),
    angle: angleBetween(one, two),
  };
}

/** Does something with a thing's exact form. */
export function withShape<T>(thing: Thing, use: (shape: Shape) => T): T {
  if (!("curve" in thing)) return use(handleOf(thing));
  const shape = curveShape(thing.curve.spans);
  try {
    return use(shape);
  } finally {
    freeShape(shape);
  }
}

function handleOf({ body: { shape }, part }: Extract<Thing, { body: Body }>): Shape {
  if (!part) return shape;
  if (part.kind === "face") return facesOf(shape)[part.place]!;
  return part.kind === "edge" ? edgeHandles(shape)[part.place]! : vertexHandles(shape)[part.place]!;
}

const isFlat = ({ form }: ThingMeasures): boolean => form === "plane";
/** What has a middle that is measured to, and what it is called. */
const spotOf = ({ kind, form }: ThingMeasures): "corner" | "centre" | null =>
  kind === "corner" ? "corner" : form === "sphere" || form === "circle" ? "centre" : null;
/** What runs along a line, and what that is called. A circle has a middle and an axis. */
const lineOf = ({ form }: ThingMeasures): "edge" | "axis" | null =>
  form === "line" ? "edge" : form === "cylinder" || form === "cone" || form === "circle" ? "axis" : null;

const PARALLEL = 1e-9;

/** The distance that is meant between planes, lines and middles, where there is one whatever their ends. */
function apartBy(a: ThingMeasures, b: ThingMeasures): BetweenMeasures["apart"] {
  if (!a.at || !b.at) return null;
  const [spotA, spotB] = [spotOf(a), spotOf(b)];
  if (spotA && spotB) {
    const what = spotA !== spotB ? "corner and centre" : `${spotA}s`;
    return { what, mm: distance(a.at, b.at), from: a.at, to: b.at };
  }
  if (isFlat(a) !== isFlat(b)) return isFlat(a) ? fromPlane(a, b) : fromPlane(b, a);
  if (isFlat(a)) {
    if (length(cross(a.direction!, b.direction!)) > PARALLEL) return null;
    const height = dot(sub(b.at, a.at), a.direction!);
    return { what: "planes", mm: Math.abs(height), from: a.at, to: add(a.at, scale(a.direction!, height)) };
  }
  const [lineA, lineB] = [lineOf(a), lineOf(b)];
  if (lineA && lineB) {
    if (length(cross(a.direction!, b.direction!)) > PARALLEL) return null;
    const what = lineA !== lineB ? "edge and axis" : lineA === "axis" ? "axes" : "edges";
    return { what, ...toLine(b.at, a) };
  }
  if (lineA && spotB) return { what: `${spotB} and ${lineA}`, ...toLine(b.at, a) };
  return lineB && spotA ? { what: `${spotA} and ${lineB}`, ...toLine(a.at, b) } : null;
}

/** How high a middle, or a line along it, lies over a plane. */
function fromPlane(plane: ThingMeasures, other: ThingMeasures): BetweenMeasures["apart"] {
  const line = other.form === "circle" ? null : lineOf(other);
  const named = spotOf(other) ?? line;
  if (!named || (line && Math.abs(dot(plane.direction!, other.direction!)) > PARALLEL)) return null;
  const height = dot(sub(other.at!, plane.at!), plane.direction!);
  const foot = sub(other.at!, scale(plane.direction!, height));
  return { what: `${named} and plane`, mm: Math.abs(height), from: foot, to: other.at! };
}

/** From a point to the line that a thing runs along. */
function toLine(at: Vec3, line: ThingMeasures): Span {
  const away = sub(at, line.at!);
  const foot = add(line.at!, scale(line.direction!, dot(away, line.direction!)));
  return { mm: distance(at, foot), from: foot, to: at };
}

function angleBetween(a: ThingMeasures, b: ThingMeasures): number | null {
  if (!a.direction || !b.direction) return null;
  // The arc tangent keeps its accuracy where the arc cosine loses it, near 0 and 180°.
  const turn = Math.atan2(length(cross(a.direction, b.direction)), dot(a.direction, b.direction));
  const lines = (Math.min(turn, Math.PI - turn) * 180) / Math.PI;
  return isFlat(a) === isFlat(b) ? lines : 90 - lines;
}
