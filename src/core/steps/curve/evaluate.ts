import { spansThrough } from "../../curve/drawn";
import { fail } from "../../errors";
import { evaluates } from "../evaluation";
import { toVec3 } from "../shared/space";
import { curve } from "./declare";

export const evaluateCurve = evaluates(curve, {
  evaluate({ points, closed, smooth }, { step }) {
    const least = closed ? 3 : 2;
    if (points.length < least)
      fail("points-few", `A ${closed ? "closed " : ""}curve goes through ${least} points at least. Add one.`, {
        step,
        field: "points",
      });
    const twice = points.find(({ id }, i) => points.findIndex((other) => other.id === id) !== i);
    if (twice)
      fail("points-named", `Two points are called “${twice.id}”. Give one another id.`, { step, field: "points" });
    const places = points.map((point) => ({ ...point, at: toVec3(point.at) }));
    const spans = spansThrough(places, closed, smooth);
    if ("points" in spans) {
      const [a, b] = spans.points.map((id) => points.findIndex((point) => point.id === id) + 1);
      fail("points-one", `Points ${a} and ${b} are one place, and follow each other. Move one, or take it out.`, {
        step,
        field: "points",
        at: [...spans.at],
      });
    }
    return { made: [{ id: `${step}:curve`, kind: "curve", spans, hint: { text: "Curve" } }], used: [] };
  },
});
