import { z } from "zod";
import { fail } from "../../errors";
import {
  cornersOf,
  distance,
  inSpace,
  KernelFault,
  type LoftOutline,
  type LoftSection,
  loftThrough,
  matchOutlines,
  skinThrough,
} from "../../kernel";
import { type Body, faceNamesOf, faceRefSchema, type SketchItem } from "../../naming";
import { lengthField, toMm } from "../../params";
import { filledRegions, mergeRegions, type Profile, profileOf, stretchesOf } from "../../sketch";
import { itemRef } from "../common";
import { goesInto, INTO_FORM, intoFields, putInto, targetsOf } from "../into";
import { facesAsSketch, MAKES } from "../profile";
import { defineStep, type StepContext } from "../step";
import { guidesAt } from "./guides";

const schema = z.object({
  sections: z
    .array(itemRef)
    .max(100)
    .default([])
    .describe("Sketches in order, each of one closed outline, or of a point"),
  fromFace: z.array(faceRefSchema).max(1).default([]).describe("A flat face that it begins at, before the sketches"),
  toFace: z.array(faceRefSchema).max(1).default([]).describe("A flat face that it ends at, after the sketches"),
  surface: z.enum(["straight", "smooth"]).default("straight").describe("Between the sections"),
  ring: z.boolean().default(false).describe("The last section goes on to the first"),
  squareStart: z.boolean().default(false).describe("smooth: it leaves the first section square to its plane"),
  startReach: lengthField({ min: 0 }).default(0).describe("How strongly, mm; 0 for as far as to the next section"),
  squareEnd: z.boolean().default(false).describe("smooth: it comes to the last section square to its plane"),
  endReach: lengthField({ min: 0 }).default(0).describe("How strongly, mm; 0 for as far as from the section before"),
  guides: z
    .array(itemRef)
    .max(50)
    .default([])
    .describe("smooth: sketches of curves, each along the same corner of all sections, or from one to the next"),
  starts: z
    .array(z.number().int().min(-500).max(500))
    .max(100)
    .default([])
    .describe("For each section, by how many corners its start is moved on"),
  as: z.enum(["solid", "sheet"]).default("solid"),
  ...intoFields,
});
export type LoftValues = z.infer<typeof schema>;

const SMOOTH = { key: "surface", is: ["smooth"] };
const NO_RING = { key: "ring", is: ["false"] };

