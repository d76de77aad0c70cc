import { fail } from "../../errors";
import { type Body, has, type Item } from "../../items";
import {
  add,
  type Box,
  contains,
  corners,
  distanceToPoint,
  freeShape,
  innerPoint,
  looseBoxOf,
  makeBox,
  type Shape,
  sub,
  unionBox,
  type Vec3,
} from "../../kernel";
import { toMm } from "../../params";
import {
  type Division,
  divideEach,
  type Fate,
  type Knife,
  type Piece,
  presetFate,
  ruledFate,
  type Side,
  settleFates,
} from "../../seam";
import { SAME_PLACE } from "../../tolerance";
import type { StepContext, StepOutcome, ValuesOf } from "../evaluation";
import type { Elsewhere } from "../shared/repeat/elsewhere";
import { settleBodies } from "./bodies";
import { closedAsSolid } from "./closing";
import type { seam } from "./declare";
import { knivesOf } from "./knives";
import { refuseMany, refuseManyMade } from "./many";
import { listedOf } from "./ruled";
import { refuseShort } from "./short";
import { withSlivers } from "./slivers";
import { tellApart, tellReach } from "./tell";

type Values = ValuesOf<typeof seam>;

/** A step that divided, as it was done. */
export interface Divided {
  /** Its place on the sheet, from 1. */
  number: number;
  id: string;
  values: Values;
  /** In which its references mean what they meant to it. */
  context: StepContext;
}

/** A cutter at one of the places, and the one that it is a copy of. */
interface Copy {
  knife: Knife;
  of: Knife;
}

/** A step that is done again: its cutters at each place, and what it does with the pieces that they make. */
interface Work {
  step: Divided;
  places: { place: Elsewhere; copies: readonly Copy[] }[];
  fateOf(sides: Readonly<Record<string, Side>>, reaches: (cutter: string) => boolean): Fate;
  /** What was decided on single pieces; null where nothing was. */
  decided: readonly Decided[] | null;
}

/** What became of a piece of a step that decides on single ones. */
interface Decided {
  sides: Readonly<Record<string, Side>>;
  at: Vec3 | null;
  fate: Fate;
}

/**
 * Does again elsewhere what steps did that divide: copies of their cutters divide what came of them, and each piece gets the fate that
 * it had there on those sides of them. A piece goes that any of the places scraps.
 * @param picked what came of the steps, as it is now.
 * @throws SeamError `not-repeatable` where a step does what means nothing elsewhere; `unclear-again` where it decided on one of several
 * pieces that nothing but their place tells apart.
 */
export function divideAgain(
  steps: readonly Divided[],
  picked: readonly Body[],
  places: readonly Elsewhere[],
  context: StepContext,
): StepOutcome {
  for (const step of steps) refuseUnrepeatable(step, context);
  const owned: Shape[] = [];
  const closing = steps.some(({ values }) => values.close);
  const targets = closing ? picked.map((body) => closedAsSolid(body, owned)) : picked;
  let division: Division | null = null;
  try {
    const works = steps.map((step) => workOf(step, targets, places, owned, context));
    const copies = works.flatMap(({ places: at, step }) =>
      at.flatMap((one) => one.copies.map((copy) => ({ ...copy, step }))),
    );
    const knives = copies.map(({ knife }) => knife);
    refuseMany(targets, knives, context);
    division = divideEach(targets, knives, context);
    refuseManyMade(division, targets, context);
    const origins = new Map(
      copies.map(({ knife, of, step }) => [knife.item.id, { item: of.item, seam: step.id }] as const),
    );
    refuseShort(division, [...targets], knives, context, (cutter) => origins.get(cutter)!);
    const given = settleFates(division.pieces, (piece) => ({ fate: fateAgain(piece, works, division!, context) }), []);
    const { settled, into } = withSlivers(division, given, sliversOf(steps, targets, knives), context);
    tellReach(division, settled, unreached(targets, steps, division, context), knives, null, context);
    if (works.some(({ step }) => step.values.preset !== "split")) tellApart(division, settled, targets, null, context);
    const { made, becomes, traces } = settleBodies(division, settled, targets, context, "", { closing, into });
    if (made.length === 0)
      fail("nothing-left", "Nothing is left where this is done again: every piece is scrap. Take fewer places.", {
        step: context.step,
      });
    return { made, used: targets.map(({ id }) => id), becomes, traces };
  } finally {
    division?.free();
    for (const shape of owned) freeShape(shape);
  }
}

