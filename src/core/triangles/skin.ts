import type { Manifold } from "manifold-3d";
import { welded } from "../kernel/mesh/welded";
import { trianglesLibrary } from "./library";

/** Triangles: xyz for each vertex, in mm, and three vertices for each triangle, anticlockwise as seen from outside. */
export interface Skin {
  positions: Float32Array;
  indices: Uint32Array;
}

/** How many closed skins are kept as solids, those used last. */
const MOST = 60;

/** A stock that is divided again and again is welded once. */
const kept = new Map<Skin, Manifold | null>();

/** A closed skin as a solid, which lasts until `forgetSolids`; null where its triangles do not close it. */
export function solidOf(skin: Skin): Manifold | null {
  const known = kept.get(skin);
  const solid = known === undefined ? weldedSolid(skin) : known;
  kept.delete(skin);
  kept.set(skin, solid);
  return solid;
}

/** Lets go of all solids but those used last. */
export function forgetSolids(): void {
  for (const [oldest, old] of kept) {
    if (kept.size <= MOST) return;
    old?.delete();
    kept.delete(oldest);
  }
}

function weldedSolid(skin: Skin): Manifold | null {
  const mesh = merged(skin);
  return mesh && solidOfMesh(mesh);
}

type Mesh = InstanceType<ReturnType<typeof trianglesLibrary>["Mesh"]>;

/** A skin whose triangles share their corners, those that are nearly at one place, too: faces that were meshed at other times differ by a digit. */
export function merged({ positions, indices }: Skin): Mesh {
  const { Mesh } = trianglesLibrary();
  const mesh = new Mesh({ numProp: 3, vertProperties: positions, triVerts: indices });
  mesh.merge();
  return mesh;
}

/** Null where the triangles do not close. */
export function solidOfMesh(mesh: Mesh): Manifold | null {
  try {
    const solid = trianglesLibrary().Manifold.ofMesh(mesh);
    if (solid.status() === "NoError" && !solid.isEmpty() && solid.volume() > 0) return solid;
    solid.delete();
    return null;
  } catch {
    // The library throws where a mesh is no solid.
    return null;
  }
}

/** Triangles, three vertices each, turned round: all, or those that are told. */
export function turnedRound(
  triangles: ArrayLike<number>,
  isTurned: (triangle: number) => boolean = () => true,
): Uint32Array {
  const turned = Uint32Array.from(triangles);
  for (let t = 0; t < turned.length; t += 3)
    if (isTurned(t / 3)) [turned[t + 1], turned[t + 2]] = [turned[t + 2]!, turned[t + 1]!];
  return turned;
}

/** The edges that only one triangle has, as it runs along them. @param vertices how many there are. */
export function rimOf(triangles: ArrayLike<number>, vertices: number): [from: number, to: number][] {
  const edges = new Set<number>();
  for (let t = 0; t < triangles.length; t += 3)
    for (let k = 0; k < 3; k++) {
      const [from, to] = [triangles[t + k]!, triangles[t + ((k + 1) % 3)]!];
      if (!edges.delete(to * vertices + from)) edges.add(from * vertices + to);
    }
  return [...edges].map((edge) => [Math.floor(edge / vertices), edge % vertices]);
}

/** Whether more than two triangles meet along an edge, at one place to the last digit. */
export function crossesItself(skin: Skin): boolean {
  const { corners, triangles } = welded(skin);
  const times = new Map<number, number>();
  for (let t = 0; t < triangles.length; t += 3)
    for (let k = 0; k < 3; k++) {
      const [a, b] = [triangles[t + k]!, triangles[t + ((k + 1) % 3)]!];
      const edge = Math.min(a, b) * corners.length + Math.max(a, b);
      const count = (times.get(edge) ?? 0) + 1;
      if (count > 2) return true;
      times.set(edge, count);
    }
  return false;
}
