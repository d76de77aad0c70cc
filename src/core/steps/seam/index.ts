import { z } from "zod";
import { fail, type Repair, type Trouble } from "../../errors";
import {
  centre,
  diagonal,
  dot,
  drawOutSheet,
  freeShape,
  KernelFault,
  looseBoxOf,
  makePlaneFace,
  nearest,
  ownHandle,
  type Shape,
  sheetFromFaces,
  sub,
  surfaceCentre,
  unionBox,
} from "../../kernel";
import { type Body, comparePlaces, faceRefSchema, type Item, isBody, type SketchItem } from "../../naming";
import {
  type Division,
  divideAll,
  divideEach,
  dividesAll,
  fateRuleSchema,
  type Joined,
  joinPieces,
  type Knife,
  keepSideSchema,
  missesBy,
  type Piece,
  presetFate,
  presetSchema,
  type Settled,
  settleFates,
  shortBy,
} from "../../seam";
import { profileOf, stretchesOf } from "../../sketch";
import { formatLength } from "../../units";
import { itemRef } from "../common";
import { faceNames } from "../extrude/faces";
import { defineStep, type PieceReport, type StepContext, type StepOutcome } from "../step";

const schema = z.object({
  preset: presetSchema.default("split"),
  stock: z.array(itemRef).max(500).default([]).describe("What is divided; for union and intersect: all the bodies"),
  cutters: z.array(itemRef).max(500).default([]).describe("Solids, sheets and workplanes that divide"),
  cutterFaces: z.array(faceRefSchema).max(500).default([]).describe("Single faces of bodies that divide"),
  keepSide: z
    .record(z.string(), keepSideSchema)
    .default({})
    .describe("trim: which side of each cutter stays, by the cutter as listed"),
  fates: z
    .array(fateRuleSchema)
    .max(5000)
    .default([])
    .describe("Decisions on single pieces, over what the preset says"),
  keepCutters: z.boolean().default(true).describe("Whether the cutters stay on the bench afterwards"),
  keepStock: z.boolean().default(false).describe("Whether the stock also stays as it was, beside what is made of it"),
});
type Values = z.infer<typeof schema>;

/** The seam engine as a step: all of split, trim, union, subtract and intersect. */
export const seam = defineStep({
  type: "seam",
  schema,
  words: { label: "Seam", line: "Stock and cutters divide into pieces; you say which stay", stage: "seam" },
  fields: [
    {
      key: "preset",
      kind: "choice",
      label: "Do",
      options: [
        { value: "split", label: "Split" },
        { value: "trim", label: "Trim" },
        { value: "union", label: "Union" },
        { value: "subtract", label: "Subtract" },
        { value: "intersect", label: "Intersect" },
      ],
    },
    { key: "stock", kind: "bodies", label: "Stock", accepts: ["solid", "sheet"], min: 1 },
    {
      key: "cutters",
      kind: "cutters",
      label: "Cutters",
      when: { key: "preset", is: ["split", "trim", "subtract"] },
    },
    {
      key: "cutterFaces",
      kind: "faces",
      label: "Cutting faces",
      help: "Single faces of bodies that divide, as far as they reach",
      accepts: "any",
      min: 0,
      when: { key: "preset", is: ["split"] },
    },
    {
      key: "keepCutters",
      kind: "toggle",
      label: "Keep the cutters",
      when: { key: "preset", is: ["split", "trim", "subtract"] },
    },
    { key: "keepStock", kind: "toggle", label: "Keep the stock as it was, too" },
    { key: "fates", kind: "fates", label: "Pieces" },
  ],
  refs: (values) => [...values.stock, ...values.cutters, ...values.cutterFaces.map((ref) => ref.body)],
  resolved: (values) => values,
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
  const division = divideAll(operands);
  try {
    const ids = operands.map((body) => body.id);
    const settled = settle(values, division, ids, {}, context);
    if (values.preset === "intersect" && !division.pieces.some((piece) => ids.every((id) => piece.stock.includes(id))))
      fail("nothing-common", `These bodies have nothing in common: ${gapText(operands)}.`, { step, bodies: ids });
    const outcome = settleBodies(values, division, settled, operands, context);
    if (values.preset === "union" && outcome.lumps.get("union")! > 1 && values.fates.length === 0)
      context.warn({
        code: "union-apart",
        message: `These bodies do not all touch, so the union is ${outcome.lumps.get("union")} bodies: ${gapText(operands)}.`,
        step,
        bodies: ids,
      });
    return {
      made: outcome.made,
      used: values.keepStock ? [] : ids,
      ...reports(division, settled, values, ids, {}, context),
    };
  } finally {
    division.free();
  }
}

function cut(values: Values, stock: Body[], context: StepContext): StepOutcome {
  const { step } = context;
  const owned: Shape[] = [];
  let division: Division | null = null;
  try {
    const { knives, keepSide } = knivesOf(values, stock, context, owned);
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
      const open = knives.find((knife) => knife.item.kind !== "solid");
      if (open)
        fail("needs-solids", "Subtract takes solids away, and one of the cutters is open. Use Trim to cut along it.", {
          step,
          bodies: [open.item.id],
        });
    }
    division = divideEach(stock, knives);
    refuseShort(division, stock, knives, values, context);
    const settled = settle(values, division, [], keepSide, context);
    const { made } = settleBodies(values, division, settled, stock, context);
    if (made.length === 0)
      fail("nothing-left", "Nothing is kept: every piece is scrap. Keep at least one piece, or turn a side round.", {
        step,
      });
    const used = values.keepStock ? [] : stock.map((body) => body.id);
    if (!values.keepCutters)
      used.push(...knives.filter((knife) => isOwnItem(knife, values, context)).map((knife) => knife.item.id));
    return { made, used: [...new Set(used)], ...reports(division, settled, values, [], keepSide, context) };
  } finally {
    division?.free();
    for (const shape of owned) freeShape(shape);
  }
}

