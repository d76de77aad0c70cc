import {
  boxOf,
  diagonal,
  edgeLengthAt,
  edgeNeighbourhoods,
  type Mesh,
  type MeshStore,
  type Shape,
  viewDeflection,
} from "../kernel";

/** A mesh with its seam lines: 1 for each edge where faces of different steps meet. */
export interface ViewMesh extends Mesh {
  seams: Uint8Array;
}

/** A mesh to look at, with the edges marked where faces of different steps meet: the seam lines. */
export function viewMesh(meshes: MeshStore, shape: Shape, faces: readonly string[]): ViewMesh {
  const box = boxOf(shape);
  const mesh = meshes.mesh(shape, viewDeflection(box ? diagonal(box) : 1));
  return { ...mesh, seams: Uint8Array.from(seamsOf(shape, faces), Number) };
}

/** mm: how long the seam lines of a shape are together. */
export function seamLength(shape: Shape, faces: readonly string[]): number {
  return seamsOf(shape, faces).reduce((sum, seam, place) => sum + (seam ? edgeLengthAt(shape, place) : 0), 0);
}

/** Of each edge, whether faces of different steps meet there. */
const seamsOf = (shape: Shape, faces: readonly string[]): boolean[] =>
  edgeNeighbourhoods(shape).edges.map((edge) => new Set(edge?.faces.map((face) => originOf(faces[face]!))).size > 1);

/** The step that a face comes from. */
function originOf(face: string): string {
  return face.split(":")[0]!;
}
