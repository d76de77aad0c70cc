import * as z from "zod";
import type { Vec3 } from "../../kernel";
import { lengthField, type Quantity, toMm } from "../../params";

/** X, Y and Z as lengths. */
export const pointField = () => z.tuple([lengthField(), lengthField(), lengthField()]);

export function toVec3(values: readonly [Quantity, Quantity, Quantity]): Vec3 {
  return [toMm(values[0]), toMm(values[1]), toMm(values[2])];
}

export const axisField = z.enum(["x", "y", "z"]);
export const AXES: Record<z.infer<typeof axisField>, Vec3> = { x: [1, 0, 0], y: [0, 1, 0], z: [0, 0, 1] };
export const AXIS_OPTIONS = (["x", "y", "z"] as const).map((value) => ({ value, label: value.toUpperCase() }));
