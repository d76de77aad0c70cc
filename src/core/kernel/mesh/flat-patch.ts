import earcut from "earcut";
import type { FaceStructure, Structure } from "../binary";
import { cross, dot, sub, type Vec3 } from "../space/vectors";
import type { Patch } from "./patch";

/**
 * The mesh of a flat face between straight edges, from the corners alone: exact, and without asking the library, whose meshes of
 * such faces are most of what a part takes to be shown.
 * @returns null for any other face, and where corners lie on one line or meet oddly: those are the library's.
 */
export function flatPatch(structure: Structure, face: FaceStructure): Patch | null {
  const { surface, forward } = face;
  if (surface?.kind !== "plane" || !face.bounds) return null;
  const uses = face.wires.flat();
  const sides = uses.map((use) =>
    use.bounds && isRuled(structure, use.edge) ? sideOf(structure, use.edge, use.way) : null,
  );
  const loops = loopsOf(sides);
  if (!loops) return null;
  const seen = (at: Vec3): [number, number] => [
    dot(sub(at, surface.at), surface.x),
    dot(sub(at, surface.at), surface.y),
  ];
  const flat = loops.map((loop) => loop.map((corner) => seen(structure.vertices[corner]!.at)));
  if (flat.some(hasStraightCorner)) return null;
  const areas = flat.map(areaOf);
  const outer = areas.reduce((most, area, i) => (Math.abs(area) > Math.abs(areas[most]!) ? i : most), 0);
  const order = [outer, ...loops.flatMap((_, i) => (i === outer ? [] : [i]))];
  const corners = order.flatMap((i) => loops[i]!);
  const places = order.flatMap((i) => flat[i]!);
  const holes = order.slice(1).map((_, k) => order.slice(0, k + 1).reduce((sum, i) => sum + loops[i]!.length, 0));
  const triangles = earcut(places.flat(), holes);
  const total = Math.abs(areas[outer]!) - order.slice(1).reduce((sum, i) => sum + Math.abs(areas[i]!), 0);
  const turned = forward ? 1 : -1;
  let covered = 0;
  const indices = new Uint32Array(triangles.length);
  for (let t = 0; t < triangles.length; t += 3) {
    const [a, b, c] = [triangles[t]!, triangles[t + 1]!, triangles[t + 2]!];
    const area = areaOf([places[a]!, places[b]!, places[c]!]);
    covered += Math.abs(area);
    indices.set(area * turned > 0 ? [a, b, c] : [a, c, b], t);
  }
  if (!(Math.abs(covered - total) <= 1e-9 * total)) return null;
  const normal = cross(surface.x, surface.y).map((value) => turned * value + 0);
  return {
    forward,
    positions: Float32Array.from(corners.flatMap((corner) => structure.vertices[corner]!.at)),
    normals: Float32Array.from(corners.flatMap(() => normal)),
    indices,
    lines: sides.map((side) => Float32Array.from(side!.along.flatMap((corner) => structure.vertices[corner]!.at))),
  };
}

/** Whether no face at an edge needs points along it: on a free face the library sets some. */
function isRuled({ edges, faces }: Structure, edge: number): boolean {
  return edges[edge]!.faces.every((face) => RULED.has(faces[face]!.surface?.kind ?? ""));
}
const RULED = new Set(["plane", "cylinder", "cone"]);

/** A straight edge as a wire runs along it, and as it runs itself: corners by place. */
interface Side {
  from: number;
  to: number;
  along: readonly [number, number];
}

function sideOf({ edges, vertices }: Structure, edge: number, way: 1 | -1): Side | null {
  const { curve: run, vertices: ends } = edges[edge]!;
  const [one, other] = ends;
  if (run?.curve.kind !== "line" || one === undefined || other === undefined || one === other) return null;
  const apart = sub(vertices[other]!.at, vertices[one]!.at);
  const runs = run.curve.way.reduce((sum, part, k) => sum + part * apart[k]!, 0) * (run.to - run.from);
  const along = runs > 0 ? ([one, other] as const) : ([other, one] as const);
  const [from, to] = way === 1 ? along : [along[1], along[0]];
  return { from, to, along };
}

/** Closed chains of corners, where each corner is come to and left once. */
function loopsOf(sides: readonly (Side | null)[]): number[][] | null {
  const next = new Map<number, number>();
  for (const side of sides) {
    if (!side || next.has(side.from)) return null;
    next.set(side.from, side.to);
  }
  const loops: number[][] = [];
  while (next.size > 0) {
    const [start] = next.keys();
    const loop: number[] = [];
    for (let at = start!; ; ) {
      const to = next.get(at);
      if (to === undefined) return null;
      next.delete(at);
      loop.push(at);
      if (to === start) break;
      at = to;
    }
    if (loop.length < 3) return null;
    loops.push(loop);
  }
  return loops.length > 0 ? loops : null;
}

/** Sine of the angle below which a corner counts as straight: triangles would leave it out, and a neighbour would not. */
const STRAIGHT = 1e-6;

function hasStraightCorner(loop: readonly [number, number][]): boolean {
  return loop.some((at, i) => {
    const before = loop.at(i - 1)!;
    const after = loop[(i + 1) % loop.length]!;
    const [a, b] = [
      [at[0] - before[0], at[1] - before[1]],
      [after[0] - at[0], after[1] - at[1]],
    ] as const;
    const size = Math.hypot(...a) * Math.hypot(...b);
    return !(Math.abs(a[0] * b[1] - a[1] * b[0]) > STRAIGHT * size);
  });
}

/** Signed area of a polygon (shoelace formula). */
function areaOf(loop: readonly [number, number][]): number {
  let twice = 0;
  loop.forEach(([x, y], i) => {
    const [u, v] = loop[(i + 1) % loop.length]!;
    twice += x * v - u * y;
  });
  return twice / 2;
}
