import { z } from "zod";
import { fail } from "../../errors";
import { hashText } from "../../hash";
import { add, placed, sub, turned, type Vec3 } from "../../kernel";
import { type Item, isBody } from "../../naming";
import { angleField, toRadians } from "../../params";
import { AXES, AXIS_OPTIONS, axisField, itemRef, pointField, toVec3 } from "../common";
import { defineStep } from "../step";

const schema = z.object({
  bodies: z.array(itemRef).max(200).default([]),
  by: pointField().default([0, 0, 0]),
  turn: angleField().default(0),
  axis: axisField.default("z"),
  about: pointField().default([0, 0, 0]).describe("A point on the axis"),
  copy: z.boolean().default(false).describe("Leave the original where it is"),
});

/** Moves or copies by exact values: first the turn, then the shift. */
export const move = defineStep({
  type: "move",
  schema,
  words: {
    label: "Move or copy",
    line: "Bodies turned and shifted by exact values, or copies of them",
    stage: "shape",
  },
  fields: [
    { key: "bodies", kind: "bodies", label: "Bodies", accepts: ["solid", "sheet", "workplane", "sketch"], min: 1 },
    { key: "by", kind: "point", label: "Shift by" },
    { key: "turn", kind: "angle", label: "Turn by" },
    { key: "axis", kind: "choice", label: "Turn round", options: AXIS_OPTIONS },
    { key: "about", kind: "point", label: "Through the point" },
    { key: "copy", kind: "toggle", label: "Keep the original (copy)" },
  ],
  refs: (values) => values.bodies,
  changes: (values) => (values.copy ? [] : values.bodies),
  resolved: (values) => ({
    by: toVec3(values.by),
    turn: toRadians(values.turn),
    axis: values.axis,
    about: toVec3(values.about),
    copy: values.copy,
  }),
  weighed: () => true,
  evaluate(values, context) {
    const items = context.items(values.bodies);
    if (items.length === 0) fail("nothing-picked", "Pick the bodies to move.", { step: context.step });
    const placement = {
      about: toVec3(values.about),
      axis: AXES[values.axis],
      angle: toRadians(values.turn),
      by: toVec3(values.by),
    };
    const made = items.map((item): Item => {
      const id = values.copy ? `${context.step}:copy:${hashText(item.id).slice(0, 6)}` : item.id;
      const hint = values.copy ? { from: item.id, suffix: "copy" } : item.hint;
      if (isBody(item)) {
        const faces = values.copy ? item.faces.map((name) => `${context.step}:copy:${name}`) : item.faces;
        return { ...item, id, hint, faces, shape: placed(item.shape, placement) };
      }
      const turn = (v: Vec3) => turned(v, placement.axis, placement.angle);
      const place = (at: Vec3) => add(add(turn(sub(at, placement.about)), placement.about), placement.by);
      if (item.kind === "workplane")
        return { ...item, id, hint, origin: place(item.origin), normal: turn(item.normal) };
      const { origin, normal, x } = item.frame;
      return { ...item, id, hint, frame: { origin: place(origin), normal: turn(normal), x: turn(x) } };
    });
    return { made, used: values.copy ? [] : items.map((item) => item.id) };
  },
});
