import { isUsedUpBy } from "../kernel";
import type { Mesh } from "../kernel/mesh/tessellate";
import { dot, scale, type Vec3 } from "../kernel/space/vectors";
import type { Hollow } from "../steps/evaluation";
import type { RoughMesh } from "./mesh";

/**
 * A hollowed body as triangles: its skin, the same skin a wall away, and rims between both round its mouths. Each corner of the mesh goes to where
 * the walls of all faces that meet there are as thick as they are to be, and mouths stay in themselves. A picture: past a face that
 * a wall uses up, the others run on and hide behind each other.
 * @param mesh of the body that is hollowed, as it is shown.
 */
export function hollowRoughly(mesh: Mesh, { body, walls, outward }: Hollow): RoughMesh {
  const moved = movedCorners(mesh, walls, outward);
  const made = new Triangles();
  const { positions, normals } = mesh;
  for (const [face, wall] of walls.entries()) {
    const [first, count] = [mesh.faceRanges[2 * face]!, mesh.faceRanges[2 * face + 1]!];
    const corners = mesh.indices.subarray(first, first + count);
    if (wall === null) {
      const [inner, outer] = outward ? [positions, moved] : [moved, positions];
      made.strip(rimOf(corners, positions), outer, inner, normalAt(normals, corners[0]!));
      continue;
    }
    made.faces(corners, positions, normals, outward);
    if (outward || !isUsedUpBy(body.shape, face, wall)) made.faces(corners, moved, normals, !outward);
  }
  return { ...made.done(), lines: linesOf(mesh, moved) };
}

const vertexAt = (list: Float32Array, i: number): Vec3 => [list[3 * i]!, list[3 * i + 1]!, list[3 * i + 2]!];
const normalAt = vertexAt;

/** Places that are one, though they are vertices of several faces: by a thousandth of a millimetre. */
const keyOf = (list: Float32Array, i: number): string =>
  `${Math.round(1e3 * list[3 * i]!)} ${Math.round(1e3 * list[3 * i + 1]!)} ${Math.round(1e3 * list[3 * i + 2]!)}`;

/** Normals that lean less from each other ask for the same. */
const SAME_WAY = 0.9995;
/** How far a corner goes at most, in walls. */
const FAR = 5;

/** Where each vertex lies a wall away. */
function movedCorners(mesh: Mesh, walls: Hollow["walls"], outward: boolean): Float32Array {
  const { positions, normals, indices, faceRanges } = mesh;
  const asked = new Map<string, { normal: Vec3; by: number }[]>();
  for (const [face, wall] of walls.entries()) {
    const first = faceRanges[2 * face]!;
    const by = wall === null ? 0 : outward ? wall : -wall;
    for (const i of new Set(indices.subarray(first, first + faceRanges[2 * face + 1]!))) {
      const normal = normalAt(normals, i);
      const key = keyOf(positions, i);
      const all = asked.get(key) ?? [];
      if (!all.some((other) => dot(other.normal, normal) > SAME_WAY)) all.push({ normal, by });
      asked.set(key, all);
    }
  }
  const ways = new Map([...asked].map(([key, all]) => [key, wayOf(all)] as const));
  const moved = positions.slice();
  for (let i = 0; i < positions.length / 3; i++) {
    const way = ways.get(keyOf(positions, i));
    if (way) for (let k = 0; k < 3; k++) moved[3 * i + k] = positions[3 * i + k]! + way[k]!;
  }
  return moved;
}

/** Keeps what is not asked for as it is, where fewer than three normals ask. */
const LOOSE = 1e-5;

