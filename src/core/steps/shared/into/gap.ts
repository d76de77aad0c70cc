import { fail, type Trouble } from "../../../errors";
import { flushFaces } from "../../../fit/flush";
import { offsetFaces } from "../../../fit/offset-faces";
import type { Body } from "../../../items";
import { allFaceFacts, freeShape, nearest } from "../../../kernel";
import { SAME_PLACE } from "../../../tolerance";
import { formatLength } from "../../../units";
import type { StepContext } from "../../evaluation";

/**
 * Solids that cut, grown by the gap that what is left keeps off them, mm; below 0 smaller, but where they begin in the skin of what is cut. They
 * go by their own names; the shapes are new.
 * @throws SeamError where one cannot be grown so far
 */
export function grownBy(tools: readonly Body[], targets: readonly Body[], gap: number, context: StepContext): Body[] {
  const made: Body[] = [];
  try {
    for (const tool of tools) made.push(grown(tool, targets, gap, context));
    return made;
  } catch (cause) {
    for (const { shape } of made) freeShape(shape);
    throw cause;
  }
}

function grown(tool: Body, targets: readonly Body[], gap: number, context: StepContext): Body {
  const { step } = context;
  const mouths = gap < 0 ? flushFaces(tool, targets) : new Set<number>();
  const done = offsetFaces(
    tool,
    tool.faces.flatMap((_, place) => (mouths.has(place) ? [] : [{ place, by: gap }])),
  );
  const at = (place: number | undefined) => {
    const facts = allFaceFacts(tool.shape)[place ?? 0];
    return facts ? { at: [...facts.centre] as [number, number, number] } : {};
  };
  if ("why" in done)
    fail(
      `gap-${done.why}`,
      done.why === "nothing"
        ? `With a gap of ${formatLength(gap)} nothing is left of what cuts.`
        : `What cuts cannot be made with a gap of ${formatLength(gap)}: a radius is used up, or its faces do not meet any more. Take another gap.`,
      { step, field: "intoGap", ...at(done.places[0]) },
    );
  if (done.gone.length > 0)
    context.warn({
      code: "gap-closes",
      message: `With the gap ${done.gone.length === 1 ? "a face" : `${done.gone.length} faces`} of what cuts ${done.gone.length === 1 ? "has" : "have"} no place: a slot that is narrower than the gaps in it leaves nothing standing.`,
      step,
      field: "intoGap",
      ...at(done.gone[0]),
    });
  return { ...tool, shape: done.shape, faces: done.faces };
}

/** How near what cuts, as it was drawn, comes to what is left: measured, and held against the gap that is asked for. */
export function leastGap(tools: readonly Body[], made: readonly Body[], gap: number, context: StepContext): Trouble[] {
  const { step, nameOf } = context;
  const near = tools.flatMap((tool) =>
    made.flatMap((body) => {
      const found = nearest(tool.shape, body.shape);
      return found ? [{ ...found, body }] : [];
    }),
  );
  const [least] = near.sort((one, two) => one.gap - two.gap);
  if (!least) return [];
  const place = { step, bodies: [least.body.id], at: [...least.on2] as [number, number, number] };
  if (gap > 0 && least.gap < gap - SAME_PLACE)
    context.warn({
      code: "gap-less",
      message: `What cuts comes nearer to ${nameOf(least.body.id)} than ${formatLength(gap)}. Check the place before it is made.`,
      ...place,
    });
  const words =
    least.gap > 0
      ? `What cuts keeps off ${nameOf(least.body.id)} by ${formatLength(least.gap)} at least.`
      : `What cuts touches ${nameOf(least.body.id)}, or presses into it.`;
  return [{ code: "least-gap", message: words, ...place }];
}
