import { fail, type Trouble } from "../../errors";
import { pairOf } from "../../fit/audit";
import { flushFaces } from "../../fit/flush";
import { type MovedFace, type OffsetFault, offsetFaces } from "../../fit/offset-faces";
import { type Body, has } from "../../items";
import { allFaceFacts, nearest } from "../../kernel";
import { toMm } from "../../params";
import type { FaceRef } from "../../references";
import type { Knife, Preset } from "../../seam";
import { SAME_PLACE } from "../../tolerance";
import { formatLength } from "../../units";
import type { StepContext } from "../evaluation";
import { valuesOfFaces } from "../shared/face-sets";
import { firstSets, type Sets } from "../shared/sets";
import { fitGap } from "./gap-fit";

/** The values of the step that say how far what is left keeps off what cuts. */
export interface GapValues {
  preset: Preset;
  gap: number;
  gaps: Sets;
  gapFaces2: FaceRef[];
  gap2: number;
  gapFaces3: FaceRef[];
  gap3: number;
  gapTouch2: string[];
  gapTouch3: string[];
  gapFit: string;
  gapFit2: string;
  gapFit3: string;
}

/** All that a gap is made from, but for the cutters themselves. */
export const whatGap = (values: Pick<GapValues, Exclude<keyof GapValues, "preset">>): unknown[] => [
  values.gap,
  values.gaps,
  values.gapFaces2,
  values.gap2,
  values.gapFaces3,
  values.gap3,
  values.gapTouch2,
  values.gapTouch3,
  values.gapFit,
  values.gapFit2,
  values.gapFit3,
];

/** The gaps that there are, the first of which all faces keep that are picked for no other. */
const setsOf = (values: GapValues) =>
  firstSets(
    [
      { refs: [], touch: [], gap: values.gap, fit: values.gapFit, field: "gap", fitField: "gapFit" },
      {
        refs: values.gapFaces2,
        touch: values.gapTouch2,
        gap: values.gap2,
        fit: values.gapFit2,
        field: "gapFaces2",
        fitField: "gapFit2",
      },
      {
        refs: values.gapFaces3,
        touch: values.gapTouch3,
        gap: values.gap3,
        fit: values.gapFit3,
        field: "gapFaces3",
        fitField: "gapFit3",
      },
    ],
    values.gaps,
  );

/** Whether a cut keeps any gap at all. */
export const keepsGap = (values: GapValues): boolean =>
  values.preset === "subtract" &&
  setsOf(values).some(({ gap, fit }) => Math.abs(toMm(gap)) > SAME_PLACE || fit.trim() !== "");

/** The gap that each face of a body keeps, by place, mm. */
const gapsOf = (body: Body, values: GapValues, context: StepContext): number[] =>
  keptBy(body, values, context).map(({ gap, fit }, place) => {
    const kept = fit ? fitGap(body.shape, place, fit.text, { step: context.step, field: fit.field }) : null;
    return kept?.gap ?? gap;
  });

/** What each face of a body keeps, by place: a number, mm, and the fit that it keeps instead, where it is a bar's or a bore's. */
function keptBy(body: Body, values: GapValues, context: StepContext) {
  const sets = setsOf(values);
  const chosen = sets.map(({ refs, field }, value) => ({ refs, value, field }));
  const picked = [...valuesOfFaces(chosen, context)].find(([{ id }]) => id === body.id)?.[1];
  const own = new Map([...touching(body, sets, picked ?? new Map(), context), ...(picked ?? [])]);
  return body.faces.map((_, place) => {
    const { gap, fit, fitField } = sets[own.get(place) ?? 0]!;
    return { gap: toMm(gap), fit: fit.trim() === "" ? null : { text: fit.trim(), field: fitField } };
  });
}

/**
 * The faces of a body, by place, that touch bodies, and the set whose bodies those are. What is picked comes before them.
 * @throws SeamError where a face touches bodies of two sets
 */
function touching(
  body: Body,
  sets: ReturnType<typeof setsOf>,
  picked: ReadonlyMap<number, number>,
  context: StepContext,
): Map<number, number> {
  const found = new Map<number, number>();
  for (const [set, { touch, field }] of sets.entries())
    for (const other of context.bodies(touch)) {
      if (other.id === body.id) continue;
      const { contact, overlap, faces } = pairOf(body, other);
      // Along an edge or in a point nothing is touched by a face.
      if (!overlap && !contact) continue;
      for (const place of faces[0]) {
        if (picked.has(place)) continue;
        const before = found.get(place);
        if (before !== undefined && before !== set) refuseBoth(body, place, field, context);
        found.set(place, set);
      }
    }
  return found;
}

function refuseBoth(body: Body, place: number, field: string, { step, nameOf }: StepContext): never {
  fail("touches-twice", `A face of ${nameOf(body.id)} touches bodies of two sets. Pick it by itself for one of them.`, {
    step,
    field: field.replace("Faces", "Touch"),
    bodies: [body.id],
    faces: [{ body: body.id, face: body.faces[place]! }],
  });
}

/** What the fits come to for the sizes that the cutters have, each once; and a fit that no face keeps. */
export function tellFits(knives: readonly Knife[], values: GapValues, context: StepContext): Trouble[] {
  const { step } = context;
  const told = new Map<string, Trouble>();
  const used = new Set<string>();
  for (const { item } of knives) {
    if (!has(item, "body") || !has(item, "closed")) continue;
    for (const [place, { fit }] of keptBy(item, values, context).entries()) {
      const kept = fit && fitGap(item.shape, place, fit.text, { step, field: fit.field });
      if (!kept) continue;
      used.add(fit.field);
      const at = [...allFaceFacts(item.shape)[place]!.centre] as [number, number, number];
      if (!told.has(kept.words))
        told.set(kept.words, { code: "fit", message: kept.words, step, bodies: [item.id], at });
    }
  }
  for (const { fit, fitField } of setsOf(values))
    if (fit.trim() !== "" && !used.has(fitField))
      context.warn({
        code: "fit-unused",
        message: `The fit ${fit.trim()} is kept by no face: it is for cylindrical ones. Pick the bar or the bore that is to keep it, or take the fit out.`,
        step,
        field: fitField,
      });
  return [...told.values()];
}

