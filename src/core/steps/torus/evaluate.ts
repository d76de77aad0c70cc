import { fail } from "../../errors";
import { makeTorus } from "../../kernel";
import { toMm } from "../../params";
import { SAME_PLACE } from "../../tolerance";
import { formatLength } from "../../units";
import { evaluates } from "../evaluation";
import { AXES, toVec3 } from "../shared/space";
import { torus } from "./declare";

export const evaluateTorus = evaluates(torus, {
  weighed: () => true,
  evaluate(values, { step }) {
    const [ring, section] = [toMm(values.diameter), toMm(values.section)];
    if (section >= ring - SAME_PLACE)
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
