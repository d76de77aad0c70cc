import { fail } from "../../errors";
import { dot, freeShape, makeRevolved, placed, subshapePlanes, type Vec3 } from "../../kernel";
import { toMm } from "../../params";
import { SAME_PLACE } from "../../tolerance";
import { evaluates } from "../evaluation";
import { AXES, toVec3 } from "../shared/space";
import { cone } from "./declare";

export const evaluateCone = evaluates(cone, {
  weighed: () => true,
  evaluate(values, { step }) {
    const [base, top, height] = [toMm(values.diameter) / 2, toMm(values.top) / 2, toMm(values.height)];
    if (base < SAME_PLACE && top < SAME_PLACE)
      fail("no-size", "A cone needs a diameter at one end at least. Give one.", { step, field: "diameter" });
    const outline: [number, number][] = [[0, 0], ...(base > SAME_PLACE ? [[base, 0] as [number, number]] : [])];
    outline.push(...(top > SAME_PLACE ? [[top, height] as [number, number]] : []), [0, height]);
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

/** The turn that brings Z to an axis. */
const TURNS: Record<"x" | "y" | "z", { axis: Vec3; angle: number }> = {
  x: { axis: [0, 1, 0], angle: Math.PI / 2 },
  y: { axis: [1, 0, 0], angle: -Math.PI / 2 },
  z: { axis: [0, 0, 1], angle: 0 },
};
