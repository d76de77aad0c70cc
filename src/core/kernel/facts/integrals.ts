import type { EdgeUse, FaceStructure, Structure, SurfaceRecord } from "../binary";
import { scale, type Vec3 } from "../space/vectors";
import { flatIntegrals } from "./flat-integrals";
import { freeIntegrals } from "./free-integrals";
import { roundIntegrals } from "./round-integrals";

/** What integrating over a face gives, exact to rounding. */
export interface FaceIntegrals {
  /** mm² */
  area: number;
  /** The integral of the place over the face, mm³: divided by the area it is the middle of the face. */
  moment: Vec3;
  /** The integral of the outward normal, mm²: the sum over a skin with no gap is nothing. */
  normal: Vec3;
  /** The integral of place · outward normal, mm³: a third of the sum over a closed skin is the volume within. */
  flux: number;
}

/**
 * Integrates over a flat face that lines, conics and splines bound, or over a part of a cylinder, cone, sphere or
 * torus whose edges are straight in the surface's parameters: by Green's theorem along its edges.
 * @param rough whether edges that are splines are gone along once, which is good to tell places by; else in ever more
 * parts until two divisions agree to 1e-11.
 * @returns null for any other face, which is left to the library's own integration.
 */
export function faceIntegrals(structure: Structure, place: number, rough = false): FaceIntegrals | null {
  const face = structure.faces[place]!;
  const { surface } = face;
  if (!surface) return null;
  const uses = face.wires.flat().filter(({ bounds }) => bounds);
  if (uses.length === 0) return null;
  const found = integralsOf(structure, face, surface, uses, rough);
  if (!found || !(found.area > 0)) return null;
  return face.forward ? found : { ...found, normal: scale(found.normal, -1), flux: -found.flux };
}

function integralsOf(
  structure: Structure,
  face: FaceStructure,
  surface: SurfaceRecord,
  uses: EdgeUse[],
  rough: boolean,
): FaceIntegrals | null {
  const form =
    "axis" in surface &&
    (surface.kind === "plane"
      ? flatIntegrals(structure, surface, uses, rough)
      : roundIntegrals(structure, face, surface, uses, rough));
  // A ring that overlaps itself, a cone past its tip, an edge that runs beside another: as on a free surface.
  return form || freeIntegrals(structure, face, uses, rough);
}
