import type { Manifold } from "manifold-3d";
import { rimOf } from "./skin";

/** Triangles to be drawn, with the lines where they bend sharply. Typed arrays, millimetres. */
export interface RoughMesh {
  positions: Float32Array;
  /** xyz per vertex, unit, pointing out of the material. */
  normals: Float32Array;
  indices: Uint32Array;
  /** xyz pairs: segments, two points each. */
  lines: Float32Array;
}

/** Degrees: neighbouring triangles that lean more from each other meet in an edge. */
const SHARP = 25;

export function drawnMesh(solid: Manifold): RoughMesh {
  const turned = solid.calculateNormals(0, SHARP);
  try {
    const { vertProperties, numProp, triVerts } = turned.getMesh();
    const count = vertProperties.length / numProp;
    const positions = new Float32Array(3 * count);
    const normals = new Float32Array(3 * count);
    for (let i = 0; i < count; i++)
      for (let k = 0; k < 3; k++) {
        positions[3 * i + k] = vertProperties[numProp * i + k]!;
        normals[3 * i + k] = vertProperties[numProp * i + 3 + k]!;
      }
    const indices = triVerts.slice();
    return { positions, normals, indices, lines: sharpLines(positions, indices) };
  } finally {
    turned.delete();
  }
}

/**
 * The edges at which a mesh has other vertices on either side: it has two vertices at one place only where the normals there differ, and so
 * each of those edges is named once by either side, run the other way.
 */
function sharpLines(positions: Float32Array, indices: Uint32Array): Float32Array {
  const edges = rimOf(indices, positions.length / 3);
  const lines = new Float32Array(6 * edges.length);
  let at = 0;
  for (const [from, to] of edges) {
    const [a, b] = [3 * from, 3 * to];
    // Of the two the one that runs up, by the first coordinate in which its ends differ.
    const differs = [0, 1, 2].find((k) => positions[a + k] !== positions[b + k]) ?? 0;
    if (positions[a + differs]! > positions[b + differs]!) continue;
    for (let k = 0; k < 3; k++) {
      lines[at + k] = positions[a + k]!;
      lines[at + 3 + k] = positions[b + k]!;
    }
    at += 6;
  }
  return lines.slice(0, at);
}
