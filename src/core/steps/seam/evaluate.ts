import { fail } from "../../errors";
import type { Body } from "../../items";
import { has } from "../../items/kinds";
import { freeShape, KernelFault, LeaningCones, nearest, ownHandle, type Shape } from "../../kernel";
import {
  type Division,
  divideEach,
  divideShared,
  dividesAll,
  type Knife,
  type Piece,
  type PresetFate,
  presetFate,
  type Settled,
  settleFates,
} from "../../seam";
import { SAME_PLACE } from "../../tolerance";
import { formatAngle, formatDeviation, formatLength } from "../../units";
import { evaluates, type StepContext, type StepOutcome, type ValuesOf } from "../evaluation";
import { settleBodies } from "./bodies";
import { closedAsSolid } from "./closing";
import { seam } from "./declare";
import { divideByWalls, refuseOpen, tellIdleWalls } from "./fill";
import { keepsGap, leastGaps, tellFits, whatGap } from "./gap";
import { joinsOf, tellIdleJoins } from "./joins";
import { knivesOf, unique } from "./knives";
import { refuseMany, refuseManyMade } from "./many";
import { tellNearFaces, touchRepairs } from "./near";
import { partiesOf } from "./parties";
import { roomAround } from "./room";
import { listedOf, type Ruled, ruled } from "./ruled";
import { refuseShort } from "./short";
import { withSlivers } from "./slivers";
import { tellApart, tellBothSides, tellCovers, tellNew, tellQuestions, tellReach, tellSkins, tellWhole } from "./tell";

type Values = ValuesOf<typeof seam>;

export const evaluateSeam = evaluates(seam, {
  weighed: () => true,
  parties: partiesOf,
  evaluate(values, context) {
    const stock = context.bodies(values.stock);
    if (values.preset === "fill") return guarded(stock, context, () => fill(values, context));
    if (stock.length === 0) fail("nothing-picked", "Pick the stock to divide.", { step: context.step });
    return guarded(stock, context, () =>
      dividesAll(values.preset) ? combine(values, stock, context) : cut(values, stock, context),
    );
  },
});

/** What the library cannot divide is told as an error of the step. */
function guarded(stock: readonly Body[], { step }: StepContext, divide: () => StepOutcome): StepOutcome {
  try {
    return divide();
  } catch (cause) {
    if (cause instanceof KernelFault && !cause.fatal)
      fail("division-failed", undividedWords(cause), {
        step,
        bodies: stock.map((body) => body.id),
        ...(cause.at ? { at: [...cause.at] as [number, number, number] } : {}),
      });
    throw cause;
  }
}

