import { z } from "zod";
import { fail } from "../../errors";
import { makeTorus } from "../../kernel";
import { lengthField, toMm } from "../../params";
import { formatLength } from "../../units";
import { AXES, AXIS_OPTIONS, axisField, pointField, toVec3 } from "../common";
import { defineStep } from "../step";

const schema = z.object({
  diameter: lengthField({ above: 0 }).default(80).describe("Of the ring, to the middle of its round section, mm"),
  section: lengthField({ above: 0 }).default(16).describe("Diameter of the section, mm"),
  at: pointField().default([0, 0, 0]).describe("Centre"),
  axis: axisField.default("z"),
});

/** A ring of round section. */
export const torus = defineStep({
  type: "torus",
  schema,
  words: { label: "Torus", line: "A ring of round section, by its centre", stage: "shape" },
  fields: [
    { key: "diameter", kind: "length", label: "Diameter of the ring" },
    { key: "section", kind: "length", label: "Diameter of its section" },
    { key: "at", kind: "point", label: "Centre" },
    { key: "axis", kind: "choice", label: "About", options: AXIS_OPTIONS },
  ],
  refs: () => [],
  resolved: (values) => ({
    diameter: toMm(values.diameter),
    section: toMm(values.section),
    at: toVec3(values.at),
    axis: values.axis,
  }),
  weighed: () => true,
  evaluate(values, { step }) {
    const [ring, section] = [toMm(values.diameter), toMm(values.section)];
    if (section >= ring - 1e-6)
      fail(
        "no-hole",
        `A section of ${formatLength(section)} leaves a ring of ${formatLength(ring)} no hole. Make it thinner, or the ring larger.`,
        { step, field: "section" },
      );
    const shape = makeTorus(toVec3(values.at), AXES[values.axis], ring / 2, section / 2);
    return {
      made: [{ id: `${step}:torus`, kind: "solid", shape, faces: [`${step}:skin`], hint: { text: "Torus" } }],
      used: [],
    };
  },
});
