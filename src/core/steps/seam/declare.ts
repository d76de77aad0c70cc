import * as z from "zod";
import { lengthField } from "../../params";
import { faceRefSchema, itemRef } from "../../references";
import { fateRuleSchema } from "../../seam/piece";
import { dividesAll, keepSideSchema, presetSchema } from "../../seam/presets";
import { pieceRuleSchema } from "../../seam/rules";
import { declareStep } from "../declare";
import { gapFields, gapValues } from "./gap-fields";

const schema = z.object({
  preset: presetSchema.default("split"),
  stock: z
    .array(itemRef)
    .max(500)
    .default([])
    .describe(
      "What is divided; for union, intersect and choose: all the bodies; for fill: bodies that enclose, beside the cutters",
    ),
  cutters: z.array(itemRef).max(500).default([]).describe("Solids, sheets and workplanes that divide"),
  cutterFaces: z
    .array(faceRefSchema)
    .max(500)
    .default([])
    .describe(
      "Single faces of bodies that divide; subtract: what lies behind one, where the material of its body is, goes; intersect: it stays",
    ),
  runOn: z
    .boolean()
    .default(false)
    .describe(
      "Whether cutting faces run on along their own surfaces (a flat one as its plane, a round one all round and along its axis), and open ends of drawn lines straight on",
    ),
  close: z
    .boolean()
    .default(false)
    .describe(
      "fill: whether openings of the bodies are closed, each along the face that it is in, or flat across a ring of open edges; split, trim, subtract: whether sheets are closed where they are cut, by what of the cutters lies there",
    ),
  runSheets: z
    .boolean()
    .default(false)
    .describe(
      "split, choose, trim: whether open sheets that cut run on past all the stock, each face along its own surface",
    ),
  mutual: z
    .boolean()
    .default(false)
    .describe("split, trim, subtract: whether each body of the stock is a cutter of the others, too"),
  ...gapValues,
  keepSide: z
    .record(z.string(), keepSideSchema)
    .default({})
    .describe("trim: which side of each cutter stays, by the cutter (or stock that cuts) as listed"),
  rules: z
    .array(pieceRuleSchema)
    .max(500)
    .default([])
    .describe(
      "Fates for all pieces that are so, over what the preset says; of several that fit a piece the last holds",
    ),
  fates: z
    .array(fateRuleSchema)
    .max(5000)
    .default([])
    .describe("Decisions on single pieces, over what the preset and the rules say"),
  seen: z
    .array(z.string().regex(/^[0-9a-f]{8}(\*\d{1,4})?$/))
    .max(5000)
    .default([])
    .describe(
      "What pieces there were when somebody last decided on some, as the program writes it: others are told as new",
    ),
  joins: z
    .array(z.object({ group: z.string().trim().min(1).max(60), to: itemRef }))
    .max(100)
    .default([])
    .describe("Groups that are joined to a body, which goes on as what comes of them: the group's name, and the body"),
  mergeUnder: lengthField({ min: 0, max: 1 })
    .default(0)
    .describe(
      "split, trim, subtract: pieces thinner than this on the whole are parts of what they lie beside, mm; 0: none are",
    ),
  keepCutters: z.boolean().default(true).describe("Whether the cutters stay on the bench afterwards"),
  keepStock: z.boolean().default(false).describe("Whether the stock also stays as it was, beside what is made of it"),
});

/** The seam engine as a step: all of split, choose, trim, union, subtract, intersect and fill. */
export const seam = declareStep({
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
        { value: "choose", label: "Choose pieces" },
        { value: "trim", label: "Trim" },
        { value: "union", label: "Union" },
        { value: "subtract", label: "Subtract" },
        { value: "intersect", label: "Intersect" },
        { value: "fill", label: "Fill" },
      ],
    },
    {
      key: "stock",
      kind: "bodies",
      label: "Stock",
      labels: { key: "preset", of: { fill: "Bodies around it", choose: "Bodies that divide each other" } },
      accepts: ["body"],
      min: 1,
    },
    {
      key: "cutters",
      kind: "cutters",
      label: "Cutters",
      labels: { key: "preset", of: { fill: "What else bounds it", choose: "What else divides them" } },
    },
    {
      key: "cutterFaces",
      kind: "faces",
      label: "Cutting faces",
      labels: {
        key: "preset",
        of: {
          fill: "Single faces that bound it",
          subtract: "Faces: what lies behind them goes",
          intersect: "Faces: what lies behind them stays",
        },
      },
      help: "Single faces of bodies that divide. Behind one is where the material of its body is",
      accepts: "any",
      min: 0,
      when: { key: "preset", is: ["split", "choose", "trim", "subtract", "intersect", "fill"] },
    },
    {
      key: "runOn",
      kind: "toggle",
      label: "Run cutters on",
      help: "Cutting faces along their own surfaces, past all the stock; open ends of drawn lines straight on",
      when: [
        { key: "preset", is: ["split", "choose", "trim", "subtract", "intersect", "fill"] },
        { any: ["cutters", "cutterFaces"] },
      ],
      onlyWith: { trait: "drawn", in: ["cutters"], orAnyIn: "cutterFaces" },
    },
    {
      key: "runSheets",
      kind: "toggle",
      label: "Run sheets on",
      help: "Open sheets that cut go on past all the stock, each face along its own surface; holes in them close",
      when: [{ key: "preset", is: ["split", "choose", "trim"] }, { any: ["cutters", "stock"] }],
      onlyWith: { trait: "skin", in: ["cutters", "stock"] },
    },
    ...gapFields,
    {
      key: "mutual",
      kind: "toggle",
      label: "Stock divides stock",
      help: "Each body of the stock is a cutter of the others, too: two sheets trim each other",
      when: [{ key: "preset", is: ["split", "trim", "subtract"] }, { any: ["stock"] }],
    },
    {
      key: "close",
      kind: "toggle",
      label: "Close openings",
      help: "Ends of bores, mouths of pockets and necks, rings of open edges: each along the face that it is in, or flat across",
      when: { key: "preset", is: ["fill"] },
    },
    {
      key: "close",
      kind: "toggle",
      label: "Close what is cut",
      help: "Sheets get walls where they are cut, by what of the cutters lies there; what is closed all round is a solid then",
      when: [{ key: "preset", is: ["split", "trim", "subtract"] }, { any: ["stock"] }],
      onlyWith: { trait: "skin", in: ["stock"] },
    },
    {
      key: "mergeUnder",
      kind: "length",
      quiet: true,
      label: "Merge slivers thinner than",
      help: "They get the fate of what they lie beside, and are one with it; 0 leaves all pieces as they are",
      when: { key: "preset", is: ["split", "trim", "subtract"] },
    },
    {
      key: "keepCutters",
      kind: "toggle",
      label: "Keep the cutters",
      when: [{ key: "preset", is: ["split", "choose", "trim", "subtract"] }, { any: ["cutters"] }],
    },
    {
      key: "keepStock",
      kind: "toggle",
      label: "Keep the stock as it was, too",
      when: { key: "preset", is: ["split", "choose", "trim", "union", "subtract", "intersect"] },
    },
    { key: "fates", kind: "fates", label: "Pieces" },
  ],
  changes: ({ preset, stock, cutters, joins }) => [
    ...(preset === "fill" ? [] : dividesAll(preset) ? [...stock, ...cutters] : stock),
    ...joins.map(({ to }) => to),
  ],
  repeats: ({ preset }) =>
    preset === "split" ? "split" : preset === "trim" ? "trimmed" : preset === "subtract" ? "subtracted" : null,
});
