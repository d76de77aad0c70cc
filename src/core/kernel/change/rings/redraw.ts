import { pointsOf, type Structure, structureOf } from "../../binary";
import { noSpans, type RecordSpans, type Span } from "../../binary/contents";
import type { Elementary } from "../../binary/surfaces";
import {
  type CircleCurve,
  type LineCurve,
  rewritten,
  writeCurve,
  writeNumbers,
  writeSurface,
} from "../../binary/write";
import { isValid } from "../../facts/measure";
import { incidenceOf, recordOf, shapeOfRecord } from "../../library/incidence";
import { freeShape, type Shape } from "../../library/topology";
import { cross, distance, dot, sub, turned, type Vec3 } from "../../space/vectors";
import { inPlane } from "../in-plane";
import { angleFrom, isDrawnFreely, type Ring, ringOf, type Wanted } from "./find";
import { inSpace, outwardsAt } from "./meridian";
import { CONFUSION, type Round, roundOf, SAME_ANGLE } from "./round";
import { type RingSurface, surfaceOf } from "./surface";

/** A new curve, image or pair of parameters, where the old ones stand in the record. */
type Change = readonly [Span, Uint8Array];

/**
 * The library draws roundings and chamfers between a cylinder and a cone, and between others that have one axis, as free faces to
 * some 1e-5 mm, though they are rings and cones. Here those are made what they are, with their edges as circles, arcs and
 * lines: exact, and of a kind that everything that comes later knows by its closed form.
 * @param faces those to look at, by place. @param wanted what they are looked for as.
 * @returns a handle of the caller's own, with the parts in the same order; null where nothing is to be done.
 */
export function redrawnRings(shape: Shape, faces: readonly number[], wanted: Wanted): Shape | null {
  if (!faces.some((face) => isDrawnFreely(incidenceOf(shape), face))) return null;
  const record = recordOf(shape);
  const spans = noSpans();
  const structure = structureOf(record, spans);
  const changes = new Map<number, Change>();
  const exact = new Set<number>();
  let isAgain = false;
  for (const face of faces) {
    // Two that meet in an edge are done one after the other: each is held against what the other is.
    if (structure.faces[face]!.wires.flat().some(({ edge }) => exact.has(edge))) {
      isAgain = true;
      continue;
    }
    const ring = ringOf(structure, face, wanted);
    const made = ring && changesOf(structure, ring, spans);
    // What cannot be done whole is not done.
    if (!made) continue;
    for (const change of made.changes) changes.set(change[0][0], change);
    for (const edge of made.edges) exact.add(edge);
  }
  if (changes.size === 0) return null;
  for (const [at, tolerance] of tightened(structure, exact)) changes.set(at, [[at, at + 8], writeNumbers([tolerance])]);
  const made = shapeOfRecord(rewritten(record, changes.values()));
  if (!isValid(made)) {
    freeShape(made);
    return null;
  }
  const next = isAgain ? redrawnRings(made, faces, wanted) : null;
  if (next) freeShape(made);
  return next ?? made;
}

/** What edges that are exact now, and the corners at which all are, note of how far what meets in them is apart. */
function* tightened({ edges, vertices }: Structure, exact: ReadonlySet<number>): Generator<[number, number]> {
  for (const edge of exact) yield [edges[edge]!.toleranceAt, CONFUSION];
  const isWide = vertices.map(() => false);
  edges.forEach(({ tolerance, vertices: corners }, edge) => {
    if (!exact.has(edge) && tolerance > CONFUSION) for (const corner of corners) isWide[corner] = true;
  });
  const corners = new Set([...exact].flatMap((edge) => edges[edge]!.vertices));
  for (const corner of corners) if (!isWide[corner]) yield [vertices[corner]!.toleranceAt, 2 * CONFUSION];
}

/** All that has to be written anew for a ring, with its edges; null where some of it is used elsewhere too, or is moved. */
function changesOf(
  structure: Structure,
  ring: Ring,
  spans: RecordSpans,
): { changes: Change[]; edges: number[] } | null {
  const { faces, edges } = structure;
  const drawn = surfaceOf(ring);
  const { surface } = faces[ring.face]!;
  const surfaceAt = surface && spans.surfaces.get(surface);
  if (!surfaceAt || faces.filter((face) => face.surface === surface).length > 1) return null;
  const changes: Change[] = [[surfaceAt, writeSurface(drawn.surface)]];
  const put = (curve: Parameters<typeof spans.curves.get>[0], now: LineCurve | CircleCurve, long: number): boolean => {
    const [at, ranges] = [spans.curves.get(curve), spans.ranges.get(curve)];
    if (!at || ranges?.length !== 1) return false;
    changes.push([at, writeCurve(now)], [[ranges[0]!, ranges[0]! + 16], writeNumbers([0, long])]);
    return true;
  };
  for (const [i, rim] of ring.rims.entries())
    for (const edge of rim.edges) {
      const run = roundOf(structure, ring, rim.at, edge);
      if (!run || !put(edges[edge]!.curve!.curve, run.circle, run.long)) return null;
      for (const face of edges[edge]!.faces) {
        const [use, ...more] = faces[face]!.wires.flat().filter((one) => one.edge === edge);
        const image = use && faces[face]!.image(use);
        if (!image || more.length > 0) return null;
        const now =
          face === ring.face
            ? drawn.along(run, i as 0 | 1)
            : imageOn(faces[face]!.surface as Elementary, run, pointsOf(image.curve)?.(image.from).at);
        if (!now || !put(image.curve, now, run.long)) return null;
      }
    }
  for (const edge of ring.ends) {
    const done = endChanges(structure, ring, drawn, edge, put);
    if (!done) return null;
  }
  return { changes, edges: [...ring.rims.flatMap((rim) => rim.edges), ...ring.ends] };
}

