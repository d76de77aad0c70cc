import type { Manifold } from "manifold-3d";
import { add, cross, dot, length, scale, sub, unit, type Vec3 } from "../kernel/space/vectors";
import { trianglesLibrary } from "./library";
import { type Skin, solidOfMesh, welded } from "./skin";

/** The room before an open skin, as a solid: what it divides lies in it or behind the skin. */
export interface Screen {
  solid: Manifold;
  /** Whether what was divided by it shows other triangles of it than the skin's own: the skin ends within that. */
  endsWithin(piece: Manifold): boolean;
}

/** How far the way that a screen is drawn out may lean from each triangle, as a cosine. */
const LEAN = 0.05;

/**
 * An open skin drawn out by `reach` mm to its front. Null where it folds back as seen along the one way that it is drawn out, and where it
 * does not close so.
 * @param turn −1 where its front is behind its triangles.
 */
export function screenOf(skin: Skin, turn: 1 | -1, reach: number): Screen | null {
  const sheet = welded(skin);
  const corners = sheet.triVerts.map((vertex) => vertex);
  mergeCorners(corners, sheet.mergeFromVert, sheet.mergeToVert);
  const at = (vertex: number): Vec3 => [
    skin.positions[3 * vertex]!,
    skin.positions[3 * vertex + 1]!,
    skin.positions[3 * vertex + 2]!,
  ];
  const normals: Vec3[] = [];
  let sum: Vec3 = [0, 0, 0];
  for (let t = 0; t < corners.length; t += 3) {
    const [a, b, c] = [at(corners[t]!), at(corners[t + 1]!), at(corners[t + 2]!)];
    const normal = cross(sub(b, a), sub(c, a));
    normals.push(normal);
    sum = add(sum, normal);
  }
  if (length(sum) === 0) return null;
  const way = scale(unit(sum), turn);
  if (normals.some((normal) => turn * dot(normal, way) < LEAN * length(normal))) return null;
  const count = skin.positions.length / 3;
  const positions = new Float32Array(2 * skin.positions.length);
  positions.set(skin.positions);
  skin.positions.forEach((value, i) => {
    positions[skin.positions.length + i] = value + reach * way[i % 3]!;
  });
  // The skin looks into the room before it: as its bound it is turned round, and its image closes it.
  const near: number[] = [];
  const far: number[] = [];
  for (let t = 0; t < corners.length; t += 3) {
    const [a, b, c] = [corners[t]!, corners[t + 1]!, corners[t + 2]!];
    near.push(...(turn > 0 ? [a, c, b] : [a, b, c]));
    far.push(...(turn > 0 ? [a, b, c] : [a, c, b]).map((vertex) => vertex + count));
  }
  const walls = rimOf(near).flatMap(([from, to]) => [to, from, from + count, to, from + count, to + count]);
  const triangles = Uint32Array.from([...near, ...far, ...walls]);
  const { Manifold, Mesh } = trianglesLibrary();
  const id = Manifold.reserveIDs(1);
  const own = near.length / 3;
  const mesh = new Mesh({
    numProp: 3,
    vertProperties: positions,
    triVerts: triangles,
    runIndex: Uint32Array.from([0, triangles.length]),
    runOriginalID: Uint32Array.from([id]),
    // Triangles of one number could be joined.
    faceID: Uint32Array.from({ length: triangles.length / 3 }, (_, t) => t),
  });
  const solid = solidOfMesh(mesh);
  if (!solid) return null;
  return {
    solid,
    endsWithin(piece) {
      const { runIndex, runOriginalID, faceID } = piece.getMesh();
      return [...runOriginalID].some((original, run) => {
        if (original !== id) return false;
        for (let t = runIndex[run]! / 3; t < runIndex[run + 1]! / 3; t++) if (faceID[t]! >= own) return true;
        return false;
      });
    },
  };
}

/** Has every triangle name a corner that several share by one vertex. */
function mergeCorners(corners: Uint32Array, from: Uint32Array | undefined, to: Uint32Array | undefined): void {
  const one = new Map<number, number>();
  from?.forEach((vertex, i) => {
    one.set(vertex, to![i]!);
  });
  const last = (vertex: number): number => {
    let at = vertex;
    for (let next = one.get(at); next !== undefined && next !== at; next = one.get(at)) at = next;
    return at;
  };
  corners.forEach((vertex, i) => {
    corners[i] = last(vertex);
  });
}

/** The edges that only one triangle has, as it runs along them. */
function rimOf(triangles: readonly number[]): [number, number][] {
  const edges = new Map<string, [number, number]>();
  for (let t = 0; t < triangles.length; t += 3)
    for (let k = 0; k < 3; k++) {
      const [from, to] = [triangles[t + k]!, triangles[t + ((k + 1) % 3)]!];
      if (!edges.delete(`${to} ${from}`)) edges.set(`${from} ${to}`, [from, to]);
    }
  return [...edges.values()];
}