/** A body through sections. */
export const loft = defineStep({
  type: "loft",
  schema,
  words: {
    label: "Loft",
    line: "A body through outlines in several planes, out to a point, or round in a ring",
    stage: "shape",
  },
  fields: [
    { key: "sections", kind: "bodies", label: "Sections, in order", accepts: ["sketch"], min: 0 },
    { key: "fromFace", kind: "faces", label: "Begins at a flat face", accepts: "plane", min: 0, max: 1, when: NO_RING },
    { key: "toFace", kind: "faces", label: "Ends at a flat face", accepts: "plane", min: 0, max: 1, when: NO_RING },
    {
      key: "surface",
      kind: "choice",
      label: "Between them",
      options: [
        { value: "straight", label: "Straight" },
        { value: "smooth", label: "Smooth" },
      ],
    },
    { key: "ring", kind: "toggle", label: "In a ring, back to the first" },
    { key: "squareStart", kind: "toggle", label: "Leaves the first square", when: [SMOOTH, NO_RING] },
    {
      key: "startReach",
      kind: "length",
      label: "How strongly",
      help: "0: as far as to the next section",
      when: [SMOOTH, NO_RING, { key: "squareStart", is: ["true"] }],
    },
    { key: "squareEnd", kind: "toggle", label: "Comes to the last square", when: [SMOOTH, NO_RING] },
    {
      key: "endReach",
      kind: "length",
      label: "How strongly",
      help: "0: as far as from the section before",
      when: [SMOOTH, NO_RING, { key: "squareEnd", is: ["true"] }],
    },
    {
      key: "guides",
      kind: "bodies",
      label: "Guides, along corners",
      accepts: ["sketch"],
      min: 0,
      when: [SMOOTH, NO_RING],
    },
    { key: "starts", kind: "starts", of: "sections", label: "Corners moved on" },
    MAKES,
    ...INTO_FORM,
  ],
  refs: (values) => [
    ...values.sections,
    ...facesOf(values).map((ref) => ref.body),
    ...guidesOf(values),
    ...(goesInto(values) ? values.targets : []),
  ],
  changes: (values) => (goesInto(values) ? values.targets : []),
  resolved: (values) => ({
    ...values,
    ...shapeOf(values),
    ...(values.ring ? { fromFace: [], toFace: [] } : {}),
    guides: guidesOf(values),
    targets: goesInto(values) ? values.targets : [],
  }),
  weighed: () => true,
  evaluate(values, context) {
    const { step } = context;
    const drawn = context.items(values.sections).filter((item): item is SketchItem => item.kind === "sketch");
    const [from, to] = values.ring ? [[], []] : [values.fromFace, values.toFace];
    const atFaces = (refs: typeof from) =>
      refs.length > 0 ? [facesAsSketch(refs, "Pick the flat face of the section.", context)] : [];
    const sketches = [...atFaces(from), ...drawn, ...atFaces(to)];
    const least = values.ring ? 3 : 2;
    if (sketches.length < least)
      fail(
        "too-few-sections",
        values.ring
          ? "A ring needs three sections or more, each a sketch of its own. Pick another."
          : "A loft needs two sections or more, each a sketch of its own or a flat face. Pick another.",
        { step },
      );
    const targets = targetsOf(values, context);
    const end = (i: number) => !values.ring && (i === 0 || i === sketches.length - 1);
    const sections = sketches.map((item, i) => sectionOf(item, end(i), context));
    if (sections.every(({ section }) => "point" in section))
      fail("no-outline", "A loft between points alone has no width. Give it an outline.", { step });
    let made: ReturnType<typeof loftThrough>;
    try {
      made = skin(values, sections, context);
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

/** The flat faces that it begins and ends at. */
const facesOf = ({ ring, fromFace, toFace }: LoftValues) => (ring ? [] : [...fromFace, ...toFace]);

const guidesOf = ({ surface, ring, guides }: LoftValues): string[] => (surface === "smooth" && !ring ? guides : []);

/** How it leaves and comes to its ends: how strongly, mm, with 0 for as far as the next section; null where it is free. */
function shapeOf({ surface, ring, squareStart, startReach, squareEnd, endReach }: LoftValues) {
  const counts = surface === "smooth" && !ring;
  return {
    start: counts && squareStart ? toMm(startReach) : null,
    end: counts && squareEnd ? toMm(endReach) : null,
  };
}

/** Makes the loft: by the library, or as a skin of our own where its ends or guides ask for that. */
function skin(values: LoftValues, sections: readonly Section[], context: StepContext): ReturnType<typeof loftThrough> {
  const { step } = context;
  const solid = values.as === "solid";
  const ends = shapeOf(values);
  const guides = guidesOf(values);
  const moved = values.starts.some((start) => start !== 0);
  const own = ends.start !== null || ends.end !== null || guides.length > 0;
  const options = { solid, ruled: values.surface === "straight", ring: values.ring };
  const all = sections.map(({ section }) => section);
  if (!own && !moved) return loftThrough(all, { ...options, asDrawn: false });
  const outlines = all.filter((section): section is LoftOutline => !("point" in section));
  const matched = outlines.length === all.length ? matchOutlines(outlines, values.starts) : null;
  if (!matched)
    fail(
      "sections-unlike",
      own
        ? "Square ends and guides need outlines with the same number of curves, and no points. Draw them alike, or let it run freely."
        : "Corners can be moved on where all outlines have the same number of curves, and none is a point.",
      { step, bodies: sections.map(({ item }) => item.id) },
    );
  if (!own) return loftThrough(matched, { ...options, asDrawn: true });
  const far = (a: number, b: number) => {
    const [from, to] = [cornersOf(matched[a]!), cornersOf(matched[b]!)];
    return from.reduce((sum, at, i) => sum + distance(at, to[i]!), 0) / from.length;
  };
  const last = matched.length - 1;
  return skinThrough(
    matched,
    {
      start: ends.start === 0 ? far(0, 1) : ends.start,
      end: ends.end === 0 ? far(last - 1, last) : ends.end,
    },
    guidesAt(guides, matched, context),
    solid,
  );
}

interface Section {
  item: SketchItem;
  profile: Profile | null;
  section: LoftSection;
}

/** The one outline of a sketch, or the one point that it holds. @throws SeamError */
function sectionOf(item: SketchItem, atEnd: boolean, context: StepContext): Section {
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