/** The image of a round edge on an elementary neighbour. @param old where its image begins now: a turned surface has one at every turn. */
function imageOn(surface: Elementary, run: Round, old: readonly number[] | undefined): LineCurve | CircleCurve | null {
  const { circle, at, ring, way } = run;
  const x = circle.x as unknown as Vec3;
  if (surface.kind === "plane") return inPlane(surface, circle);
  if (!old) return null;
  const corner = inSpace(ring.axis, x, at);
  const up = dot(sub(corner, surface.at), surface.axis);
  const u = nearTo(Math.atan2(dot(x, surface.y), dot(x, surface.x)), old[0]!);
  const v = heightOn(surface, up, at[0], old[1]!);
  const rises = dot(cross(surface.x, surface.y), ring.axis.way) > 0 ? way : -way;
  if (Math.abs(u - old[0]!) > NEAR || Math.abs(v - old[1]!) > NEAR) return null;
  return { kind: "line", at: [u, v], way: [rises, 0] };
}

/** Radians, or mm: a new image begins where the old one did, but for what the library was off. */
const NEAR = 1e-3;

function heightOn(surface: Exclude<Elementary, { kind: "plane" }>, up: number, out: number, old: number): number {
  switch (surface.kind) {
    case "cylinder":
      return up;
    case "cone":
      return up / Math.cos(surface.half);
    case "sphere":
      return Math.atan2(up, out);
    case "torus":
      return nearTo(Math.atan2(up, out - surface.major), old);
  }
}

/** An angle, as many whole turns on as it takes to be nearest to another. A whole number of turns is that. */
function nearTo(angle: number, other: number): number {
  const turns = Math.round((other - angle) / (2 * Math.PI));
  const now = angle + turns * 2 * Math.PI;
  const whole = Math.round(now / (2 * Math.PI)) * 2 * Math.PI;
  return Math.abs(now - whole) < 1e-12 ? whole : now;
}

/** Writes anew an edge in which a ring begins or ends, or meets itself. */
function endChanges(
  structure: Structure,
  ring: Ring,
  drawn: RingSurface,
  edge: number,
  put: (
    curve: NonNullable<Structure["edges"][number]["curve"]>["curve"],
    now: LineCurve | CircleCurve,
    long: number,
  ) => boolean,
): boolean {
  const { faces, edges, vertices } = structure;
  const { axis, sweep } = ring;
  const { vertices: corners, curve, faces: both } = edges[edge]!;
  if (corners.length !== 2 || !curve) return false;
  const begins = vertices[corners[0]!]!.at;
  const outwards = outwardsAt(axis, begins);
  const angle = angleFrom(axis, ring.begin, outwards);
  const isSeam = faces[ring.face]!.wires.flat().filter((one) => one.edge === edge).length > 1;
  const isLast = !isSeam && Math.abs(angle - sweep) < SAME_ANGLE;
  const x = turned(ring.begin, axis.way, isLast ? sweep : 0);
  if (distance(x, outwards) > SAME_ANGLE) return false;
  const [from, to] =
    distance(inSpace(axis, x, ring.rims[0].at), begins) < CONFUSION ? ([0, 1] as const) : ([1, 0] as const);
  const places = [from, to].map((i) => inSpace(axis, x, ring.rims[i].at));
  if (places.some((place, i) => distance(place, vertices[corners[i]!]!.at) > CONFUSION)) return false;
  const { long, curve: now } = drawn.across(x, from);
  if (!put(curve.curve, now, long)) return false;
  for (const face of both) {
    const uses = faces[face]!.wires.flat().filter((one) => one.edge === edge);
    for (const use of uses) {
      const image = faces[face]!.image(use);
      if (!image) return false;
      const own = uses.length > 1 ? seamTurn(structure, ring, image) : isLast ? sweep : 0;
      if (own === null) return false;
      const flat = face === ring.face ? drawn.up(own, from) : inPlane(faces[face]!.surface as Elementary, now);
      if (!put(image.curve, flat, long)) return false;
    }
  }
  return true;
}

/**
 * Of a ring that meets itself, whether an image of the edge where it does is at its beginning or its end: by which end of a rim's
 * image it meets.
 */
function seamTurn(structure: Structure, ring: Ring, image: EdgeImage): number | null {
  const { wires, image: imageOf } = structure.faces[ring.face]!;
  const ends = endsOf(image);
  if (!ends) return null;
  let nearest = { gap: Number.POSITIVE_INFINITY, turn: 0 };
  for (const rim of ring.rims)
    for (const edge of rim.edges) {
      const run = roundOf(structure, ring, rim.at, edge);
      const along = imageOf(wires.flat().find((use) => use.edge === edge)!);
      const [first, last] = (along && endsOf(along)) ?? [];
      if (!run || !first || !last) return null;
      const turns = [run.begins, run.begins + run.way * run.long];
      for (const [i, place] of [first, last].entries())
        for (const end of ends) {
          const gap = Math.hypot(place[0]! - end[0]!, place[1]! - end[1]!);
          if (gap < nearest.gap) nearest = { gap, turn: turns[i]! };
        }
    }
  return nearest.turn < ring.sweep / 2 ? 0 : ring.sweep;
}

type EdgeImage = NonNullable<ReturnType<Structure["faces"][number]["image"]>>;

function endsOf({ curve, from, to }: EdgeImage) {
  const points = pointsOf(curve);
  return points && [points(from).at, points(to).at];
}