/**
 * A solid that cuts, its faces moved out by the gap that they keep. It goes by its own name.
 * @throws SeamError where a face cannot be moved so far, with that face.
 */
export function withGap(body: Body, stock: readonly Body[], values: GapValues, context: StepContext): Knife {
  const asked = gapsOf(body, values, context);
  // What presses must not close the mouth of what is cut out.
  const mouths = asked.some((gap) => gap < 0) ? flushFaces(body, stock) : new Set<number>();
  const gaps = asked.map((gap, place) => (gap < 0 && mouths.has(place) ? 0 : gap));
  const moved = gaps.flatMap((by, place): MovedFace[] => (Math.abs(by) > SAME_PLACE ? [{ place, by }] : []));
  if (moved.length === 0) return { item: body, shape: body.shape, faces: body.faces };
  const { shape, faces } = context.derived(body, ["gap", moved], (warn) => {
    const made = offsetFaces(body, moved);
    if ("why" in made) refuse(made, body, gaps, context);
    if (made.gone.length > 0) tellClosed(made.gone, body, context, warn);
    return { ...body, shape: made.shape, faces: made.faces };
  });
  return { item: body, shape, faces };
}

/** Gaps are kept off faces of what cuts: others are refused. */
export function refuseOtherFaces(values: GapValues, cutters: readonly { id: string }[], context: StepContext): void {
  for (const { refs, field } of setsOf(values))
    for (const ref of refs) {
      const { body } = context.faces(ref);
      if (!cutters.some(({ id }) => id === body.id))
        fail(
          "gap-elsewhere",
          `A gap is kept off faces of the cutters, and ${context.nameOf(body.id)} is none. Take its face out, or let it cut.`,
          { step: context.step, field, bodies: [body.id] },
        );
    }
}

function refuse({ why, places }: OffsetFault, body: Body, gaps: readonly number[], context: StepContext): never {
  const name = context.nameOf(body.id);
  const gap = formatLength(gaps[places[0]!]!);
  const sentence = {
    ends: `A face of ${name} has a radius that a gap of ${gap} uses up, or ends with its surface.`,
    open: `With a gap of ${gap} a face of ${name} never meets what lies beside it: that is tangent to it and keeps another gap.`,
    nothing: `With a gap of ${gap} nothing is left of ${name}.`,
    apart: `With a gap of ${gap} ${name} falls apart.`,
    undivided: `Where the faces of ${name} meet with a gap of ${gap} cannot be found. Take a little more or less.`,
  }[why];
  const at = allFaceFacts(body.shape)[places[0]!]?.centre;
  fail(`gap-${why}`, sentence, {
    step: context.step,
    field: "gap",
    bodies: [body.id],
    faces: places.map((place) => ({ body: body.id, face: body.faces[place]! })),
    ...(at ? { at: [...at] as [number, number, number] } : {}),
  });
}

function tellClosed(
  gone: readonly number[],
  body: Body,
  { step, nameOf }: StepContext,
  warn: (trouble: Trouble) => void,
): void {
  const facts = allFaceFacts(body.shape);
  warn({
    code: "gap-closes",
    message: `With the gap ${gone.length === 1 ? "a face" : `${gone.length} faces`} of ${nameOf(body.id)} ${gone.length === 1 ? "has" : "have"} no place: a slot that is narrower than the gaps in it leaves nothing standing.`,
    step,
    bodies: [body.id],
    at: [...facts[gone[0]!]!.centre] as [number, number, number],
  });
}

/** How near the cutters, as they are, come to what is left: measured between the two, for each that keeps a gap. */
export function leastGaps(
  knives: readonly Knife[],
  made: readonly Body[],
  values: GapValues,
  context: StepContext,
): Trouble[] {
  const { step, nameOf } = context;
  return knives.flatMap(({ item, shape }): Trouble[] => {
    if (!has(item, "body") || item.shape === shape) return [];
    const gaps = made.flatMap((body) => {
      const near = nearest(item.shape, body.shape);
      return near ? [{ ...near, body }] : [];
    });
    const [least] = gaps.sort((one, two) => one.gap - two.gap);
    if (!least) return [];
    const wanted = Math.min(...gapsOf(item, values, context));
    // What was moved is one thing, how far it then is another: it is measured, and held against what was asked for.
    if (wanted > 0 && least.gap < wanted - SAME_PLACE)
      context.warn({
        code: "gap-less",
        message: `${nameOf(item.id)} comes nearer to ${nameOf(least.body.id)} than ${formatLength(wanted)}. Check the place before it is made.`,
        step,
        bodies: [item.id, least.body.id],
        at: [...least.on2] as [number, number, number],
      });
    return [
      {
        code: "least-gap",
        message:
          least.gap > 0
            ? `${nameOf(item.id)} keeps off ${nameOf(least.body.id)} by ${formatLength(least.gap)} at least.`
            : `${nameOf(item.id)} touches ${nameOf(least.body.id)}, or presses into it.`,
        step,
        bodies: [item.id, least.body.id],
        at: [...least.on2] as [number, number, number],
      },
    ];
  });
}
