import type { EdgeUse, FaceStructure, Structure } from "../binary";
import { pointsOf } from "../binary/curve-at";
import { distance, type Vec3 } from "../space/vectors";

/** Where a run along an edge leaves a corner or comes to it, seen in the parameters of the face's surface. */
interface End {
  /** Which end of which edge it is. */
  name: string;
  /** Whether the wire goes out from the corner along it. */
  out: boolean;
  at(t: number): readonly number[];
  /** Parameters of the corner and of the middle of the edge. */
  from: number;
  middle: number;
}

/** An end of an edge: of a closed one both are at one corner. @param place 0 where it begins, 1 where it ends. */
export const endOf = (edge: number, place: number): string => `${edge}:${place}`;

/** As a part of the shortest run: so far from a corner it is looked in which order the edges lie round it. */
const NEAR = 0.05;

/** Radians: nearer than this, two ends are the two sides of a seam. Edges that touch are further apart so far away. */
const SAME = 1e-6;

/**
 * What of a face lies at a corner that its wires pass more than once: for each part of it there the two ends of edges between which it lies.
 * Wires that touch in a corner part the face there, and which edges belong together their order in the wires does not say.
 * @returns null where it cannot be told: at a pole, or where an edge has no image at hand.
 */
export function sectorsAt(structure: Structure, place: number, corner: number): [string, string][] | null {
  const face = structure.faces[place]!;
  const ends: End[] = [];
  for (const use of face.wires.flat()) {
    if (!use.bounds) continue;
    const { vertices, point } = structure.edges[use.edge]!;
    if (!vertices.includes(corner)) continue;
    if (point) return null;
    const found = endsOf(use, vertices, corner, imageOf(structure, face, use), beginsAt(structure, use.edge));
    if (!found) return null;
    ends.push(...found);
  }
  const reach = NEAR * Math.min(...ends.map((end) => apart(end.at(end.from), end.at(end.middle))));
  // Along a seam a wire comes in and goes out again: what lies before it ends there, what lies beyond it begins.
  const round = ends
    .map((end) => ({ end, angle: angleAt(end, reach) }))
    .sort((a, b) => (Math.abs(a.angle - b.angle) < SAME ? Number(a.end.out) - Number(b.end.out) : a.angle - b.angle));
  // A face lies to the left of its wires: from where one goes out, turning left, to the next edge, along which one comes in.
  const sectors = round.flatMap(({ end }, i): [string, string][] => {
    const next = round[(i + 1) % round.length]!.end;
    return end.out && !next.out ? [[end.name, next.name]] : [];
  });
  return 2 * sectors.length === ends.length ? sectors : null;
}

interface Image {
  at(t: number): readonly number[];
  from: number;
  to: number;
}

/** An edge in the parameters of a face's surface. On a flat one, of which no images are kept, as it lies in the plane. */
function imageOf({ edges }: Structure, { surface, image }: FaceStructure, use: EdgeUse): Image | null {
  const flat = surface?.kind === "plane" ? surface : null;
  const run = flat ? edges[use.edge]!.curve : image(use);
  const points = run && pointsOf(run.curve);
  if (!points) return null;
  const { from, to } = run;
  if (!flat) return { from, to, at: (t) => points(t).at };
  const along = (at: readonly number[], axis: Vec3) => at.reduce((sum, x, k) => sum + (x - flat.at[k]!) * axis[k]!, 0);
  return {
    from,
    to,
    at(t) {
      const { at } = points(t);
      return [along(at, flat.x), along(at, flat.y)];
    },
  };
}

/** Which of its two vertices an edge begins at: 0 or 1. */
function beginsAt({ edges, vertices }: Structure, edge: number): number {
  const { curve: run, vertices: ends } = edges[edge]!;
  const start = run && pointsOf(run.curve)?.(run.from).at;
  if (!start || ends.length < 2) return 0;
  const [first, second] = ends.map((end) => distance(vertices[end]!.at, start as unknown as Vec3));
  return second! < first! ? 1 : 0;
}

function endsOf(
  { edge, way }: EdgeUse,
  vertices: readonly number[],
  corner: number,
  image: Image | null,
  begin: number,
): End[] | null {
  if (!image) return null;
  const { at, from, to } = image;
  const middle = (from + to) / 2;
  return vertices.flatMap((vertex, k) => {
    const begins = k === begin;
    if (vertex !== corner) return [];
    return [{ name: endOf(edge, k), out: begins === (way === 1), at, from: begins ? from : to, middle }];
  });
}

const apart = (a: readonly number[], b: readonly number[]) => Math.hypot(a[0]! - b[0]!, a[1]! - b[1]!);

/** In which direction an edge lies from its corner, so far away from it. */
function angleAt({ at, from, middle }: End, reach: number): number {
  const corner = at(from);
  let [near, far] = [from, middle];
  for (let i = 0; i < 60; i++) {
    const t = (near + far) / 2;
    if (apart(at(t), corner) < reach) near = t;
    else far = t;
  }
  const there = at(near);
  const angle = Math.atan2(there[1]! - corner[1]!, there[0]! - corner[0]!);
  return angle < SAME - Math.PI ? angle + 2 * Math.PI : angle;
}
