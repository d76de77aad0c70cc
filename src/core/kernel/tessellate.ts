import { edgeHandles } from "./incidence";
import { lib } from "./library";
import { scoped } from "./scope";
import { facesOf, type Shape } from "./topology";

/** Triangles and edge lines of a shape for drawing and for mesh files. Typed arrays, millimetres. */
export interface Mesh {
  /** xyz per vertex; vertices are not shared between faces. */
  positions: Float32Array;
  /** xyz per vertex, unit, pointing out of the material. */
  normals: Float32Array;
  indices: Uint32Array;
  /** Per face, in the order of `subshapes(shape, "face")`: first index and index count. */
  faceRanges: Uint32Array;
  /** xyz pairs: segments, two points each. */
  lines: Float32Array;
  /** Per edge, in the order of `subshapes(shape, "edge")`: first point and point count into `lines` (in points). */
  edgeRanges: Uint32Array;
}

export interface Deflection {
  /** How far a triangle may lie from the true surface, mm. */
  linear: number;
  /** The largest angle between neighbouring normals, radians. */
  angular: number;
}

/**
 * Meshes a shape. Approximate by nature: within `linear` mm of the exact surface.
 * Memory of the library is copied out and freed.
 */
export function tessellate(shape: Shape, { linear, angular }: Deflection): Mesh {
  return scoped((scope) => {
    const oc = lib();
    const data = scope.use(oc.ReplicadMeshExtractor.extract(shape, linear, angular, false));
    const memory = oc.wasmMemory.buffer;
    const positions = new Float32Array(memory, data.getVerticesPtr(), data.getVerticesSize()).slice();
    const normals = new Float32Array(memory, data.getNormalsPtr(), data.getNormalsSize()).slice();
    const indices = new Uint32Array(memory, data.getTrianglesPtr(), data.getTrianglesSize()).slice();
    const groups = new Int32Array(memory, data.getFaceGroupsPtr(), data.getFaceGroupsSize()).slice();
    const polylines = scope.use(oc.ReplicadEdgeMeshExtractor.extract(shape, linear, angular));
    const lineMemory = oc.wasmMemory.buffer;
    const lines = new Float32Array(lineMemory, polylines.getLinesPtr(), polylines.getLinesSize()).slice();
    const edgeGroups = new Int32Array(lineMemory, polylines.getEdgeGroupsPtr(), polylines.getEdgeGroupsSize()).slice();

    // The library tags a range with its face's hash; a face that it could not mesh has no range.
    const faces = facesOf(shape);
    const rangeOfHash = new Map<number, number>();
    for (let g = 0; g < groups.length; g += 3) rangeOfHash.set(groups[g + 2]!, g);
    const faceRanges = new Uint32Array(faces.length * 2);
    faces.forEach((face, f) => {
      const g = rangeOfHash.get(oc.ReplicadShapeHasher.HashCode(face, 2147483647));
      if (g === undefined) return;
      faceRanges[f * 2] = groups[g]!;
      faceRanges[f * 2 + 1] = groups[g + 1]!;
    });
    const edges = edgeHandles(shape);
    const lineOfHash = new Map<number, number>();
    for (let g = 0; g < edgeGroups.length; g += 3) lineOfHash.set(edgeGroups[g + 2]!, g);
    const edgeRanges = new Uint32Array(edges.length * 2);
    edges.forEach((edge, e) => {
      const g = lineOfHash.get(oc.ReplicadShapeHasher.HashCode(edge, 2147483647));
      if (g === undefined) return;
      edgeRanges[e * 2] = edgeGroups[g]!;
      edgeRanges[e * 2 + 1] = edgeGroups[g + 1]!;
    });
    return { positions, normals, indices, faceRanges, lines, edgeRanges };
  });
}

/** A mesh fine enough to look at: a thousandth of the diagonal, within sensible bounds. */
export function viewDeflection(diagonal: number): Deflection {
  return { linear: Math.min(Math.max(diagonal / 1500, 0.005), 2), angular: 0.25 };
}
