import { freeShape, type Shape } from "../../kernel";
import { dividesAll } from "../../seam";
import type { Parties, StepContext, ValuesOf } from "../evaluation";
import type { seam } from "./declare";
import { keepsGap } from "./gap";
import { knivesOf, unique } from "./knives";

/**
 * What the step divides and by what, found as the division itself finds it and not divided. Null where a picture by triangles cannot
 * stand for what comes of it: of sheets, of a room that is filled, of what is closed where it is cut, of cutters that have to be grown first.
 */
export function partiesOf(values: ValuesOf<typeof seam>, context: StepContext): Parties | null {
  if (values.preset === "fill" || values.close || keepsGap(values)) return null;
  const all = dividesAll(values.preset);
  const stock = unique(context.bodies(all ? [...values.stock, ...values.cutters] : values.stock));
  if (stock.length === 0 || stock.some(({ kind }) => kind !== "solid")) return null;
  const owned: Shape[] = [];
  const free = () => {
    for (const shape of owned) freeShape(shape);
  };
  try {
    const { knives } =
      values.preset === "union"
        ? { knives: [] }
        : knivesOf(all ? { ...values, cutters: [], mutual: false } : values, stock, context, owned);
    const shared = all || (values.preset === "choose" && stock.length > 1);
    return { stock, knives, shared, free };
  } catch (cause) {
    free();
    throw cause;
  }
}
