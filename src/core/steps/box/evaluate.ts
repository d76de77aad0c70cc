import { fail } from "../../errors";
import { boxOf, makeBox, subshapePlanes, unionBox, type Vec3 } from "../../kernel";
import { SAME_PLACE } from "../../tolerance";
import { evaluates, type StepContext, type ValuesOf } from "../evaluation";
import { toVec3 } from "../shared/space";
import { box } from "./declare";

type Values = ValuesOf<typeof box>;

export const evaluateBox = evaluates(box, {
  weighed: () => true,
  evaluate(values, context) {
    const { corner, size } = values.place === "around" ? roundBodies(values, context) : bySizes(values);
    const shape = makeBox(corner, size);
    const faces = subshapePlanes(shape).map((plane) => `${context.step}:side:${directionName(plane!.normal)}`);
    return { made: [{ id: `${context.step}:block`, kind: "solid", shape, faces, hint: { text: "Block" } }], used: [] };
  },
});

function bySizes({ size, at, anchor }: Values): { corner: Vec3; size: Vec3 } {
  const s = toVec3(size);
  const p = toVec3(at);
  const middle = anchor === "corner" ? 0 : 0.5;
  return { corner: [p[0] - s[0] * middle, p[1] - s[1] * middle, p[2] - (anchor === "centre" ? s[2] / 2 : 0)], size: s };
}

function roundBodies(values: Values, context: StepContext) {
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
  if (Math.min(...size) < SAME_PLACE)
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
