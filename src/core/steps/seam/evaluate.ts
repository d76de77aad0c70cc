import { fail } from "../../errors";
import type { Body } from "../../items";
import { has } from "../../items/kinds";
import { freeShape, KernelFault, nearest, ownHandle, type Shape } from "../../kernel";
import {
  type Division,
  divideAll,
  divideEach,
  dividesAll,
  type Knife,
  type Piece,
  type PresetFate,
  presetFate,
  type Settled,
  settleFates,
} from "../../seam";
import { SAME_PLACE } from "../../tolerance";
import { formatLength } from "../../units";
import { evaluates, type PieceReport, type StepContext, type StepOutcome, type ValuesOf } from "../evaluation";
import { settleBodies } from "./bodies";
import { seam } from "./declare";
import { knivesOf, unique } from "./knives";
import { refuseShort } from "./short";
import { tellApart, tellBothSides, tellQuestions, tellReach } from "./tell";

type Values = ValuesOf<typeof seam>;

export const evaluateSeam = evaluates(seam, {
  weighed: () => true,
  evaluate(values, context) {
    const stock = context.bodies(values.stock);
    if (stock.length === 0) fail("nothing-picked", "Pick the stock to divide.", { step: context.step });
    try {
      return dividesAll(values.preset) ? combine(values, stock, context) : cut(values, stock, context);
    } catch (cause) {
      if (cause instanceof KernelFault && !cause.fatal)
        fail(
          "division-failed",
          "These bodies could not be divided by one another; check that each is sound, or move one by a little.",
          {
            step: context.step,
            bodies: stock.map((body) => body.id),
            ...(cause.at ? { at: [...cause.at] as [number, number, number] } : {}),
          },
        );
      throw cause;
    }
  },
});

function combine(values: Values, stock: Body[], context: StepContext): StepOutcome {
  const { step } = context;
  const word = values.preset === "union" ? "Union" : "Intersect";
  const operands = unique([...stock, ...context.bodies(values.cutters)]);
  const sheet = operands.find((body) => body.kind === "sheet");
  if (sheet)
    fail("needs-solids", `${word} works on solids, and one of the bodies is a sheet. Trim or split with sheets.`, {
      step,
      bodies: [sheet.id],
    });
  if (operands.length < 2) fail("needs-two", `${word} needs at least two bodies. Pick another.`, { step });
  const held = context.held(operands, ["all", earlierNames(operands, context)], () => divideAll(operands, context));
  const division = held.value;
  try {
    const ids = operands.map((body) => body.id);
    const settled = settle(values, division, (piece) => presetFate(values.preset, piece, ids, {}), context);
    if (values.preset === "intersect" && !division.pieces.some((piece) => ids.every((id) => piece.stock.includes(id))))
      fail("nothing-common", `These bodies have nothing in common: ${gapText(operands)}.`, { step, bodies: ids });
    const outcome = settleBodies(division, settled, operands, context);
    if (values.preset === "union" && outcome.lumps.get("union")! > 1 && values.fates.length === 0)
      context.warn({
        code: "union-apart",
        message: `These bodies do not all touch, so the union is ${outcome.lumps.get("union")} bodies: ${gapText(operands)}.`,
        step,
        bodies: ids,
      });
    if (values.preset === "intersect" && outcome.lumps.get("common")! > 1 && values.fates.length === 0)
      context.warn({
        code: "common-apart",
        message: `What these bodies have in common is ${outcome.lumps.get("common")} bodies. Check that all are wanted.`,
        step,
        bodies: ids,
      });
    return {
      made: outcome.made,
      used: values.keepStock ? [] : ids,
      ...(values.keepStock ? {} : { becomes: outcome.becomes }),
      traces: outcome.traces,
      ...reports(division, settled, (piece) => presetFate(values.preset, piece, ids, {}), context),
    };
  } finally {
    held.done();
  }
}