function undividedWords(cause: KernelFault): string {
  if (!(cause instanceof LeaningCones))
    return "These bodies could not be divided by one another; check that each is sound, or move one by a little.";
  const degrees = (cause.lean * 180) / Math.PI;
  const lean = degrees < 0.001 ? "less than 0.001°" : formatAngle(degrees);
  return `Two conical faces lie within ${formatDeviation(cause.apart)} of each other wherever both are, and lean by ${lean}: that is too near to find where they cross. Turn one so that their axes are parallel, or move one further off.`;
}

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
  const faces = values.preset === "intersect" ? values.cutterFaces : [];
  if (operands.length + faces.length < 2)
    fail("needs-two", `${word} needs at least two bodies. Pick another.`, { step });
  const owned: Shape[] = [];
  let held: { value: Division; done(): void } | null = null;
  try {
    const behind = knivesOf({ ...values, cutters: [], cutterFaces: faces, mutual: false }, operands, context, owned);
    refuseSheetFaces(behind.faces, context);
    const [things, words] = whatDivides(
      { ...values, cutterFaces: faces },
      operands,
      behind.knives,
      behind.faces,
      context,
    );
    held = context.held(things, ["all", words], () =>
      withOwned(divideShared(operands, behind.knives, context), owned.splice(0)),
    );
    const division = held.value;
    if (behind.knives.length > 0) refuseShort(division, operands, behind.knives, context);
    const ids = operands.map((body) => body.id);
    const listed = () => new Map([...listedOf([...values.stock, ...values.cutters], context), ...behind.listed]);
    const plain = (piece: Piece) => presetFate(values.preset, piece, ids, {});
    const { preset, by } = ruled(values.rules, division, plain, listed, context);
    const settled = settle(values, division, { preset, by }, context);
    const common = division.pieces.filter((piece) => ids.every((id) => piece.stock.includes(id)));
    if (values.preset === "intersect" && common.length === 0)
      fail("nothing-common", `These bodies have nothing in common: ${gapText(operands)}.`, { step, bodies: ids });
    if (faces.length > 0) {
      tellBothSides(division, settled, context);
      if (!common.some((piece) => plain(piece).fate !== "scrap") && settled.fates.every(({ fate }) => fate === "scrap"))
        fail("nothing-common", "Of what the bodies share nothing lies behind all the faces. Take one of them out.", {
          step,
          field: "cutterFaces",
          bodies: ids,
        });
    }
    const to = joinsOf(values, operands, context);
    const outcome = settleBodies(division, settled, operands, context, "", { to });
    tellIdleJoins(to, outcome.lumps, context);
    const undecided = values.fates.length + values.rules.length === 0;
    if (values.preset === "union" && outcome.lumps.get("union")! > 1 && undecided)
      context.warn({
        code: "union-apart",
        message: `These bodies do not all touch, so the union is ${outcome.lumps.get("union")} bodies: ${gapText(operands)}.`,
        step,
        bodies: ids,
        others: touchRepairs(operands, context),
      });
    if (values.preset === "union") tellNearFaces(pairsOf(operands), outcome.made, context);
    if (values.preset === "intersect" && outcome.lumps.get("common")! > 1 && undecided)
      context.warn({
        code: "common-apart",
        message: `What these bodies have in common is ${outcome.lumps.get("common")} bodies. Check that all are wanted.`,
        step,
        bodies: ids,
      });
    return {
      made: outcome.made,
      used: [...(values.keepStock ? [] : ids), ...outcome.used],
      becomes: heirsOf(outcome, values),
      traces: outcome.traces,
      ...reports(division, settled, preset, context),
    };
  } finally {
    held?.done();
    for (const shape of owned) freeShape(shape);
  }
}

/** A division with shapes that last as long: it may ask its knives for more later on. */
function withOwned(made: Division, shapes: readonly Shape[]): Division {
  return {
    ...made,
    free: () => {
      made.free();
      for (const shape of shapes) freeShape(shape);
    },
  };
}

/** What lies behind a face is told by the material of its body: a sheet has none. */
function refuseSheetFaces(faces: readonly { body: Body }[], { step, nameOf }: StepContext): void {
  const sheet = faces.find(({ body }) => body.kind === "sheet");
  if (sheet)
    fail(
      "needs-solids",
      `${nameOf(sheet.body.id)} is a sheet: no material lies behind its faces. Take a face of a solid, or use Trim to cut along it.`,
      { step, field: "cutterFaces", bodies: [sheet.body.id] },
    );
}

