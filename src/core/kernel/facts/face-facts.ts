import { incidenceOf } from "../library/incidence";
import type { Shape } from "../library/topology";
import type { Vec3 } from "../space/vectors";
import { faceMass } from "./mass";
import { flatOf } from "./planes";

export type FaceKind =
  | "plane"
  | "cylinder"
  | "cone"
  | "sphere"
  | "torus"
  | "spline"
  | "revolution"
  | "extrusion"
  | "offset"
  | "other";

export interface FaceFacts {
  kind: FaceKind;
  /** mm² */
  area: number;
  /** Centre of the face's surface; it need not lie on the face. */
  centre: Vec3;
  /** A plane's normal, pointing out of the material; a cylinder's axis. */
  direction?: Vec3;
  /** A cylinder's or a sphere's radius, mm. */
  radius?: number;
  /** A point on a cylinder's axis. */
  axisAt?: Vec3;
}

const known = new WeakMap<Shape, FaceFacts[]>();

/** The facts of every face, in the order of `subshapes(shape, "face")`: kind, size, place, and what its kind has. */
export function allFaceFacts(shape: Shape): FaceFacts[] {
  let facts = known.get(shape);
  if (!facts) {
    facts = incidenceOf(shape).faces.map((face, place) => {
      const { surface } = face;
      const mass = faceMass(shape, place);
      if (surface?.kind === "plane") return { kind: "plane", ...mass, direction: flatOf(face)!.normal };
      if (surface?.kind === "cylinder")
        return { kind: "cylinder", ...mass, radius: surface.radius, direction: surface.axis, axisAt: surface.at };
      if (surface?.kind === "sphere") return { kind: "sphere", ...mass, radius: surface.radius };
      return { kind: surface?.kind ?? "other", ...mass };
    });
    known.set(shape, facts);
  }
  return facts;
}
