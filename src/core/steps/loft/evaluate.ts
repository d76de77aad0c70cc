import { fail } from "../../errors";
import type { Body, SketchItem } from "../../items";
import { has } from "../../items/kinds";
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
import { faceNamesOf } from "../../naming";
import { toMm } from "../../params";
import type { FaceRef } from "../../references";
import { filledRegions, mergeRegions, type Profile, profileOf, stretchesOf } from "../../sketch";
import { evaluates, type StepContext, type ValuesOf } from "../evaluation";
import { putInto, targetsOf } from "../shared/into/put";
import { facesAsSketch } from "../shared/profile/profile";
import { loft } from "./declare";
import { guidesAt } from "./guides";

export type LoftValues = ValuesOf<typeof loft>;

export const evaluateLoft = evaluates(loft, {
  weighed: () => true,
  evaluate(values, context) {
    const { step } = context;
    const drawn = context.items(values.sections).filter((item): item is SketchItem => has(item, "drawn"));
    const atFaces = (refs: readonly FaceRef[]) =>
      refs.length > 0 ? [facesAsSketch(refs, "Pick the flat face of the section.", context)] : [];
    const sketches = [...atFaces(values.fromFace), ...drawn, ...atFaces(values.toFace)];
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

/** How it leaves and comes to its ends: how strongly, mm, with 0 for as far as the next section; null where it is free. */
const endsOf = ({ squareStart, startReach, squareEnd, endReach }: LoftValues) => ({
  start: squareStart ? toMm(startReach) : null,
  end: squareEnd ? toMm(endReach) : null,
});

/** Makes the loft: by the library, or as a skin of our own where its ends or guides ask for that. */
function skin(
  values: LoftValues,
  sections: readonly PlacedSection[],
  context: StepContext,
): ReturnType<typeof loftThrough> {
  const { step } = context;
  const solid = values.as === "solid";
  const ends = endsOf(values);
  const { guides } = values;
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

interface PlacedSection {
  item: SketchItem;
  profile: Profile | null;
  section: LoftSection;
}

/** The one outline of a sketch, or the one point that it holds. @throws SeamError */
function sectionOf(item: SketchItem, atEnd: boolean, context: StepContext): PlacedSection {
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
