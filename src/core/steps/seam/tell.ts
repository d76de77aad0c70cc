import type { Repair, Trouble } from "../../errors";
import type { Body } from "../../items";
import { openPlaces, surfaceCentre } from "../../kernel";
import {
  type Division,
  type FateRule,
  type KeepSide,
  type Knife,
  newAmong,
  onWrongSide,
  type Piece,
  type Preset,
  pieceRefOf,
  type Question,
  type Settled,
  seenOf,
} from "../../seam";
import type { StepContext } from "../evaluation";

/** The most pieces that are offered as answers to one question. */
const OFFERED = 6;

/** Asks about every decision that found no piece of its own: what happened, with the pieces that it may be about. */
export function tellQuestions(
  { questions }: Settled,
  { pieces }: Division,
  fates: readonly FateRule[],
  context: StepContext,
): void {
  for (const question of questions) {
    const rule = fates[question.rule]!;
    const offered = question.candidates.slice(0, OFFERED).map((index) => pieces[index]!);
    const answer = (label: string, next: FateRule[]): Repair => ({ label, step: context.step, set: { fates: next } });
    const others = [
      ...offered.map((piece) =>
        answer(
          question.why === "shifted" ? "That is right" : `${wordOf(rule)} piece ${piece.index + 1}`,
          fates.map((other, i) => (i === question.rule ? { ...other, piece: pieceRefOf(piece) } : other)),
        ),
      ),
      answer(
        "Drop that decision",
        fates.filter((_, i) => i !== question.rule),
      ),
    ];
    context.warn({
      code: "check-pieces",
      message: sentence(question, rule, offered),
      step: context.step,
      field: "fates",
      ...(question.why === "shifted" ? {} : { entry: question.rule }),
      pieces: offered.map(({ key }) => key()),
      ...(offered[0] ? { at: [...surfaceCentre(offered[0].shape)] } : {}),
      others,
    });
  }
}

/**
 * Tells of pieces that were not there when somebody decided on others of the step, and that no decision and no rule speaks of: what becomes
 * of them nobody has said.
 * @param by the pieces, by index, that a rule says something of.
 */
export function tellNew(
  { pieces }: Division,
  settled: Settled,
  by: ReadonlySet<number>,
  { seen, fates }: { seen: readonly string[]; fates: readonly FateRule[] },
  context: StepContext,
): void {
  if (seen.length === 0) return;
  const asked = new Set(settled.questions.flatMap(({ candidates }) => candidates));
  const { count, among } = newAmong(pieces, seen);
  const fresh = among.filter(({ index }) => !settled.decided.has(index) && !by.has(index) && !asked.has(index));
  const [first] = fresh;
  if (!first) return;
  const which = count < fresh.length;
  const number = Math.min(count, fresh.length);
  const list = `${fresh
    .slice(0, LISTED)
    .map(({ index }) => index + 1)
    .join(", ")}${fresh.length > LISTED ? ", …" : ""}`;
  const who = which
    ? `${number === 1 ? "One" : number} of the pieces ${list} ${number === 1 ? "is" : "are"}`
    : number === 1
      ? `Piece ${list} is`
      : `${number} pieces (${list}) are`;
  const given = new Set(fresh.map(({ index }) => FATE_WORDS[settled.fates[index]!.fate]));
  context.warn({
    code: which ? "new-among" : "new-pieces",
    message: `${who} new since somebody decided on the pieces of this step. By what the step does ${fresh.length === 1 ? "it is" : "they are"} ${[...given].join(" or ")}: say whether that is right.`,
    step: context.step,
    field: "fates",
    pieces: fresh.map(({ key }) => key()),
    at: [...surfaceCentre(first.shape)],
    others: [
      { label: "That is right", step: context.step, set: { seen: seenOf(pieces.map(({ kind }) => kind)) } },
      ...(which ? [] : deciding(fresh, fates, ["keep", "scrap"], context)),
    ],
  });
}

const FATE_WORDS = { keep: "kept", scrap: "scrapped", group: "in a group" };

