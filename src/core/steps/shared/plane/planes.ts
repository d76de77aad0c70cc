import { fail } from "../../../errors";
import { has } from "../../../items/kinds";
import { cross, dot, type PlaneFrame, scale, sub, subshapePlanes, unit, type Vec3 } from "../../../kernel";
import type { FaceRef } from "../../../references";
import type { StepContext } from "../../evaluation";
import type { PRINCIPAL } from "./declare";

/** Where the normals of the planes point that every part has. */
export const NORMALS: Record<(typeof PRINCIPAL)[number], Vec3> = { xy: [0, 0, 1], yz: [1, 0, 0], zx: [0, 1, 0] };

/** A point of a plane, and its unit normal. */
export interface Plane {
  origin: Vec3;
  normal: Vec3;
}

/** The plane of a flat face. @param ask what to say when none is picked. @throws SeamError */
export function facePlane(ref: FaceRef | undefined, ask: string, context: StepContext): Plane {
  if (!ref) fail("nothing-picked", ask, { step: context.step });
  const { body, face } = context.face(ref);
  return (
    subshapePlanes(body.shape)[face] ??
    fail("not-flat", "The picked face is not flat. Pick a flat one.", { step: context.step, bodies: [body.id] })
  );
}

/** The plane of a workplane. @param ask what to say when none is picked. @throws SeamError */
export function otherPlane(refs: readonly string[], ask: string, context: StepContext): Plane {
  const [item] = context.items(refs);
  if (!item || !has(item, "plane")) fail("nothing-picked", ask, { step: context.step });
  return item;
}

/**
 * The plane's own axes: its origin is the point nearest to the model's, and Y goes up where the plane stands; X is the
 * model's where it lies level. So a sketch on a face does not move when the face is cut differently.
 */
export function framed(at: Vec3, normal: Vec3): PlaneFrame {
  const origin = scale(normal, dot(at, normal));
  const level = Math.abs(normal[2]) > 0.9999;
  const lead: Vec3 = level ? [1, 0, 0] : [0, 0, 1];
  const square = unit(sub(lead, scale(normal, dot(lead, normal))));
  return { origin, normal, x: level ? square : cross(square, normal) };
}
