import { makeSphere } from "../../kernel";
import { toMm } from "../../params";
import { evaluates } from "../evaluation";
import { toVec3 } from "../shared/space";
import { sphere } from "./declare";

export const evaluateSphere = evaluates(sphere, {
  weighed: () => true,
  evaluate(values, { step }) {
    const shape = makeSphere(toVec3(values.at), toMm(values.diameter) / 2);
    return {
      made: [{ id: `${step}:sphere`, kind: "solid", shape, faces: [`${step}:skin`], hint: { text: "Sphere" } }],
      used: [],
    };
  },
});
