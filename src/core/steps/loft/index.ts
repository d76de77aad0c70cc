import { z } from "zod";
import { fail } from "../../errors";
import { inSpace, KernelFault, type LoftSection, loftThrough } from "../../kernel";
import { type Body, faceNamesOf, type SketchItem } from "../../naming";
import { filledRegions, mergeRegions, type Profile, profileOf, stretchesOf } from "../../sketch";
import { itemRef } from "../common";
import { goesInto, INTO_FORM, intoFields, putInto, targetsOf } from "../into";
import { MAKES } from "../profile";
import { defineStep, type StepContext } from "../step";

const schema = z.object({
  sections: z
    .array(itemRef)
    .max(100)
    .default([])
    .describe("Sketches in order, each of one closed outline, or of a point"),
  surface: z.enum(["straight", "smooth"]).default("straight").describe("Between the sections"),
  as: z.enum(["solid", "sheet"]).default("solid"),
  ...intoFields,
});

/** A body through sections. */
export const loft = defineStep({
  type: "loft",
  schema,
  words: { label: "Loft", line: "A body through outlines in several planes, or out to a point", stage: "shape" },
  fields: [
    { key: "sections", kind: "bodies", label: "Sections, in order", accepts: ["sketch"], min: 2 },
    {
      key: "surface",
      kind: "choice",
      label: "Between them",
      options: [
        { value: "straight", label: "Straight" },
        { value: "smooth", label: "Smooth" },
      ],
    },
    MAKES,
    ...INTO_FORM,
  ],
  refs: (values) => [...values.sections, ...(goesInto(values) ? values.targets : [])],
  resolved: (values) => ({ ...values, targets: goesInto(values) ? values.targets : [] }),
  evaluate(values, context) {
    const { step } = context;
    const sketches = context.items(values.sections).filter((item): item is SketchItem => item.kind === "sketch");
    if (sketches.length < 2)
      fail("too-few-sections", "A loft needs two sections or more, each a sketch of its own. Pick another.", { step });
    const targets = targetsOf(values, context);
    const sections = sketches.map((item, i) => sectionOf(item, i === 0 || i === sketches.length - 1, context));
    if (sections.every(({ section }) => "point" in section))
      fail("no-outline", "A loft between points alone has no width. Give it an outline.", { step });
    let made: ReturnType<typeof loftThrough>;
    try {
      made = loftThrough(
        sections.map(({ section }) => section),
        { solid: values.as === "solid", ruled: values.surface === "straight" },
      );
    } catch (cause) {
      if (!(cause instanceof KernelFault) || cause.fatal) throw cause;
      fail(
        "loft-failed",
        "No sound body runs through these sections in this order: it would cross itself. Check their order, or move them apart.",
        { step, bodies: sketches.map(({ id }) => id) },
      );
    }
    const bases = made.faces.map((face) => {
      if (typeof face === "string") return `${step}:cap:${face}`;
      const { item, profile } = sections[face.section]!;
      const curve = profile?.graph.stretches[face.stretch]?.curve.id ?? "point";
      return `${step}:side:${item.id.split(":")[0]}:${curve}`;
    });
    const faces = faceNamesOf(made.shape, bases);
    const body: Body = {
      id: `${step}:${values.as}`,
      kind: values.as,
      shape: made.shape,
      faces,
      hint: { text: values.as === "solid" ? "Solid" : "Sheet" },
    };
    return putInto(values, targets, [body], context);
  },
});

/** The one outline of a sketch, or the one point that it holds. @throws SeamError */
function sectionOf(
  item: SketchItem,
  atEnd: boolean,
  context: StepContext,
): { item: SketchItem; profile: Profile | null; section: LoftSection } {
  const { step } = context;
  const name = context.nameOf(item.id);
  const profile = profileOf(item.entities);
  const merged = mergeRegions(profile, filledRegions(profile));
  if (profile.graph.stretches.length === 0) {
    const points = item.entities.filter((one) => one.type === "point");
    const [only] = points;
    if (points.length !== 1 || only?.type !== "point")
      fail("no-section", `${name} holds neither an outline nor a single point. Draw one.`, { step, bodies: [item.id] });
    if (!atEnd)
      fail("point-amid", `${name} is a point, and a point can only stand at an end of a loft. Move it there.`, {
        step,
        bodies: [item.id],
      });
    return { item, profile: null, section: { point: inSpace(item.frame, [only.x, only.y]) } };
  }
  const [region, more] = merged;
  if (!region || more || region.holes.length > 0)
    fail(
      "no-section",
      region
        ? `${name} encloses more than one outline; a section has one, without holes. Draw it in a sketch of its own.`
        : `${name} encloses nothing. Close its outline.`,
      { step, bodies: [item.id] },
    );
  return {
    item,
    profile,
    section: {
      frame: item.frame,
      places: profile.graph.places,
      stretches: stretchesOf(profile),
      outline: region.outline,
    },
  };
}