/** How many pieces are named one by one. */
const LISTED = 8;

const wordOf = ({ fate }: FateRule) => ({ keep: "Keep", scrap: "Scrap", group: "Group" })[fate];

function sentence({ why }: Question, rule: FateRule, offered: readonly Piece[]): string {
  const decision = rule.fate === "group" ? `put into “${rule.group ?? "group"}”` : FATE_WORDS[rule.fate];
  const list = offered.map((piece) => piece.index + 1).join(", ");
  switch (why) {
    case "gone":
      return `A piece that you ${decision} is no longer made as it was. Check the pieces${list ? `: ${list}` : ""}.`;
    case "divided":
      return `A piece that you ${decision} is divided now, or has a new one beside it. Say which it is: ${list}.`;
    case "merged":
      return `A piece that you ${decision} has run together with another (piece ${list}). Say whether that is ${decision}.`;
    case "alike":
      return `A piece that you ${decision} cannot be told from others any more. Say which it is: ${list}.`;
    case "changed":
      return `A piece that you ${decision} has other faces round it now. Say which it is: ${list}.`;
    case "shifted":
      return `A piece that you ${decision} has faces now that lay on another side, or has lost some to one (piece ${list}). It stays ${decision}; check it.`;
    case "clash":
      return `Two fates that you had set now fall on piece ${list}. Say which it has.`;
  }
}

/** Tells of stock that no cutter reaches, or that a trim's side would have taken whole: it stays until someone says otherwise. */
export function tellReach(
  division: Division,
  settled: Settled,
  stock: readonly Body[],
  knives: readonly Knife[],
  /** What the step says of sides and pieces; null where nothing can be said of them. */
  choice: { preset: Preset; keepSide: Readonly<Record<string, KeepSide>>; fates: readonly FateRule[] } | null,
  context: StepContext,
): void {
  for (const body of stock) {
    const pieces = division.pieces.filter((piece) => piece.stock.includes(body.id));
    if (pieces.some(({ index }) => settled.decided.has(index))) continue;
    const reached = division.reached.get(body.id)!;
    const missing = knives.filter(({ item }) => item.id !== body.id && !reached.has(item.id));
    const idle =
      choice?.preset === "trim" && reached.size > 0
        ? missing.filter(({ item }) =>
            pieces.some(({ sides }) => onWrongSide(item.id, sides[item.id]!, choice.keepSide)),
          )
        : reached.size === 0
          ? missing
          : [];
    if (idle.length === 0) continue;
    const who = idle.length === 1 ? `${context.nameOf(idle[0]!.item.id)} does` : `${idle.length} cutters do`;
    const result = reached.size === 0 ? "so it stays whole" : "so nothing of it is taken away there";
    context.warn({
      code: "stock-missed",
      message: `${who} not reach ${context.nameOf(body.id)}, ${result}. Move one of them${choice ? ", or say what becomes of it" : ""}.`,
      step: context.step,
      bodies: [body.id, ...idle.map(({ item }) => item.id)],
      pieces: pieces.map(({ key }) => key()),
      at: [...surfaceCentre(body.shape)],
      ...(choice ? { others: deciding(pieces, choice.fates, ["keep", "scrap"], context) } : {}),
    });
  }
}

/** Tells of solids that cut and hold all of the stock: they divide nothing. */
export function tellCovers(
  { pieces }: Division,
  stock: readonly Body[],
  knives: readonly Knife[],
  { step, nameOf, warn }: StepContext,
): void {
  for (const { item } of knives) {
    if (pieces.length === 0 || pieces.some(({ sides }) => sides[item.id] !== "in")) continue;
    const [only] = stock;
    warn({
      code: "cutter-covers",
      message: `${nameOf(item.id)} holds the whole of ${stock.length === 1 ? nameOf(only!.id) : "the stock"}, so it divides nothing. Make it smaller, or move one of them.`,
      step,
      bodies: [item.id],
      at: [...surfaceCentre(only!.shape)],
    });
  }
}

