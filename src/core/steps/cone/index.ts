import { z } from "zod";
import { fail } from "../../errors";
import { dot, freeShape, makeRevolved, placed, subshapePlanes, type Vec3 } from "../../kernel";
import { lengthField, toMm } from "../../params";
import { AXES, AXIS_OPTIONS, axisField, pointField, toVec3 } from "../common";
import { defineStep } from "../step";

const schema = z.object({
  diameter: lengthField({ min: 0 }).default(50).describe("Of the base, mm"),
  top: lengthField({ min: 0 }).default(0).describe("Diameter of the top, mm; 0 for a point"),
  height: lengthField({ above: 0 }).default(100),
  at: pointField().default([0, 0, 0]).describe("Centre of the base"),
  axis: axisField.default("z"),
});

/** The turn that brings Z to an axis. */
const TURNS: Record<"x" | "y" | "z", { axis: Vec3; angle: number }> = {
  x: { axis: [0, 1, 0], angle: Math.PI / 2 },
  y: { axis: [1, 0, 0], angle: -Math.PI / 2 },
  z: { axis: [0, 0, 1], angle: 0 },
};

/** A cone, pointed or cut off. */
export const cone = defineStep({
  type: "cone",
  schema,
  words: { label: "Cone", line: "A cone, pointed or cut off, from the centre of its base", stage: "shape" },
  fields: [
    { key: "diameter", kind: "length", label: "Diameter of the base" },
    { key: "top", kind: "length", label: "Diameter of the top" },
    { key: "height", kind: "length", label: "Height" },
    { key: "at", kind: "point", label: "Base centre" },
    { key: "axis", kind: "choice", label: "Along", options: AXIS_OPTIONS },
  ],
  refs: () => [],
  resolved: (values) => ({
    diameter: toMm(values.diameter),
    top: toMm(values.top),
    height: toMm(values.height),
    at: toVec3(values.at),
    axis: values.axis,
  }),
  weighed: () => true,
  evaluate(values, { step }) {
    const [base, top, height] = [toMm(values.diameter) / 2, toMm(values.top) / 2, toMm(values.height)];
    if (base < 1e-6 && top < 1e-6)
      fail("no-size", "A cone needs a diameter at one end at least. Give one.", { step, field: "diameter" });
    const outline: [number, number][] = [[0, 0], ...(base > 1e-6 ? [[base, 0] as [number, number]] : [])];
    outline.push(...(top > 1e-6 ? [[top, height] as [number, number]] : []), [0, height]);
    const upright = makeRevolved(outline);
    const turn = TURNS[values.axis];
    const shape = placed(upright, { about: [0, 0, 0], ...turn, by: toVec3(values.at) });
    freeShape(upright);
    const faces = subshapePlanes(shape).map((plane) =>
      plane ? `${step}:cap:${dot(plane.normal, AXES[values.axis]) > 0 ? "end" : "base"}` : `${step}:side`,
    );
    return { made: [{ id: `${step}:cone`, kind: "solid", shape, faces, hint: { text: "Cone" } }], used: [] };
  },
});
