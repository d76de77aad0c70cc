import { roundEdges } from "../../kernel";
import { toMm } from "../../params";
import { evaluates } from "../evaluation";
import { workEdges } from "../shared/edges/work";
import { fillet, groupsOf } from "./declare";

export const evaluateFillet = evaluates(fillet, {
  weighed: () => true,
  evaluate: (values, context) =>
    workEdges(
      groupsOf(values).map((group) => ({ ...group, size: toMm(group.size) })),
      {
        word: "round",
        noun: "radius",
        work: ({ shape }, groups) =>
          roundEdges(
            shape,
            groups.flatMap(({ places, size }) => places.map((place) => ({ place, radius: size }))),
          ),
      },
      context,
    ),
});
