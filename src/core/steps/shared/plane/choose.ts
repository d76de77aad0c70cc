import type * as z from "zod";
import type { StepContext } from "../../evaluation";
import type { PRINCIPAL, planeFields } from "./declare";
import { facePlane, NORMALS, otherPlane, type Plane } from "./planes";

interface Values {
  about: (typeof PRINCIPAL)[number] | "face" | "workplane";
  face: z.infer<(typeof planeFields)["face"]>;
  plane: string[];
}

/** The plane that was chosen. @param verb what is done with it, for who picked none. @throws SeamError */
export function chosenPlane({ about, face, plane }: Values, verb: string, context: StepContext): Plane {
  if (about === "face") return facePlane(face[0], `Pick the flat face to ${verb}.`, context);
  if (about === "workplane") return otherPlane(plane, `Pick the workplane to ${verb}.`, context);
  return { origin: [0, 0, 0], normal: NORMALS[about] };
}