function isOwnItem(knife: Knife, values: Values, context: StepContext): boolean {
  return context.items(values.cutters).some((item) => item.id === knife.item.id);
}

/** The cutters as knives. A workplane becomes a face that reaches past all the stock. */
function knivesOf(values: Values, stock: Body[], context: StepContext, owned: Shape[]) {
  const stockIds = new Set(stock.map((body) => body.id));
  const items = unique(values.cutters.flatMap((ref) => context.items([ref]))).filter((item) => !stockIds.has(item.id));
  const keepSide: Record<string, z.infer<typeof keepSideSchema>> = {};
  for (const [ref, side] of Object.entries(values.keepSide)) {
    const named = values.cutters.includes(ref) ? context.items([ref]) : [];
    if (named.length === 0) keepSide[ref] = side;
    for (const item of named) keepSide[item.id] = side;
  }
  const knives: Knife[] = items.map((item) => {
    if (isBody(item)) return { item, shape: item.shape, faces: item.faces };
    if (item.kind === "sketch") {
      const knife = sketchKnife(item, stock, context);
      owned.push(knife.shape);
      return knife;
    }
    const box = stock
      .map((body) => looseBoxOf(body.shape))
      .filter((found) => found !== null)
      .reduce(unionBox);
    const height = dot(sub(centre(box), item.origin), item.normal);
    const middle = sub(centre(box), [item.normal[0] * height, item.normal[1] * height, item.normal[2] * height]);
    const shape = makePlaneFace(middle, item.normal, diagonal(box) + 1);
    owned.push(shape);
    return { item, shape, faces: [`${item.id}:face`] };
  });
  for (const ref of values.cutterFaces) {
    const { body, face } = context.face(ref);
    const sheet = sheetFromFaces(body.shape, [face]);
    owned.push(sheet.shape);
    const name = body.faces[face]!;
    const item: Item = { id: `face:${name}`, kind: "sheet", shape: sheet.shape, faces: [name], hint: { text: "Face" } };
    knives.push({ item, shape: sheet.shape, faces: [name] });
  }
  return { knives, keepSide };
}

/** A sketch cuts as the sheet that its curves sweep square to its plane, past all the stock on both sides. */
function sketchKnife(item: SketchItem, stock: readonly Body[], context: StepContext): Knife {
  const profile = profileOf(item.entities);
  if (profile.graph.stretches.length === 0)
    fail("nothing-drawn", `${context.nameOf(item.id)} holds no curves, so it divides nothing. Draw a line in it.`, {
      step: context.step,
      bodies: [item.id],
    });
  const { origin, normal } = item.frame;
  const heights = stock.flatMap(({ shape }) => {
    const box = looseBoxOf(shape);
    if (!box) return [];
    const middle = dot(sub(centre(box), origin), normal);
    return [middle - diagonal(box), middle + diagonal(box)];
  });
  const drawn = drawOutSheet(
    item.frame,
    profile.graph.places,
    stretchesOf(profile),
    Math.min(...heights) - 1,
    Math.max(...heights) + 1,
  );
  return { item, shape: drawn.shape, faces: faceNames(item.id.split(":")[0]!, drawn, profile) };
}

/** A cutter that ends inside the stock, or reaches none of it, is an error that says by how much and offers the repair. */
function refuseShort(division: Division, stock: Body[], knives: Knife[], _values: Values, context: StepContext): void {
  const { step } = context;
  const { nameOf } = context;
  for (const dangling of division.dangling) {
    const body = stock.find((candidate) => candidate.id === dangling.stock)!;
    const shortfall = shortBy(dangling, body);
    const more =
      shortfall.by > 0 ? ` It has to reach ${formatLength(Math.ceil(shortfall.by * 1000) / 1000)} further.` : "";
    fail(
      "cutter-short",
      `${nameOf(dangling.cutter)} stops short inside ${nameOf(dangling.stock)}.${more} Extend it, or use a workplane.`,
      {
        step,
        bodies: [dangling.cutter, dangling.stock],
        at: [...shortfall.at],
        ...repairOf(dangling.cutter, shortfall.by),
      },
    );
  }
  for (const knife of knives) {
    if (division.touching.has(knife.item.id)) continue;
    const miss = missesBy(knife, stock);
    const target = nameOf(miss.stock);
    const message =
      miss.how === "misses"
        ? `${nameOf(knife.item.id)} misses ${target} by ${formatLength(Math.ceil(miss.by * 1000) / 1000)}: it divides nothing. Move one of them.`
        : `${nameOf(knife.item.id)} only touches the skin of ${target}, so it divides nothing. Move it into ${target}.`;
    const trouble: Trouble = {
      code: "cutter-misses",
      message,
      step,
      bodies: [knife.item.id, miss.stock],
      at: [...miss.at],
    };
    // One cutter of several that misses is worth a word, not a stop: the others still cut.
    if (knives.length > 1 && knives.some((other) => division.touching.has(other.item.id))) context.warn(trouble);
    else fail(trouble.code, message, trouble);
  }
}

