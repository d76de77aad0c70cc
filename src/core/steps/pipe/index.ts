import { z } from "zod";
import { fail } from "../../errors";
import { freeShape, inSpace, pipeAlong } from "../../kernel";
import { type Body, faceNamesOf, type SketchItem } from "../../naming";
import { lengthField, toMm } from "../../params";
import { divideEach, presetFate, settleFates } from "../../seam";
import { type Profile, pathOf, stretchesOf } from "../../sketch";
import { formatLength } from "../../units";
import { itemRef } from "../common";
import { goesInto, INTO_FORM, intoFields, putInto, targetsOf } from "../into";
import { sketchProfile } from "../profile";
import { settleBodies } from "../seam/bodies";
import { defineStep, type StepContext } from "../step";

const schema = z.object({
  path: z.array(itemRef).max(1).default([]).describe("A sketch of one path, open or closed"),
  section: z.enum(["round", "square"]).default("round"),
  size: lengthField({ above: 0 }).default(20).describe("Diameter or side, outside, mm"),
  wall: lengthField({ min: 0 }).default(0).describe("Thickness of the wall, mm; 0 for a solid bar"),
  corners: z.enum(["mitred", "round"]).default("mitred").describe("Where the path has a corner"),
  as: z.enum(["solid"]).default("solid"),
  ...intoFields,
});
type Values = z.infer<typeof schema>;

/** A bar or tube along a path. */
export const pipe = defineStep({
  type: "pipe",
  schema,
  words: { label: "Pipe", line: "A bar or tube, round or square, along a path drawn in a sketch", stage: "shape" },
  fields: [
    { key: "path", kind: "bodies", label: "Path", accepts: ["sketch"], min: 1, max: 1 },
    {
      key: "section",
      kind: "choice",
      label: "Section",
      options: [
        { value: "round", label: "Round" },
        { value: "square", label: "Square" },
      ],
    },
    { key: "size", kind: "length", label: "Size outside" },
    { key: "wall", kind: "length", label: "Wall", help: "0 for a solid bar" },
    {
      key: "corners",
      kind: "choice",
      label: "Corners",
      options: [
        { value: "mitred", label: "Mitred" },
        { value: "round", label: "Round" },
      ],
    },
    ...INTO_FORM,
  ],
  refs: (values) => [...values.path, ...(goesInto(values) ? values.targets : [])],
  resolved: (values) => ({
    ...values,
    size: toMm(values.size),
    wall: toMm(values.wall),
    targets: goesInto(values) ? values.targets : [],
  }),
  evaluate(values, context) {
    const { step } = context;
    const { item, profile } = sketchProfile(values.path, "Pick the sketch of the path.", context);
    const targets = targetsOf(values, context);
    const [size, wall] = [toMm(values.size), toMm(values.wall)];
    if (2 * wall >= size - 1e-6)
      fail(
        "wall-thick",
        `Two walls of ${formatLength(wall)} fill a section of ${formatLength(size)}. Make the wall thinner, or 0 for a solid bar.`,
        { step, field: "wall" },
      );
    refuseTight(item, profile, size, context);
    const outer = bar(values, item, profile, size, "", context);
    if (wall < 1e-9) return putInto(values, targets, [outer], context);
    const inner = bar(values, item, profile, size - 2 * wall, "inside:", context);
    const division = divideEach([outer], [{ item: inner, shape: inner.shape, faces: inner.faces }]);
    try {
      const settled = settleFates(division.pieces, (piece) => presetFate("subtract", piece, [], {}), []);
      const { made } = settleBodies(division, settled, [outer], context);
      const tubes = made.map(
        (body, i): Body => ({
          ...body,
          id: `${step}:solid${i > 0 ? `~${i + 1}` : ""}`,
          hint: { text: "Tube" },
        }),
      );
      return putInto(values, targets, tubes, context);
    } finally {
      division.free();
      freeShape(outer.shape);
      freeShape(inner.shape);
    }
  },
});

function bar(
  values: Values,
  item: SketchItem,
  profile: Profile,
  size: number,
  mark: string,
  context: StepContext,
): Body {
  const { step } = context;
  const path = pathOf(profile.graph);
  if (!path)
    fail(
      "path-branches",
      `${context.nameOf(item.id)} is not one path: it branches, or is in several parts. Draw one line of curves.`,
      {
        step,
        bodies: [item.id],
      },
    );
  const made = pipeAlong(
    item.frame,
    profile.graph.places,
    stretchesOf(profile),
    path,
    { kind: values.section, size },
    values.corners,
  );
  if (!made)
    fail(
      "pipe-crosses",
      `A section of ${formatLength(size)} along this path crosses itself. Make it thinner, or the bends wider.`,
      { step, field: "size", bodies: [item.id] },
    );
  const bases = made.faces.map((face) =>
    typeof face === "string"
      ? `${step}:${mark}cap:${face}`
      : `${step}:${mark}side:${profile.graph.stretches[face]!.curve.id}`,
  );
  const faces = faceNamesOf(made.shape, bases);
  return { id: `${step}:solid${mark}`, kind: "solid", shape: made.shape, faces, hint: { text: "Bar" } };
}

/** A bend has to be wider than half of what goes round it. */
function refuseTight(item: SketchItem, profile: Profile, size: number, context: StepContext): void {
  for (const { curve } of profile.graph.stretches) {
    const { shape } = curve;
    if (shape.kind !== "arc" || shape.radius > size / 2 + 1e-9) continue;
    fail(
      "bend-tight",
      `The bend “${curve.id}” has a radius of ${formatLength(shape.radius)}, and a section of ${formatLength(size)} needs more than ${formatLength(size / 2)}. Make it wider.`,
      { step: context.step, bodies: [item.id], at: [...inSpace(item.frame, shape.centre)] },
    );
  }
}
