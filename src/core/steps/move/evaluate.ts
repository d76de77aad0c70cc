import { fail } from "../../errors";
import { hashText } from "../../hash";
import { add, placed, sub, turned, type Vec3 } from "../../kernel";
import { type Item, isBody } from "../../naming";
import { toRadians } from "../../params";
import { evaluates } from "../evaluation";
import { AXES, toVec3 } from "../shared/space";
import { move } from "./declare";

export const evaluateMove = evaluates(move, {
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