function cut(values: Values, stock: Body[], context: StepContext): StepOutcome {
  const { step } = context;
  const owned: Shape[] = [];
  let held: { value: Division; done(): void } | null = null;
  try {
    const { knives, faces, keepSide } = knivesOf(values, stock, context, owned);
    if (knives.length === 0) {
      const both = context.items(values.cutters).find((item) => stock.some((body) => body.id === item.id));
      if (both)
        fail(
          "cutter-is-stock",
          `${context.nameOf(both.id)} is both stock and cutter. Pick something else to cut with.`,
          {
            step,
            bodies: [both.id],
          },
        );
      fail("nothing-picked", "Pick something to cut with: a solid, a sheet, a workplane or a face.", { step });
    }
    if (values.preset === "subtract") {
      const open = knives.find((knife) => !has(knife.item, "closed"));
      if (open)
        fail("needs-solids", "Subtract takes solids away, and one of the cutters is open. Use Trim to cut along it.", {
          step,
          bodies: [open.item.id],
        });
    }
    held = context.held(...whatDivides(values, stock, knives, faces, context), () => {
      const made = divideEach(stock, knives, context);
      // It may ask its knives for more later on.
      const shapes = owned.splice(0);
      return {
        ...made,
        free: () => {
          made.free();
          for (const shape of shapes) freeShape(shape);
        },
      };
    });
    const division = held.value;
    refuseShort(division, stock, knives, context);
    const preset = (piece: Pick<Piece, "stock" | "sides">) =>
      presetFate(values.preset, piece, [], keepSide, (id) => division.reached.get(piece.stock[0]!)!.has(id));
    const settled = settle(values, division, preset, context);
    tellReach(division, settled, stock, knives, { ...values, keepSide }, context);
    if (values.preset !== "split") tellApart(division, settled, stock, values.fates, context);
    if (values.preset === "trim") tellBothSides(division, settled, context);
    const { made, becomes, traces } = settleBodies(division, settled, stock, context);
    if (made.length === 0)
      fail("nothing-left", "Nothing is kept: every piece is scrap. Keep at least one piece, or turn a side round.", {
        step,
      });
    const used = values.keepStock ? [] : stock.map((body) => body.id);
    if (!values.keepCutters)
      used.push(...knives.filter((knife) => isOwnItem(knife, values, context)).map((knife) => knife.item.id));
    const heirs = values.keepStock ? {} : { becomes };
    return { made, used: [...new Set(used)], ...heirs, traces, ...reports(division, settled, preset, context) };
  } finally {
    held?.done();
    for (const shape of owned) freeShape(shape);
  }
}

/** All that a division by cutters depends on: what is decided about its pieces is not among it. */
function whatDivides(
  { cutters, cutterFaces, runOn }: Values,
  stock: readonly Body[],
  knives: readonly Knife[],
  faces: readonly { body: Body; face: number }[],
  context: StepContext,
): [object[], unknown] {
  return [
    [...stock, ...context.items(cutters), ...faces.map(({ body }) => body)],
    [
      "each",
      knives.map(({ item }) => item.id),
      cutterFaces,
      faces.map(({ face }) => face),
      runOn,
      earlierNames([...stock, ...knives.map(({ item }) => item)], context),
    ],
  ];
}

/** What things were called before they were changed, which pieces remember. */
const earlierNames = (items: readonly { id: string }[], context: StepContext) =>
  items.map(({ id }) => [id, context.earlier(id)]);

function isOwnItem(knife: Knife, values: Values, context: StepContext): boolean {
  return context.items(values.cutters).some((item) => item.id === knife.item.id);
}

function settle(
  values: Values,
  division: Division,
  preset: (piece: Piece) => PresetFate,
  context: StepContext,
): Settled {
  const settled = settleFates(division.pieces, preset, values.fates);
  tellQuestions(settled, division, values.fates, context);
  return settled;
}

function reports(
  division: Division,
  settled: Settled,
  preset: (piece: Pick<Piece, "stock" | "sides">) => PresetFate,
  context: StepContext,
): { pieces?: PieceReport[] } {
  if (!context.wantsPieces) return {};
  return {
    pieces: division.pieces.map((source) => {
      const { shape, fusion: _f, uses: _u, bounds: _b, spans: _s, spot: _p, kinds: _k, key, mark, ...piece } = source;
      return {
        source,
        piece: { ...piece, key: key(), mark: mark() },
        shape: ownHandle(shape),
        fate: settled.fates[piece.index]!,
        decided: settled.decided.has(piece.index),
        preset: preset(piece),
      };
    }),
  };
}

function gapText(bodies: readonly Body[]): string {
  let widest = 0;
  for (const body of bodies) {
    const others = bodies.filter((other) => other !== body).map((other) => nearest(body.shape, other.shape)?.gap ?? 0);
    widest = Math.max(widest, Math.min(...others));
  }
  return widest > SAME_PLACE ? `the gap between them is ${formatLength(widest)}` : "they touch without sharing space";
}
