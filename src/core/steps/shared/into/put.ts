import { fail } from "../../../errors";
import { type Body, isBody } from "../../../items";
import { freeShape } from "../../../kernel";
import { toMm } from "../../../params";
import { type Division, divideAll, divideEach, missesBy, presetFate, reachesAny, settleFates } from "../../../seam";
import { SAME_PLACE } from "../../../tolerance";
import { formatLength } from "../../../units";
import type { StepContext, StepOutcome } from "../../evaluation";
import { settleBodies } from "../../seam/bodies";
import { tellApart, tellReach } from "../../seam/tell";
import { goesInto, type Into, type Values } from "./declare";
import { grownBy, leastGap } from "./gap";

/** The bodies that the solids go into. @throws SeamError when none is picked. */
export function targetsOf(values: Values, context: StepContext): Body[] {
  if (!goesInto(values)) return [];
  const targets = context.bodies(values.targets);
  if (targets.length === 0) {
    const words = { new: "", join: "join it to", cut: "cut into", common: "keep it within" }[values.into];
    fail("nothing-picked", `Pick the bodies to ${words}.`, { step: context.step });
  }
  return targets;
}

/** Puts solids where they go. Those that go into others are kept with the result, to be repeated. @throws SeamError */
export function putInto(
  values: Pick<Values, "into" | "as"> & Partial<Pick<Values, "intoGap">>,
  targets: readonly Body[],
  made: Body[],
  context: StepContext,
): StepOutcome {
  if (!goesInto(values)) return { made, used: [] };
  const gap = values.into === "cut" ? toMm(values.intoGap ?? 0) : 0;
  let tools = made;
  try {
    if (Math.abs(gap) > SAME_PLACE) tools = grownBy(made, targets, gap, context);
    const { into } = values;
    const outcome = into === "cut" ? cutOut(targets, tools, context) : combined(into, targets, tools, context);
    const told = tools === made ? [] : leastGap(made, outcome.made.filter(isBody), gap, context);
    if (tools !== made) for (const tool of made) freeShape(tool.shape);
    return { ...outcome, tools, ...(told.length > 0 ? { told } : {}) };
  } catch (cause) {
    for (const tool of new Set([...made, ...tools])) freeShape(tool.shape);
    throw cause;
  }
}

function cutOut(targets: readonly Body[], tools: readonly Body[], context: StepContext): StepOutcome {
  const { step } = context;
  const knives = tools.map((item) => ({ item, shape: item.shape, faces: item.faces }));
  const division = divideEach(targets, knives, context);
  try {
    const idle = tools.find((tool) => !reachesAny(division, tool.id));
    if (idle && tools.length === 1) refuseMiss(idle, targets, "The cut", context);
    const settled = settleFates(division.pieces, (piece) => presetFate("subtract", piece, [], {}), []);
    tellReach(division, settled, targets, knives, null, context);
    tellApart(division, settled, targets, null, context);
    const { made, becomes, traces } = settleBodies(division, settled, targets, context);
    if (made.length === 0) fail("nothing-left", "The cut leaves nothing of the bodies. Make it smaller.", { step });
    return { made, used: targets.map(({ id }) => id), becomes, traces };
  } finally {
    division.free();
  }
}

function combined(
  into: Exclude<Into, "cut">,
  targets: readonly Body[],
  tools: readonly Body[],
  context: StepContext,
): StepOutcome {
  const { step } = context;
  const operands = [...targets, ...tools];
  const ids = operands.map(({ id }) => id);
  let division: Division | null = null;
  try {
    division = divideAll(operands, context);
    const within = (piece: { stock: readonly string[] }) =>
      targets.some(({ id }) => piece.stock.includes(id)) && tools.some(({ id }) => piece.stock.includes(id));
    const settled = settleFates(
      division.pieces,
      (piece) =>
        into === "join"
          ? presetFate("union", piece, ids, {})
          : within(piece)
            ? { fate: "group", group: "common" }
            : { fate: "scrap" },
      [],
    );
    const { made, lumps, becomes, traces } = settleBodies(division, settled, targets, context);
    if (made.length === 0) refuseMiss(tools[0]!, targets, "What was made", context);
    if (into === "join" && (lumps.get("union") ?? 1) > 1)
      context.warn({
        code: "union-apart",
        message: `What was made does not touch all of the bodies, so they stay ${lumps.get("union")} bodies.`,
        step,
        bodies: targets.map(({ id }) => id),
      });
    return { made, used: targets.map(({ id }) => id), becomes, traces };
  } finally {
    division?.free();
  }
}

function refuseMiss(tool: Body, targets: readonly Body[], what: string, context: StepContext): never {
  const miss = missesBy({ item: tool, shape: tool.shape, faces: tool.faces }, targets);
  fail(
    "cutter-misses",
    miss.how === "misses"
      ? `${what} misses ${context.nameOf(miss.stock)} by ${formatLength(miss.by)}. Move the sketch, or turn it the other way round.`
      : `${what} only touches the skin of ${context.nameOf(miss.stock)}. Turn it the other way round, or make it longer.`,
    { step: context.step, bodies: [miss.stock], at: [...miss.at] },
  );
}
