import { z } from "zod";
import { fail } from "../../errors";
import { hashText } from "../../hash";
import { boxOf, dot, drawOutSheet, drawOutSolid, freeShape, inSpace, type PlaneFrame, sub } from "../../kernel";
import type { Body, SketchItem } from "../../naming";
import { lengthField, toMm } from "../../params";
import { divideEach, missesBy, presetFate, settleFates } from "../../seam";
import {
  filledRegions,
  mergeRegions,
  type Profile,
  profileOf,
  type Region,
  regionHolds,
  stretchesOf,
} from "../../sketch";
import { formatLength } from "../../units";
import { itemRef } from "../common";
import { settleBodies } from "../seam/bodies";
import { defineStep, type StepContext, type StepOutcome } from "../step";
import { faceNames } from "./faces";

const regionRef = z
  .object({ key: z.string().max(5000), inner: z.tuple([z.number(), z.number()]).optional() })
  .describe("A region by the curves of its outline, each with the side it lies on, and a point that was in it");

const schema = z.object({
  sketch: z.array(itemRef).max(1).default([]).describe("The sketch"),
  regions: z.array(regionRef).max(2000).default([]).describe("Its regions; none for all that are not holes"),
  as: z.enum(["solid", "sheet"]).default("solid").describe("sheet: of every curve, open or closed"),
  extent: z.enum(["distance", "symmetric", "two", "through"]).default("distance"),
  distance: lengthField({ above: 0 }).default(10).describe("Along the normal of the sketch, mm; symmetric: in all"),
  second: lengthField({ min: 0 }).default(10).describe("two: against the normal, mm"),
  flip: z.boolean().default(false).describe("Against the normal of the sketch"),
  into: z.enum(["new", "cut"]).default("new").describe("new: a body of its own; cut: out of the targets"),
  targets: z.array(itemRef).max(500).default([]).describe("cut: the bodies that it is taken out of"),
});
type Values = z.infer<typeof schema>;

/** A drawing drawn out square to its plane. */
export const extrude = defineStep({
  type: "extrude",
  schema,
  words: {
    label: "Extrude",
    line: "A sketch drawn out square to its plane: a solid, a sheet, or a cut",
    stage: "shape",
  },
  fields: [
    { key: "sketch", kind: "bodies", label: "Sketch", accepts: ["sketch"], min: 1, max: 1 },
    {
      key: "as",
      kind: "choice",
      label: "Makes",
      options: [
        { value: "solid", label: "A solid" },
        { value: "sheet", label: "A sheet" },
      ],
    },
    { key: "regions", kind: "regions", of: "sketch", label: "Regions", when: { key: "as", is: ["solid"] } },
    {
      key: "into",
      kind: "choice",
      label: "As",
      options: [
        { value: "new", label: "A body of its own" },
        { value: "cut", label: "A cut" },
      ],
      when: { key: "as", is: ["solid"] },
    },
    {
      key: "targets",
      kind: "bodies",
      label: "Out of",
      accepts: ["solid"],
      min: 1,
      when: [
        { key: "into", is: ["cut"] },
        { key: "as", is: ["solid"] },
      ],
    },
    {
      key: "extent",
      kind: "choice",
      label: "How far",
      options: [
        { value: "distance", label: "One way" },
        { value: "symmetric", label: "Both ways alike" },
        { value: "two", label: "Two distances" },
        { value: "through", label: "Through all" },
      ],
    },
    {
      key: "distance",
      kind: "length",
      label: "Distance",
      when: { key: "extent", is: ["distance", "symmetric", "two"] },
    },
    { key: "second", kind: "length", label: "The other way", when: { key: "extent", is: ["two"] } },
    {
      key: "flip",
      kind: "toggle",
      label: "The other way round",
      when: { key: "extent", is: ["distance", "two", "through"] },
    },
  ],
  refs: (values) => [...values.sketch, ...(isCut(values) ? values.targets : [])],
  resolved: (values) => ({
    ...values,
    distance: values.extent === "through" ? 0 : toMm(values.distance),
    second: values.extent === "two" ? toMm(values.second) : 0,
    targets: isCut(values) ? values.targets : [],
  }),
  evaluate(values, context) {
    const { step } = context;
    const [item] = context.items(values.sketch);
    if (item?.kind !== "sketch") fail("nothing-picked", "Pick the sketch to draw out.", { step });
    const targets = isCut(values) ? context.bodies(values.targets) : [];
    if (isCut(values) && targets.length === 0) fail("nothing-picked", "Pick the bodies to cut into.", { step });
    const profile = profileOf(item.entities);
    if (profile.graph.stretches.length === 0)
      fail("nothing-drawn", `${context.nameOf(item.id)} holds no curves yet. Draw an outline in it.`, {
        step,
        bodies: [item.id],
      });
    const [low, high] = heights(values, item.frame, targets, context);
    if (values.as === "sheet") return { made: [sheetOf(item, profile, low, high, step)], used: [] };
    const solids = solidsOf(values, item, profile, low, high, context);
    return isCut(values) ? cutOut(targets, solids, context) : { made: solids, used: [] };
  },
});

const isCut = ({ into, as }: Values): boolean => into === "cut" && as === "solid";