/** The shortest way that goes as far along each normal as is asked for, as nearly as can be: the normal equations, solved by Cramer's rule. */
function wayOf(asked: readonly { normal: Vec3; by: number }[]): Vec3 {
  const a = [LOOSE, 0, 0, 0, LOOSE, 0, 0, 0, LOOSE];
  const b = [0, 0, 0];
  for (const { normal, by } of asked)
    for (let i = 0; i < 3; i++) {
      b[i]! += normal[i]! * by;
      for (let j = 0; j < 3; j++) a[3 * i + j]! += normal[i]! * normal[j]!;
    }
  const det = (m: readonly number[]) =>
    m[0]! * (m[4]! * m[8]! - m[5]! * m[7]!) -
    m[1]! * (m[3]! * m[8]! - m[5]! * m[6]!) +
    m[2]! * (m[3]! * m[7]! - m[4]! * m[6]!);
  const whole = det(a);
  const way = [0, 1, 2].map(
    (column) => det(a.map((value, at) => (at % 3 === column ? b[Math.floor(at / 3)]! : value))) / whole,
  );
  const length = Math.hypot(...way);
  const most = FAR * Math.max(...asked.map(({ by }) => Math.abs(by)));
  return scale(way as unknown as Vec3, length > most ? most / length : 1);
}

/** The edges of a face that only one of its triangles has, as that runs along them. */
function rimOf(corners: Uint32Array, positions: Float32Array): [number, number][] {
  const open = new Map<string, [number, number]>();
  for (let t = 0; t < corners.length; t += 3)
    for (const [from, to] of [
      [0, 1],
      [1, 2],
      [2, 0],
    ] as const) {
      const [a, b] = [corners[t + from]!, corners[t + to]!];
      const [one, other] = [keyOf(positions, a), keyOf(positions, b)];
      if (!open.delete(`${other} > ${one}`)) open.set(`${one} > ${other}`, [a, b]);
    }
  return [...open.values()];
}

class Triangles {
  private readonly positions: number[] = [];
  private readonly normals: number[] = [];
  private readonly indices: number[] = [];

  /** Some of a mesh's triangles, or the other side of them. */
  faces(corners: Uint32Array, positions: Float32Array, normals: Float32Array, over: boolean): void {
    const places = new Map<number, number>();
    const placeOf = (i: number) => {
      let place = places.get(i);
      if (place === undefined) {
        place = this.vertex(vertexAt(positions, i), scale(normalAt(normals, i), over ? -1 : 1));
        places.set(i, place);
      }
      return place;
    };
    for (let t = 0; t < corners.length; t += 3) {
      const [a, b, c] = [placeOf(corners[t]!), placeOf(corners[t + 1]!), placeOf(corners[t + 2]!)];
      this.indices.push(a, over ? c : b, over ? b : c);
    }
  }

  /** What lies between edges and where they are moved to. */
  strip(edges: readonly [number, number][], from: Float32Array, to: Float32Array, normal: Vec3): void {
    for (const [a, b] of edges) {
      const [p, q, r, s] = [vertexAt(from, a), vertexAt(from, b), vertexAt(to, b), vertexAt(to, a)].map((at) =>
        this.vertex(at, normal),
      ) as [number, number, number, number];
      this.indices.push(p, q, r, p, r, s);
    }
  }

  done(): Omit<RoughMesh, "lines"> {
    return {
      positions: Float32Array.from(this.positions),
      normals: Float32Array.from(this.normals),
      indices: Uint32Array.from(this.indices),
    };
  }

  private vertex(at: Vec3, normal: Vec3): number {
    this.positions.push(...at);
    this.normals.push(...normal);
    return this.positions.length / 3 - 1;
  }
}

/** A mesh's lines, and where they are moved to. */
function linesOf({ lines, positions }: Mesh, moved: Float32Array): Float32Array {
  const places = new Map<string, number>();
  for (let i = 0; i < positions.length / 3; i++) places.set(keyOf(positions, i), i);
  const made = [...lines];
  for (let p = 0; p < lines.length / 3; p += 2) {
    const [a, b] = [places.get(keyOf(lines, p)), places.get(keyOf(lines, p + 1))];
    if (a !== undefined && b !== undefined) made.push(...vertexAt(moved, a), ...vertexAt(moved, b));
  }
  return Float32Array.from(made);
}
