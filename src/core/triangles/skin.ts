import type { Manifold } from "manifold-3d";
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
  const mesh = welded(skin);
  return mesh && solidOfMesh(mesh);
}

type Mesh = InstanceType<ReturnType<typeof trianglesLibrary>["Mesh"]>;

/** A skin whose triangles share their corners. */
export function welded({ positions, indices }: Skin): Mesh {
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

/** A skin with triangles turned round: all, or those that are told. */
export function turnedOver({ positions, indices }: Skin, isTurned: (triangle: number) => boolean = () => true): Skin {
  const turned = indices.slice();
  for (let t = 0; t < turned.length; t += 3)
    if (isTurned(t / 3)) [turned[t + 1], turned[t + 2]] = [turned[t + 2]!, turned[t + 1]!];
  return { positions, indices: turned };
}

/** Whether more than two triangles meet along an edge, at one place to the last digit. */
export function crossesItself({ positions, indices }: Skin): boolean {
  const places = new Map<string, number>();
  const placeOf = Array.from({ length: positions.length / 3 }, (_, vertex) => {
    const key = positions.subarray(3 * vertex, 3 * vertex + 3).join(" ");
    const place = places.get(key) ?? places.size;
    places.set(key, place);
    return place;
  });
  const times = new Map<number, number>();
  for (let t = 0; t < indices.length; t += 3)
    for (let k = 0; k < 3; k++) {
      const [a, b] = [placeOf[indices[t + k]!]!, placeOf[indices[t + ((k + 1) % 3)]!]!];
      const edge = Math.min(a, b) * places.size + Math.max(a, b);
      const count = (times.get(edge) ?? 0) + 1;
      if (count > 2) return true;
      times.set(edge, count);
    }
  return false;
}
