import { cutEdges } from "../../kernel";
import { toMm } from "../../params";
import { evaluates } from "../evaluation";
import { workEdges } from "../shared/edges/work";
import { chamfer } from "./declare";

export const evaluateChamfer = evaluates(chamfer, {
  weighed: () => true,
  evaluate(values, context) {
    const share = values.kind === "two" ? toMm(values.second) / toMm(values.distance) : 1;
    return workEdges(
      [{ refs: values.edges, size: toMm(values.distance), field: "distance" }],
      {
        word: "bevel",
        noun: "chamfer",
        work: ({ shape }, groups) =>
          cutEdges(
            shape,
            groups.flatMap(({ places, size }) =>
              places.map((place) => {
                const [first, second] = values.flip ? [size * share, size] : [size, size * share];
                return { place, first, second };
              }),
            ),
          ),
      },
      context,
    );
  },
});