function cut(values: Values, picked: Body[], context: StepContext): StepOutcome {
  const { step } = context;
  const owned: Shape[] = [];
  const stock = values.close ? picked.map((body) => closedAsSolid(body, owned)) : picked;
  let held: { value: Division; done(): void } | null = null;
  try {
    const shared = sharesSpace(values, stock, context);
    const sheets = values.preset === "choose" && !shared;
    const { knives, faces, listed, keepSide } = knivesOf(
      { ...values, mutual: values.mutual || sheets },
      stock,
      context,
      owned,
    );
    if (knives.length === 0 && !shared) {
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
      refuseSheetFaces(faces, context);
      const open = knives.slice(0, knives.length - faces.length).find((knife) => !has(knife.item, "closed"));
      if (open)
        fail("needs-solids", "Subtract takes solids away, and one of the cutters is open. Use Trim to cut along it.", {
          step,
          bodies: [open.item.id],
        });
    }
    refuseMany(stock, knives, context);
    const [things, words] = whatDivides(values, picked, knives, faces, context);
    held = context.held(things, [shared, words], () => {
      const made = (shared ? divideShared : divideEach)(stock, knives, context);
      return withOwned(made, owned.splice(0));
    });
    const division = held.value;
    refuseManyMade(division, stock, context);
    if (knives.length > 0) refuseShort(division, stock, knives, context);
    const plain = (piece: Piece) =>
      presetFate(values.preset, piece, [], keepSide, (id) => division.reached.get(piece.stock[0]!)!.has(id));
    const all = () => new Map([...listedOf(values.stock, context), ...listed]);
    const { preset, by } = ruled(values.rules, division, plain, all, context);
    const given = settle(values, division, { preset, by }, context);
    // What a rule says of a piece answers what would be asked about it.
    const decided = new Set([...given.decided, ...by]);
    const { settled, into } = withSlivers(division, given, { ...values, stock, knives, decided }, context);
    const answered = { ...settled, decided };
    tellReach(division, answered, shared ? [] : stock, knives, { ...values, keepSide }, context);
    if (shared) tellWhole(division, answered, stock, context);
    if (!values.close) tellSkins(stock, division, context);

    // What a subtraction leaves of it is told as nothing.
    if (values.preset !== "subtract") tellCovers(division, stock, knives, context);
    if (values.preset !== "split" && values.preset !== "choose") tellBothSides(division, answered, context);
    const to = joinsOf(values, stock, context);
    const outcome = settleBodies(division, settled, stock, context, "", { to, closing: values.close, into });
    const { made, traces } = outcome;
    const bodiesOf = ({ id }: Body) =>
      new Set(division.pieces.flatMap((piece, i) => (piece.stock.includes(id) ? (traces[0]![i]!.id ?? []) : []))).size;
    // What closes the cut may join what it cut apart.
    const apart = values.close ? stock.filter((body) => bodiesOf(body) > 1) : stock;
    if (values.preset !== "split" && values.preset !== "choose")
      tellApart(division, answered, apart, values.fates, context);
    tellIdleJoins(to, outcome.lumps, context);
    if (values.preset === "subtract") tellNearFaces(stockAndCutters(stock, knives), made, context);
    if (made.length === 0)
      fail("nothing-left", "Nothing is kept: every piece is scrap. Keep at least one piece, or turn a side round.", {
        step,
      });
    const used = values.keepStock ? [] : stock.map((body) => body.id);
    if (!values.keepCutters)
      used.push(...knives.filter((knife) => isOwnItem(knife, values, context)).map((knife) => knife.item.id));
    used.push(...outcome.used);
    const becomes = heirsOf(outcome, values);
    const shown = reports(division, settled, preset, context, values.preset === "trim");
    const told = keepsGap(values)
      ? [...leastGaps(knives, made, values, context), ...tellFits(knives, values, context)]
      : [];
    return { made, used: [...new Set(used)], becomes, traces, ...shown, ...(told.length > 0 ? { told } : {}) };
  } finally {
    held?.done();
    for (const shape of owned) freeShape(shape);
  }
}

/**
 * Whether the stock divides itself, what several of it share being one piece: solids of which pieces are chosen. Sheets share no space, and
 * each cuts the others.
 * @throws SeamError `solids-or-sheets` where it is of both.
 */
function sharesSpace({ preset }: Values, stock: readonly Body[], { step, nameOf }: StepContext): boolean {
  if (preset !== "choose" || stock.length < 2) return false;
  const sheet = stock.find(({ kind }) => kind === "sheet");
  if (sheet && stock.some(({ kind }) => kind === "solid"))
    fail(
      "solids-or-sheets",
      `Pieces are chosen of solids or of sheets, and ${nameOf(sheet.id)} is a sheet among solids. Let it cut instead.`,
      { step, field: "stock", bodies: [sheet.id] },
    );
  return !sheet;
}

