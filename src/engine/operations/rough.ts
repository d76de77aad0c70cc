import { hollowRoughly, roughlyDivided } from "@/core/triangles";
import type { BodyView, RoughPieces, ViewMesh } from "../contract";
import type { Operation } from "./operation";

/** What a step divides or hollows as triangles: the steps before it are done, it is not. */
export const rough: Operation<"rough"> = async (workshop, { job, part, step, known }) => {
  await workshop.triangles();
  const from = performance.now();
  const result = await workshop.build({ job, part, upTo: step, parties: step, known });
  const { parties, hollow } = result;
  try {
    const hollowed = hollow && result.bench.find(({ item }) => item.id === hollow.body.id);
    if (hollow && hollowed) {
      const { meshId, mesh } = workshop.views.meshOf(hollowed, result);
      const item = workshop.views.item(hollowed, result, new Set([meshId])) as BodyView;
      const drawn = asOneFace(hollowRoughly(mesh, hollow));
      const moved = { ...item, meshId: workshop.views.newMeshId(), mesh: drawn };
      return { pieces: [], items: [moved], within: null, took: performance.now() - from };
    }
    const divided = parties && roughlyDivided(parties, workshop.views.meshes);
    if (!parties || !divided) return null;
    const has = new Set(known);
    const cutting = new Set(parties.knives.map(({ item }) => item.id));
    // Of what divides, solids are not drawn beside the pieces.
    const items = result.bench.flatMap((entry) =>
      cutting.has(entry.item.id) && entry.item.kind !== "solid" ? [workshop.views.item(entry, result, has)] : [],
    );
    const { within } = divided;
    return {
      within,
      items,
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
