import { roughlyDivided } from "@/core/triangles";
import type { RoughPieces, ViewMesh } from "../contract";
import type { Operation } from "./operation";

/** What a step divides as triangles: the steps before it are done, it is not. */
export const rough: Operation<"rough"> = async (workshop, { job, part, step, known }) => {
  await workshop.triangles();
  const from = performance.now();
  const result = await workshop.build({ job, part, upTo: step, parties: step, known });
  const { parties } = result;
  try {
    const divided = parties && roughlyDivided(parties, workshop.views.meshes);
    if (!parties || !divided) return null;
    const has = new Set(known);
    const cutting = new Set(parties.knives.map(({ item }) => item.id));
    // Of what divides, solids are not drawn beside the pieces.
    const cutters = result.bench.flatMap((entry) =>
      cutting.has(entry.item.id) && entry.item.kind !== "solid" ? [workshop.views.item(entry, result, has)] : [],
    );
    const { within } = divided;
    return {
      within,
      cutters,
      pieces: divided.pieces.map(({ mesh, ...piece }) => ({ ...piece, mesh: asOneFace(mesh) })),
      took: performance.now() - from,
    } satisfies RoughPieces;
  } finally {
    parties?.free();
    workshop.keep(result);
  }
};

/** As the view has meshes: all one face, all its lines one edge. */
function asOneFace(mesh: Pick<ViewMesh, "positions" | "normals" | "indices" | "lines">): ViewMesh {
  return {
    ...mesh,
    faceRanges: Uint32Array.of(0, mesh.indices.length),
    edgeRanges: Uint32Array.of(0, mesh.lines.length / 3),
    seams: Uint8Array.of(0),
  };
}