/** From where to where it reaches, over the sketch's plane. */
function heights(values: Values, frame: PlaneFrame, targets: readonly Body[], context: StepContext): [number, number] {
  const turned = ([low, high]: [number, number]): [number, number] => (values.flip ? [-high, -low] : [low, high]);
  switch (values.extent) {
    case "distance":
      return turned([0, toMm(values.distance)]);
    case "symmetric":
      return [-toMm(values.distance) / 2, toMm(values.distance) / 2];
    case "two":
      return turned([-toMm(values.second), toMm(values.distance)]);
    case "through": {
      if (targets.length === 0)
        fail("through-nothing", "Through all needs bodies to go through: make it a cut, or give a distance.", {
          step: context.step,
        });
      const reach = targets
        .flatMap(({ shape }) => {
          const box = boxOf(shape);
          return box
            ? [0, 1, 2, 3, 4, 5, 6, 7].map(
                (i) =>
                  [
                    i & 1 ? box.max[0] : box.min[0],
                    i & 2 ? box.max[1] : box.min[1],
                    i & 4 ? box.max[2] : box.min[2],
                  ] as const,
              )
            : [];
        })
        .map((corner) => dot(sub(corner, frame.origin), frame.normal) * (values.flip ? -1 : 1));
      const far = Math.max(...reach);
      if (far <= 1e-6)
        fail("through-nothing", "The bodies lie behind the sketch. Turn it the other way round.", {
          step: context.step,
        });
      return turned([0, far + 1]);
    }
  }
}

function solidsOf(
  values: Values,
  item: SketchItem,
  profile: Profile,
  low: number,
  high: number,
  context: StepContext,
): Body[] {
  const { step } = context;
  if (profile.regions.length === 0) {
    const [open] = profile.openEnds;
    const where = open
      ? ` It is open at ${formatLength(open.at[0])}, ${formatLength(open.at[1])}, where “${open.curve}” ends.`
      : "";
    fail("outline-open", `${context.nameOf(item.id)} encloses nothing.${where} Close the outline, or make a sheet.`, {
      step,
      bodies: [item.id],
      ...(open ? { at: [...inSpace(item.frame, open.at)] } : {}),
    });
  }
  const chosen =
    values.regions.length > 0 ? values.regions.map((ref) => regionFor(ref, profile, context)) : filledRegions(profile);
  const merged = mergeRegions(profile, chosen);
  return merged.map((region): Body => {
    const drawn = drawOutSolid(
      item.frame,
      profile.graph.places,
      stretchesOf(profile),
      region.outline,
      region.holes,
      low,
      high,
    );
    const mark = merged.length > 1 ? `~${hashText(region.key).slice(0, 4)}` : "";
    return {
      id: `${step}:solid${mark}`,
      kind: "solid",
      shape: drawn.shape,
      faces: faceNames(step, drawn, profile),
      hint: { text: "Solid" },
    };
  });
}

/** A region as it was chosen: by the curves round it; where several have the same, by the point that was in it. */
function regionFor({ key, inner }: z.infer<typeof regionRef>, { regions }: Profile, context: StepContext): Region {
  const { step } = context;
  const same = regions.filter((region) => region.key === key);
  if (same.length === 1) return same[0]!;
  const candidates = same.length > 1 ? same : regions;
  const holding = inner ? candidates.filter((region) => regionHolds(region, inner)) : [];
  if (holding.length !== 1)
    fail("region-lost", "A chosen region of the sketch is no longer enclosed. Choose the regions again.", { step });
  if (same.length === 0)
    context.warn({
      code: "region-guessed",
      message: "A chosen region has other curves round it now; the one at its place was taken. Check it.",
      step,
    });
  return holding[0]!;
}

function sheetOf(item: SketchItem, profile: Profile, low: number, high: number, step: string): Body {
  const drawn = drawOutSheet(item.frame, profile.graph.places, stretchesOf(profile), low, high);
  return {
    id: `${step}:sheet`,
    kind: "sheet",
    shape: drawn.shape,
    faces: faceNames(step, drawn, profile),
    hint: { text: "Sheet" },
  };
}

/** Takes solids out of the targets; the solids themselves do not stay. */
function cutOut(targets: readonly Body[], tools: readonly Body[], context: StepContext): StepOutcome {
  const { step } = context;
  const division = divideEach(
    targets,
    tools.map((item) => ({ item, shape: item.shape, faces: item.faces })),
  );
  try {
    const idle = tools.find((tool) => !division.touching.has(tool.id));
    if (idle && tools.length === 1) {
      const miss = missesBy({ item: idle, shape: idle.shape, faces: idle.faces }, targets);
      fail(
        "cutter-misses",
        miss.how === "misses"
          ? `The cut misses ${context.nameOf(miss.stock)} by ${formatLength(miss.by)}. Move the sketch, or turn it the other way round.`
          : `The cut only touches the skin of ${context.nameOf(miss.stock)}. Turn it the other way round, or make it longer.`,
        { step, bodies: [miss.stock], at: [...miss.at] },
      );
    }
    const settled = settleFates(division.pieces, (piece) => presetFate("subtract", piece, [], {}), []);
    const { made } = settleBodies(division, settled, targets, context);
    if (made.length === 0) fail("nothing-left", "The cut leaves nothing of the bodies. Make it smaller.", { step });
    return { made, used: targets.map(({ id }) => id) };
  } finally {
    division.free();
    for (const tool of tools) freeShape(tool.shape);
  }
}