function repairOf(cutter: string, by: number): { repair?: Repair } {
  const owner = cutter.split(":")[0]!;
  if (!cutter.endsWith(":sheet") || by <= 0) return {};
  return {
    repair: {
      label: `Extend it by ${formatLength(Math.ceil(by + 1))} more`,
      step: owner,
      set: { extend: { add: Math.ceil(by + 1) } },
    },
  };
}

function settle(
  values: Values,
  division: Division,
  operands: string[],
  keepSide: Record<string, z.infer<typeof keepSideSchema>>,
  context: StepContext,
): Settled {
  const settled = settleFates(
    division.pieces,
    (piece) => presetFate(values.preset, piece, operands, keepSide),
    values.fates,
  );
  for (const message of settled.warnings) context.warn({ code: "check-pieces", message, step: context.step });
  return settled;
}

/** Kept pieces become bodies, groups are joined, and everything gets the id and name that it keeps after an edit. */
function settleBodies(_values: Values, division: Division, settled: Settled, stock: Body[], context: StepContext) {
  const { step } = context;
  const made: Body[] = [];
  const lumps = new Map<string, number>();
  const single: Piece[] = [];
  const groups = new Map<string, Piece[]>();
  for (const piece of division.pieces) {
    const { fate, group = "group" } = settled.fates[piece.index]!;
    if (fate === "keep") single.push(piece);
    else if (fate === "group") {
      const list = groups.get(group);
      if (list) list.push(piece);
      else groups.set(group, [piece]);
    }
  }
  const count = new Map<string, number>();
  for (const piece of single) {
    const owner = piece.stock[0]!;
    const several = single.filter((other) => other.stock[0] === owner).length > 1;
    const number = (count.get(owner) ?? 0) + 1;
    count.set(owner, number);
    const [joined] = joinPieces(division, [piece]);
    made.push(toBody(joined!, `${step}:${piece.key}`, { from: owner, suffix: several ? String(number) : "" }));
  }
  for (const [name, pieces] of groups) {
    const joined = joinPieces(division, pieces);
    lumps.set(name, joined.length);
    const order = joined.length > 1 ? byPlace(joined) : joined;
    order.forEach((lump, i) => {
      const number = order.length > 1 ? `.${i + 1}` : "";
      const preset = name === "union" || name === "common";
      const hint = preset
        ? { from: stock[0]!.id, suffix: number ? String(i + 1) : "" }
        : { text: `${name}${number ? ` ${i + 1}` : ""}` };
      made.push(toBody(lump, `${step}:group:${name}${number}`, hint));
    });
    if (joined.length > 1 && name !== "union" && name !== "common")
      context.warn({
        code: "group-apart",
        message: `The pieces of “${name}” do not touch along a face, so they stay ${joined.length} bodies.`,
        step,
      });
  }
  return { made, lumps };
}

function byPlace(joined: Joined[]): Joined[] {
  const centres = new Map(joined.map((lump) => [lump, surfaceCentre(lump.shape)] as const));
  return [...joined].sort((a, b) => comparePlaces(centres.get(a)!, centres.get(b)!));
}

function toBody({ form, shape, faces }: Joined, id: string, hint: Body["hint"]): Body {
  return { id, kind: form, shape, faces, hint };
}

function reports(
  division: Division,
  settled: Settled,
  values: Values,
  operands: string[],
  keepSide: Record<string, z.infer<typeof keepSideSchema>>,
  context: StepContext,
): { pieces?: PieceReport[] } {
  if (!context.wantsPieces) return {};
  return {
    pieces: division.pieces.map(({ shape, fusion: _fusion, uses: _uses, ...piece }) => ({
      piece,
      shape: ownHandle(shape),
      fate: settled.fates[piece.index]!,
      preset: presetFate(values.preset, piece, operands, keepSide),
    })),
  };
}

function gapText(bodies: readonly Body[]): string {
  let widest = 0;
  for (const body of bodies) {
    const others = bodies.filter((other) => other !== body).map((other) => nearest(body.shape, other.shape)?.gap ?? 0);
    widest = Math.max(widest, Math.min(...others));
  }
  return widest > 1e-6 ? `the gap between them is ${formatLength(widest)}` : "they touch without sharing space";
}

function unique<T extends { id: string }>(items: readonly T[]): T[] {
  return [...new Map(items.map((item) => [item.id, item])).values()];
}