/** Slivers are merged as any of the steps says; the first of them can be told to. */
function sliversOf(steps: readonly Divided[], stock: readonly Body[], knives: readonly Knife[]) {
  const mergeUnder = Math.max(...steps.map(({ values }) => toMm(values.mergeUnder)));
  return { stock, knives, mergeUnder, fates: null, merges: steps[0]!.id, decided: new Set<number>() };
}

/**
 * Of stock that no copy reaches in any of what came of it, the first that did: that a part of what was split lies elsewhere is no
 * surprise.
 */
function unreached(
  targets: readonly Body[],
  steps: readonly Divided[],
  division: Division,
  { earlier }: StepContext,
): Body[] {
  const stock = new Set(steps.flatMap(({ values, context }) => context.bodies(values.stock).map(({ id }) => id)));
  const families = new Map<string, Body[]>();
  for (const body of targets) {
    const was =
      ["from" in body.hint ? body.hint.from : body.id, ...earlier(body.id)].find((id) => stock.has(id)) ?? body.id;
    families.set(was, [...(families.get(was) ?? []), body]);
  }
  const idle = ({ id }: Body) => division.reached.get(id)!.size === 0;
  return [...families.values()].flatMap((family) => (family.every(idle) ? [family[0]!] : []));
}

/** Only what a cutter does to a piece on its sides can be done again with a copy of it. */
function refuseUnrepeatable({ number, values }: Divided, { step }: StepContext): void {
  const { preset, mutual, rules, fates, stock } = values;
  const refuse = (why: string, instead: string) =>
    fail("not-repeatable", `Step ${number} ${why}, which cannot be repeated as a step. ${instead}`, {
      step,
      field: "steps",
    });
  const bodies = "Repeat its bodies instead.";
  if (preset !== "split" && preset !== "trim" && preset !== "subtract")
    refuse(
      `${{ choose: "divides bodies by one another", union: "makes a union of its bodies", intersect: "makes an intersection of its bodies", fill: "fills a room" }[preset]}`,
      bodies,
    );
  if (mutual && stock.length > 1) refuse("divides its stock by one another", bodies);
  if ([...rules, ...fates].some(({ fate }) => fate === "group")) refuse("gathers pieces into groups", bodies);
  for (const { where } of rules) {
    if (where.atLeast !== undefined || where.under !== undefined)
      refuse("has a rule that goes by the size of pieces", "Let the rule go by sides of the cutters.");
    if (where.stock !== undefined && stock.length > 1)
      refuse("has a rule for one of several stock bodies", "Divide each body in a step of its own.");
  }
}

function workOf(
  step: Divided,
  targets: readonly Body[],
  places: readonly Elsewhere[],
  owned: Shape[],
  context: StepContext,
): Work {
  const { values, context: then } = step;
  const stock = then.bodies(values.stock);
  const reach = reachOver(targets, places);
  owned.push(reach.shape);
  const { knives, listed, keepSide } = knivesOf(values, [...stock, reach], then, owned);
  const names = new Map([...listedOf(values.stock, then), ...listed]);
  const only = stock.length === 1 ? [stock[0]!.id] : [];
  const fateOf: Work["fateOf"] = (sides, reaches) => {
    const piece = { stock: only, sides: { ...sides } } as Piece;
    const plain = () => presetFate(values.preset, piece, [], keepSide, reaches);
    return ruledFate(
      plain,
      values.rules,
      piece,
      () => 0,
      (name) => names.get(name) ?? [],
    ).fate.fate;
  };
  return {
    step,
    fateOf,
    decided: values.fates.length > 0 ? decidedIn(step, stock, knives, fateOf, context) : null,
    places: places.map((place) => ({
      place,
      copies: knives.map((of) => ({ of, knife: copied(of, place, owned, context) })),
    })),
  };
}

