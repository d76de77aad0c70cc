import { fail } from "../../errors";
import { type Mesh, openEdges, skinFault, tessellate, welded } from "../../kernel";
import type { OutBody } from "./declare";

/**
 * Bodies as triangles within `tolerance` mm of their exact surfaces.
 * @throws SeamError `not-closed` where a solid's skin closes and its triangles do not: a face of it cannot be made into triangles.
 */
export function trianglesOf(bodies: readonly OutBody[], tolerance: number): Mesh[] {
  if (!(tolerance >= 0.0005 && tolerance <= 10))
    fail("tolerance", "The tolerance has to lie between 0.0005 mm and 10 mm.");
  const meshes = bodies.map(({ shape }) => tessellate(shape, { linear: tolerance, angular: angleFor(tolerance) }));
  if (meshes.every(({ indices }) => indices.length === 0))
    fail("nothing-to-write", "There is nothing to write: the bodies have no surface.");
  bodies.forEach(({ name, kind, shape }, i) => {
    if (kind === "solid" && openEdges(shape).length === 0 && skinFault(welded(meshes[i]!)) === "open")
      fail(
        "not-closed",
        `The triangles of ${name} do not close at this tolerance. Give a smaller tolerance, or write it as STEP.`,
      );
  });
  return meshes;
}

/** A finer tolerance asks for smaller steps round curves too. */
function angleFor(tolerance: number): number {
  return Math.min(0.5, Math.max(0.05, Math.sqrt(tolerance)));
}