/** What bodies, planes and drawings enclose, in no solid. They all stay as they are. */
function fill(values: Values, context: StepContext): StepOutcome {
  const { step } = context;
  const owned: Shape[] = [];
  let held: { value: Division; done(): void } | null = null;
  try {
    const refs = [...values.stock, ...values.cutters];
    const items = unique(context.items(refs));
    const single = values.cutterFaces.map((ref) => context.face(ref));
    if (items.length + single.length === 0)
      fail("nothing-picked", "Pick what encloses the room: bodies, workplanes, sheets or drawings.", { step });
    const room = roomAround(items, single, values.runOn, owned, context);
    if (!room) refuseOpen(items, values.close, context);
    const { knives, faces, listed } = knivesOf(
      { ...values, cutters: refs, runSheets: false, mutual: false },
      [room],
      context,
      owned,
    );
    const bodies = items.filter((item): item is Body => has(item, "body"));
    const [things, words] = whatDivides({ ...values, cutters: refs }, [], knives, faces, context);
    held = context.held(things, ["fill", values.close, words], () =>
      divideByWalls({ room, knives }, values.close ? bodies : [], owned.splice(0), context),
    );
    const division = held.value;
    refuseManyMade(division, bodies, context);
    if (division.pieces.length === 0) refuseOpen(items, values.close, context);
    const { preset, by } = ruled(
      values.rules,
      division,
      () => presetFate("fill", NOWHERE, [], {}),
      () => listed,
      context,
    );
    const settled = settle(values, division, { preset, by }, context);
    tellIdleWalls(division, knives, context);
    const to = joinsOf(values, [], context);
    const { made, traces, lumps, used, becomes } = settleBodies(division, settled, [], context, "", { to });
    tellIdleJoins(to, lumps, context);
    if (made.length === 0)
      fail("nothing-left", "Nothing is kept: every piece is scrap. Keep at least one piece.", { step });
    return { made, used, becomes, traces, ...reports(division, settled, preset, context) };
  } finally {
    held?.done();
    for (const shape of owned) freeShape(shape);
  }
}

const NOWHERE = { stock: [], sides: {} };

/** What lives on in what: stock that stays as it was, too, is itself still; a body that a group went to is not. */
function heirsOf({ becomes, used }: ReturnType<typeof settleBodies>, { keepStock }: Values): Record<string, string> {
  return keepStock ? Object.fromEntries(used.map((id) => [id, becomes[id]!])) : becomes;
}

/** All that a division by cutters depends on: what is decided about its pieces is not among it. */
function whatDivides(
  { cutters, cutterFaces, runOn, runSheets, close, ...values }: Values,
  stock: readonly Body[],
  knives: readonly Knife[],
  faces: readonly { body: Body; face: number }[],
  context: StepContext,
): [object[], unknown] {
  return [
    [
      ...stock,
      ...context.items([...cutters, ...values.gapTouch2, ...values.gapTouch3]),
      ...faces.map(({ body }) => body),
    ],
    [
      "each",
      knives.map(({ item }) => item.id),
      cutterFaces,
      faces.map(({ face }) => face),
      runOn,
      runSheets,
      close,
      whatGap(values),
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

function settle(values: Values, division: Division, { preset, by }: Ruled, context: StepContext): Settled {
  const settled = settleFates(division.pieces, preset, values.fates);
  tellQuestions(settled, division, values.fates, context);
  tellNew(division, settled, by, values, context);
  return settled;
}

function reports(
  division: Division,
  settled: Settled,
  preset: (piece: Piece) => PresetFate,
  context: StepContext,
  trims = false,
): Pick<StepOutcome, "pieces" | "fronts"> {
  if (!context.wantsPieces) return {};
  const neighbours = division.neighbours();
  return {
    // Only a trim asks which side of a cutter stays.
    fronts: trims ? division.fronts() : [],
    pieces: division.pieces.map((source) => {
      const {
        shape,
        fusion: _f,
        uses: _u,
        bounds: _b,
        spans: _s,
        spot: _p,
        cutBy: _c,
        kinds: _k,
        key,
        mark,
        ...piece
      } = source;
      return {
        source,
        piece: { ...piece, key: key(), mark: mark() },
        shape: ownHandle(shape),
        neighbours: neighbours[piece.index]!,
        fate: settled.fates[piece.index]!,
        decided: settled.decided.has(piece.index),
        preset: preset(source),
      };
    }),
  };
}

const pairsOf = (bodies: readonly Body[]) =>
  bodies.flatMap((one, i) => bodies.slice(i + 1).map((other) => [one, other] as const));

const stockAndCutters = (stock: readonly Body[], knives: readonly Knife[]) =>
  stock.flatMap((body) => knives.flatMap(({ item }) => (has(item, "closed") ? [[body, item as Body] as const] : [])));

function gapText(bodies: readonly Body[]): string {
  let widest = 0;
  for (const body of bodies) {
    const others = bodies.filter((other) => other !== body).map((other) => nearest(body.shape, other.shape)?.gap ?? 0);
    widest = Math.max(widest, Math.min(...others));
  }
  return widest > SAME_PLACE ? `the gap between them is ${formatLength(widest)}` : "they touch without sharing space";
}