/** Tells of bodies that divide each other of which one is not divided and shares nothing: it stays whole. */
export function tellWhole(
  { pieces }: Division,
  settled: Settled,
  stock: readonly Body[],
  { step, nameOf, warn }: StepContext,
): void {
  for (const body of stock) {
    const [first, ...more] = pieces.filter(({ stock: owners }) => owners.includes(body.id));
    if (!first || more.length > 0 || first.stock.length > 1 || settled.decided.has(first.index)) continue;
    warn({
      code: "stock-missed",
      message: `Nothing reaches ${nameOf(body.id)}, so it stays whole. Move it, or leave it out.`,
      step,
      bodies: [body.id],
      pieces: [first.key()],
      at: [...surfaceCentre(body.shape)],
    });
  }
}

/** Tells of bodies that a cut made fall apart, where nobody decided on the parts. */
export function tellApart(
  division: Division,
  settled: Settled,
  stock: readonly Body[],
  fates: readonly FateRule[] | null,
  context: StepContext,
): void {
  for (const body of stock) {
    const kept = division.pieces.filter(
      ({ stock: owners, index }) => owners.includes(body.id) && settled.fates[index]!.fate === "keep",
    );
    if (kept.length < 2 || kept.some(({ index }) => settled.decided.has(index))) continue;
    context.warn({
      code: "falls-apart",
      message: `${context.nameOf(body.id)} falls apart into ${kept.length} bodies. Check that all of them are wanted.`,
      step: context.step,
      bodies: [body.id],
      pieces: kept.map(({ key }) => key()),
      at: [...surfaceCentre(kept[0]!.shape)],
      ...(fates ? { others: deciding(kept, fates, ["keep"], context) } : {}),
    });
  }
}

/** Answers that decide on pieces: all of them alike. */
function deciding(
  pieces: readonly Piece[],
  fates: readonly FateRule[],
  wanted: readonly ("keep" | "scrap")[],
  { step }: StepContext,
): Repair[] {
  return wanted.map((fate) => ({
    label: `${fate === "keep" ? "Keep" : "Scrap"} ${pieces.length > 1 ? `all ${pieces.length}` : "it"}`,
    step,
    set: { fates: [...fates, ...pieces.map((piece): FateRule => ({ piece: pieceRefOf(piece), fate }))] },
  }));
}

/** Tells that pieces lie on both sides of a cutter whose curves have no one inside: they stay. */
export function tellBothSides({ pieces }: Division, settled: Settled, context: StepContext): void {
  const unsure = pieces.filter(
    ({ sides, index }) => Object.values(sides).includes("both") && !settled.decided.has(index),
  );
  if (unsure.length === 0) return;
  context.warn({
    code: "both-sides",
    message: `${unsure.length === 1 ? `Piece ${unsure[0]!.index + 1} lies` : `${unsure.length} pieces lie`} on both sides of a cutter, so no side takes them away. Decide on them one by one.`,
    step: context.step,
    pieces: unsure.map(({ key }) => key()),
  } satisfies Trouble);
}

/** Tells of stock that may have been taken for a solid: a sheet that is closed all round, which a cut leaves open. */
export function tellSkins(stock: readonly Body[], { reached }: Division, { step, nameOf, warn }: StepContext): void {
  const skins = stock.filter(
    ({ id, kind, shape }) => kind === "sheet" && reached.get(id)!.size > 0 && openPlaces(shape).length === 0,
  );
  const [first] = skins;
  if (!first) return;
  warn({
    code: "skin-not-solid",
    message:
      skins.length === 1
        ? `${nameOf(first.id)} is a sheet closed all round, and no solid: where it is cut it is left open.`
        : `${skins.length} of the stock are sheets closed all round, and no solids: where they are cut they are left open.`,
    step,
    field: "close",
    bodies: skins.map(({ id }) => id),
    at: [...surfaceCentre(first.shape)],
    others: [{ label: "Close what is cut", step, set: { close: true } }],
  });
}
