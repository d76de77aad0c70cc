import { edgeHandles } from "../library/incidence";
import { lib } from "../library/library";
import { type Scope, scoped } from "../library/scope";
import { facesOf, type Shape } from "../library/topology";

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
export function tessellate(shape: Shape, deflection: Deflection): Mesh {
  return meshParts(shape, facesOf(shape), edgeHandles(shape), deflection);
}

/** Meshes a shape and tells the ranges of some of its faces and edges, by handles of the caller's. */
export function meshParts(
  shape: Shape,
  faces: readonly Shape[],
  edges: readonly Shape[],
  { linear, angular }: Deflection,
): Mesh {
  return extracted(shape, { linear, angular }, ({ groups, edgeGroups, ...arrays }) => ({
    ...arrays,
    faceRanges: ranges(groups, faces),
    edgeRanges: ranges(edgeGroups, edges),
  }));
}

/** Triangles of a shape without the lines along its edges, and the ranges of some of its faces, by handles of the caller's. */
export function triangulate(
  shape: Shape,
  faces: readonly Shape[],
  deflection: Deflection,
): Pick<Mesh, "positions" | "indices" | "faceRanges"> {
  return scoped((scope) => {
    const { positions, indices, groups } = facesExtracted(scope, shape, deflection);
    lib().BRepTools.Clean(shape, true);
    return { positions, indices, faceRanges: ranges(groups, faces) };
  });
}

/** What the library has of a mesh, copied out, before its ranges are told whose they are. */
interface Extract extends Omit<Mesh, "faceRanges" | "edgeRanges"> {
  groups: Int32Array;
  edgeGroups: Int32Array;
}

/** Meshes a shape as the library does it. */
export function extracted<T>(shape: Shape, deflection: Deflection, read: (extract: Extract) => T): T {
  return scoped((scope) => {
    const oc = lib();
    const triangles = facesExtracted(scope, shape, deflection);
    const { linear, angular } = deflection;
    const polylines = scope.use(oc.ReplicadEdgeMeshExtractor.extract(shape, linear, angular));
    const memory = oc.wasmMemory.buffer;
    const lines = new Float32Array(memory, polylines.getLinesPtr(), polylines.getLinesSize()).slice();
    const edgeGroups = new Int32Array(memory, polylines.getEdgeGroupsPtr(), polylines.getEdgeGroupsSize()).slice();
    // The library would keep the triangles with the shape, and hand them on to all that is made from it.
    oc.BRepTools.Clean(shape, true);
    return read({ ...triangles, lines, edgeGroups });
  });
}

/** The library's triangles, copied out; it has them until they are cleaned away. */
function facesExtracted(scope: Scope, shape: Shape, { linear, angular }: Deflection) {
  const oc = lib();
  const data = scope.use(oc.ReplicadMeshExtractor.extract(shape, linear, angular, false));
  const memory = oc.wasmMemory.buffer;
  return {
    positions: new Float32Array(memory, data.getVerticesPtr(), data.getVerticesSize()).slice(),
    normals: new Float32Array(memory, data.getNormalsPtr(), data.getNormalsSize()).slice(),
    indices: new Uint32Array(memory, data.getTrianglesPtr(), data.getTrianglesSize()).slice(),
    groups: new Int32Array(memory, data.getFaceGroupsPtr(), data.getFaceGroupsSize()).slice(),
  };
}

/** The library tags a range with its part's hash; a part that it could not mesh has none. */
function ranges(groups: Int32Array, parts: readonly Shape[]): Uint32Array {
  const oc = lib();
  const rangeOfHash = new Map<number, number>();
  for (let g = 0; g < groups.length; g += 3) rangeOfHash.set(groups[g + 2]!, g);
  const found = new Uint32Array(parts.length * 2);
  parts.forEach((part, place) => {
    const g = rangeOfHash.get(oc.ReplicadShapeHasher.HashCode(part, 2147483647));
    if (g === undefined) return;
    found[place * 2] = groups[g]!;
    found[place * 2 + 1] = groups[g + 1]!;
  });
  return found;
}

/**
 * A mesh fine enough to look at: about a thousandth of the diagonal, within sensible bounds, in steps of a factor of √2,
 * so that what stays as it is stays meshed as it is while the body grows a little.
 */
export function viewDeflection(diagonal: number): Deflection {
  const step = 2 ** (Math.round(2 * Math.log2(Math.max(diagonal, 1e-6) / 1500)) / 2);
  return { linear: Math.min(Math.max(step, 0.005), 2), angular: 0.25 };
}
