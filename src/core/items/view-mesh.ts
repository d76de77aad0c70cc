import { boxOf, diagonal, edgeNeighbourhoods, type Mesh, type MeshStore, type Shape, viewDeflection } from "../kernel";

/** A mesh with its seam lines: 1 for each edge where faces of different steps meet. */
export interface ViewMesh extends Mesh {
  seams: Uint8Array;
}

/** A mesh to look at, with the edges marked where faces of different steps meet: the seam lines. */
export function viewMesh(meshes: MeshStore, shape: Shape, faces: readonly string[]): ViewMesh {
  const box = boxOf(shape);
  const mesh = meshes.mesh(shape, viewDeflection(box ? diagonal(box) : 1));
  const seams = edgeNeighbourhoods(shape).edges.map(
    (edge) => new Set(edge?.faces.map((face) => originOf(faces[face]!))).size > 1,
  );
  return { ...mesh, seams: Uint8Array.from(seams, Number) };
}

/** The step that a face comes from. */
function originOf(face: string): string {
  return face.split(":")[0]!;
}
