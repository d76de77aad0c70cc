import { z } from "zod";
import { fail } from "../../errors";
import { boxOf, makeBox, subshapePlanes, unionBox, type Vec3 } from "../../kernel";
import { lengthField, toMm } from "../../params";
import { itemRef, pointField, toVec3 } from "../common";
import { defineStep } from "../step";

const schema = z.object({
  place: z
    .enum(["sized", "around"])
    .default("sized")
    .describe("sized: by its sizes and place; around: round other bodies with a margin"),
  size: z
    .tuple([lengthField({ above: 0 }), lengthField({ above: 0 }), lengthField({ above: 0 })])
    .default([100, 100, 100]),
  at: pointField().default([0, 0, 0]),
  anchor: z
    .enum(["corner", "centre", "base"])
    .default("base")
    .describe("What `at` places: the lowest corner, the centre, or the centre of the base"),
  around: z.array(itemRef).max(200).default([]).describe("Bodies to put the block round"),
  margin: z.tuple([lengthField({ min: 0 }), lengthField({ min: 0 }), lengthField({ min: 0 })]).default([10, 10, 10]),
});

/** A rectangular block of stock. */
export const box = defineStep({
  type: "box",
  schema,
  words: { label: "Block", line: "A rectangular block, by its sizes or round other bodies", stage: "shape" },
  fields: [
    {
      key: "place",
      kind: "choice",
      label: "Sizes",
      options: [
        { value: "sized", label: "By sizes" },
        { value: "around", label: "Around bodies" },
      ],
    },
    {
      key: "around",
      kind: "bodies",
      label: "Around",
      accepts: ["solid", "sheet"],
      min: 1,
      when: { key: "place", is: ["around"] },
    },
    { key: "margin", kind: "point", label: "Margin on each side", when: { key: "place", is: ["around"] } },
    { key: "size", kind: "point", label: "Size", when: { key: "place", is: ["sized"] } },
    { key: "at", kind: "point", label: "Place", when: { key: "place", is: ["sized"] } },
    {
      key: "anchor",
      kind: "choice",
      label: "The place is its",
      when: { key: "place", is: ["sized"] },
      options: [
        { value: "base", label: "Base centre" },
        { value: "centre", label: "Centre" },
        { value: "corner", label: "Low corner" },
      ],
    },
  ],
  refs: (values) => (values.place === "around" ? values.around : []),
  resolved: (values) =>
    values.place === "around"
      ? { margin: values.margin.map(toMm) }
      : { size: values.size.map(toMm), at: toVec3(values.at), anchor: values.anchor },
  weighed: () => true,
  evaluate(values, context) {
    const { corner, size } = values.place === "around" ? roundBodies(values, context) : bySizes(values);
    const shape = makeBox(corner, size);
    const faces = subshapePlanes(shape).map((plane) => `${context.step}:side:${directionName(plane!.normal)}`);
    return { made: [{ id: `${context.step}:block`, kind: "solid", shape, faces, hint: { text: "Block" } }], used: [] };
  },
});

function bySizes({ size, at, anchor }: z.infer<typeof schema>): { corner: Vec3; size: Vec3 } {
  const s = toVec3(size);
  const p = toVec3(at);
  const middle = anchor === "corner" ? 0 : 0.5;
  return { corner: [p[0] - s[0] * middle, p[1] - s[1] * middle, p[2] - (anchor === "centre" ? s[2] / 2 : 0)], size: s };
}

function roundBodies(values: z.infer<typeof schema>, context: Parameters<typeof box.evaluate>[1]) {
  const bodies = context.bodies(values.around);
  if (bodies.length === 0) fail("nothing-picked", "Pick the bodies that the block goes round.", { step: context.step });
  const whole = bodies
    .map((body) => boxOf(body.shape))
    .filter((found) => found !== null)
    .reduce(unionBox);
  const margin = toVec3(values.margin);
  const corner: Vec3 = [whole.min[0] - margin[0], whole.min[1] - margin[1], whole.min[2] - margin[2]];
  const size: Vec3 = [
    whole.max[0] + margin[0] - corner[0],
    whole.max[1] + margin[1] - corner[1],
    whole.max[2] + margin[2] - corner[2],
  ];
  if (Math.min(...size) < 1e-6)
    fail(
      "no-thickness",
      "The block would have no thickness: give a margin in the direction in which the bodies are flat.",
      { step: context.step },
    );
  return { corner, size };
}

/** `x+`, `y-` …: which way an axis-parallel normal points. */
export function directionName(normal: Vec3): string {
  const axis = normal.findIndex((value) => Math.abs(value) > 0.5);
  return `${"xyz"[axis]}${normal[axis]! > 0 ? "+" : "-"}`;
}