/** A body as large as all that the copies have to reach past, as seen from where their step was done. */
function reachOver(targets: readonly Body[], places: readonly Elsewhere[]): Body {
  const boxes = targets.flatMap(({ shape }) => looseBoxOf(shape) ?? []);
  const seen = places.flatMap(({ back }) =>
    boxes.flatMap((box) => corners(box).map((at): Box => ({ min: back(at), max: back(at) }))),
  );
  const { min, max } = [...boxes, ...seen].reduce(unionBox);
  const size = sub(max, min).map((length) => Math.max(length, 1)) as unknown as Vec3;
  return { id: "reach", kind: "solid", shape: makeBox(min, size), faces: [], hint: { text: "Reach" } };
}

function copied({ item, shape, faces, turns }: Knife, place: Elsewhere, owned: Shape[], { step }: StepContext): Knife {
  const there = place.put(shape);
  owned.push(there);
  const id = `${step}:${place.mark}:${item.id}`;
  const names = faces.map((name) => `${step}:${place.mark}:${name}`);
  return { item: movedItem(item, id, there, names, place), shape: there, faces: names, ...(turns ? { turns } : {}) };
}

function movedItem(item: Item, id: string, shape: Shape, faces: string[], { at }: Elsewhere): Item {
  if (has(item, "body")) return { ...item, id, shape, faces };
  if (!has(item, "plane")) return { id, kind: "sheet", shape, faces, hint: { from: item.id, suffix: "" } };
  const origin = at(item.origin);
  return { ...item, id, origin, normal: sub(at(add(item.origin, item.normal)), origin) };
}

/** What became of each piece of a step, with a point in it: the same division, made once more. */
function decidedIn(
  { values }: Divided,
  stock: readonly Body[],
  knives: readonly Knife[],
  fateOf: Work["fateOf"],
  context: StepContext,
): Decided[] {
  const division = divideEach(stock, knives, context);
  try {
    const plain = ({ sides, stock: [owner] }: Piece) => ({
      fate: fateOf(sides, (cutter) => division.reached.get(owner!)!.has(cutter)),
    });
    const { fates } = settleFates(division.pieces, plain, values.fates);
    return division.pieces.map(({ sides, shape, index }) => ({
      sides,
      at: innerPoint(shape),
      fate: fates[index]!.fate,
    }));
  } finally {
    division.free();
  }
}

function fateAgain(piece: Piece, works: readonly Work[], division: Division, context: StepContext): Fate {
  const reached = division.reached.get(piece.stock[0]!)!;
  for (const { places, fateOf, decided, step } of works)
    for (const { place, copies } of places) {
      const sides: Record<string, Side> = {};
      const reaches = new Set<string>();
      for (const { knife, of } of copies) {
        const side = piece.sides[knife.item.id];
        if (side) sides[of.item.id] = side;
        if (reached.has(knife.item.id)) reaches.add(of.item.id);
      }
      // Where none of its cutters comes, nothing is done again.
      if (reaches.size === 0) continue;
      const said = decided && decidedHere(piece, sides, decided, place, step, context);
      if ((said ?? fateOf(sides, (cutter) => reaches.has(cutter))) === "scrap") return "scrap";
    }
  return "keep";
}

/**
 * What was decided on the piece that this one is the copy of: all that lay on those sides, where they share a fate; else the one that
 * lies there. Null where none lay on those sides.
 */
function decidedHere(
  { shape, form, stock }: Piece,
  sides: Readonly<Record<string, Side>>,
  decided: readonly Decided[],
  place: Elsewhere,
  { number }: Divided,
  { step }: StepContext,
): Fate | null {
  const alike = decided.filter((one) => Object.keys(sides).every((cutter) => one.sides[cutter] === sides[cutter]));
  const one = soleFate(alike);
  if (one || alike.length === 0) return one;
  const holds = (at: Vec3) =>
    form === "solid" ? contains(shape, at) : (distanceToPoint(shape, at)?.gap ?? 1) < SAME_PLACE;
  const here = soleFate(alike.filter(({ at }) => at && holds(place.at(at))));
  if (here) return here;
  const at = innerPoint(shape);
  return fail(
    "unclear-again",
    `Step ${number} decides on some of the pieces on the same sides of its cutters, and which of them this one is cannot be told. Do it there as a step of its own.`,
    { step, bodies: [...stock], ...(at ? { at: [...at] as [number, number, number] } : {}) },
  );
}

/** The fate that all of them have; null where they differ, or there are none. */
function soleFate(all: readonly Decided[]): Fate | null {
  const [first, ...more] = all;
  return first && more.every(({ fate }) => fate === first.fate) ? first.fate : null;
}
