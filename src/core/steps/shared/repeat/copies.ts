import { fail } from "../../../errors";
import type { Body } from "../../../items";
import { freeShape, type Shape } from "../../../kernel";
import { divideAll, presetFate, settleFates } from "../../../seam";
import type { DoneStep, StepContext, StepOutcome, Trace } from "../../evaluation";
import { type Divided, divideAgain } from "../../seam/again";
import { settleBodies } from "../../seam/bodies";
import { seam } from "../../seam/declare";
import type { Into } from "../into/declare";
import { putInto } from "../into/put";
import type { Elsewhere } from "./elsewhere";

/** A copy of a body under names of its own: the mark tells it from the original and from other copies. */
export function copyOf(body: Body, shape: Shape, step: string, mark: string, suffix: string): Body {
  return {
    id: `${step}:${mark}:${body.id}`,
    kind: body.kind,
    shape,
    faces: body.faces.map((name) => `${step}:${mark}:${name}`),
    hint: { from: body.id, suffix },
  };
}

/**
 * Joins each original with its copies. Where they do not touch they stay bodies of their own.
 * @param copies the copies of each original, in the same order. They do not stay themselves.
 */
export function joinedWith(originals: readonly Body[], copies: readonly Body[][], context: StepContext): StepOutcome {
  const sheet = originals.find(({ kind }) => kind !== "solid");
  if (sheet)
    fail("needs-solids", `${context.nameOf(sheet.id)} is a sheet: only solids can be joined. Leave the copies apart.`, {
      step: context.step,
      bodies: [sheet.id],
    });
  try {
    const heirs: Record<string, string> = {};
    const traces: Trace[][] = [];
    const made = originals.flatMap((original, i) => {
      const operands = [original, ...copies[i]!];
      const division = divideAll(operands);
      try {
        const ids = operands.map(({ id }) => id);
        const settled = settleFates(division.pieces, (piece) => presetFate("union", piece, ids, {}), []);
        // Several originals are joined each for itself: their unions are told apart by what they came from.
        const mark = originals.length === 1 ? "" : `:${original.id}`;
        const {
          made: joined,
          lumps,
          becomes,
          traces: own,
        } = settleBodies(division, settled, [original], context, mark);
        if ((lumps.get("union") ?? 1) > 1)
          context.warn({
            code: "union-apart",
            message: `The copies of ${context.nameOf(original.id)} do not all touch, so they stay ${lumps.get("union")} bodies.`,
            step: context.step,
            bodies: [original.id],
          });
        Object.assign(heirs, becomes);
        traces.push(...own);
        return joined;
      } finally {
        division.free();
      }
    });
    return { made, used: originals.map(({ id }) => id), becomes: heirs, traces };
  } finally {
    for (const copy of copies.flat()) freeShape(copy.shape);
  }
}

/**
 * Does again elsewhere what steps did: what they put into bodies is copied, and put into them as they did; copies of what they divided
 * with divide what came of them.
 * @param places where, but where they were done. @throws SeamError
 */
export function repeatSteps(steps: readonly string[], places: readonly Elsewhere[], context: StepContext): StepOutcome {
  const { step } = context;
  if (steps.length === 0) fail("nothing-picked", "Pick the steps to repeat.", { step, field: "steps" });
  const done = steps.map((id) => context.again(id));
  const targets = targetsOf(steps, context);
  const divided = done.flatMap((one) => dividedOf(one) ?? []);
  if (divided.length === done.length) return divideAgain(divided, targets, places, context);
  const [into, ...others] = new Set(done.map(({ values }) => values.into as Into));
  if (divided.length > 0 || others.length > 0) refuseMixed(step);
  const copies = done
    .flatMap(({ tools }) => tools)
    .flatMap((tool) => places.map(({ mark, put }) => copyOf(tool, put(tool.shape), step, mark, mark)));
  return putInto({ into: into!, as: "solid" }, targets, copies, context);
}

/** What came of the steps, as it is now: it has to be the same bodies of each. */
function targetsOf(steps: readonly string[], context: StepContext): Body[] {
  const [targets, ...others] = steps.map((id) => context.bodies([id])) as [Body[], ...Body[][]];
  const same = (other: readonly Body[]) =>
    other.length === targets.length && other.every(({ id }) => targets.some((target) => target.id === id));
  if (!others.every(same)) refuseMixed(context.step);
  return targets;
}

function refuseMixed(step: string): never {
  fail(
    "mixed-steps",
    "The picked steps do different things, or to different bodies. Repeat them one after the other.",
    { step, field: "steps" },
  );
}

/** A step as one that divides; null for any other. */
function dividedOf({ type, id, number, values, context }: DoneStep): Divided | null {
  return type === seam.type ? { id, number, values: values as Divided["values"], context } : null;
}
