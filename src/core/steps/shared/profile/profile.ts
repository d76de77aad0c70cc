import { fail } from "../../../errors";
import { hashText } from "../../../hash";
import type { Body, SketchItem } from "../../../items";
import { has } from "../../../items/kinds";
import { type BoundaryStep, type Drawn, dot, inSpace, type PlanarStretch, type PlaneFrame, sub } from "../../../kernel";
import type { FaceRef } from "../../../references";
import {
  filledRegions,
  mergeRegions,
  type Profile,
  profileOf,
  type Region,
  regionHolds,
  stretchesOf,
} from "../../../sketch";
import { SAME_PLACE, SAME_WAY } from "../../../tolerance";
import { formatLength } from "../../../units";
import type { StepContext } from "../../evaluation";
import { faceNames } from "../../extrude/faces";
import { givenBy } from "../../sketch/given";
import { facePlane, framed } from "../plane/planes";

interface ProfileValues {
  of: "sketch" | "faces";
  sketch: string[];
  faces: FaceRef[];
}

interface RegionRef {
  key: string;
  inner?: [number, number] | undefined;
}

/** The profile that a step takes. @param verb what is done with it, for who picked none. @throws SeamError */
export function profileFor(values: ProfileValues, verb: string, context: StepContext) {
  if (values.of === "sketch") return sketchProfile(values.sketch, `Pick the sketch to ${verb}.`, context);
  const item = facesAsSketch(values.faces, `Pick the flat faces to ${verb}.`, context);
  return { item, profile: profileOf(item.entities) };
}

/** Flat faces of one plane as a drawing of their edges. Its curves are named by the edges, so that they stay what they are. */
export function facesAsSketch(refs: readonly FaceRef[], ask: string, context: StepContext): SketchItem {
  const { step } = context;
  const { origin, normal } = facePlane(refs[0], ask, context);
  for (const ref of refs.slice(1)) {
    const plane = facePlane(ref, ask, context);
    const off = Math.abs(dot(sub(plane.origin, origin), normal));
    if (dot(plane.normal, normal) < 1 - SAME_WAY || off > SAME_PLACE)
      fail("not-one-plane", "The picked faces do not lie in one plane. Pick those that do.", { step });
  }
  const frame = framed(origin, normal);
  const drawn = givenBy({ edges: [], outlines: [...refs], sections: [], asOutlines: true }, frame, context);
  const { body } = context.face(refs[0]!);
  return { id: body.id, kind: "sketch", frame, entities: drawn, given: drawn, hint: body.hint };
}

/** The sketch that a step takes, with what it encloses. @throws SeamError when none is picked, or nothing is drawn. */
export function sketchProfile(refs: readonly string[], ask: string, context: StepContext) {
  const { step } = context;
  const [item] = context.items(refs);
  if (!item || !has(item, "drawn")) fail("nothing-picked", ask, { step });
  const profile = profileOf(item.entities);
  if (profile.graph.stretches.length === 0)
    fail("nothing-drawn", `${context.nameOf(item.id)} holds no curves yet. Draw an outline in it.`, {
      step,
      bodies: [item.id],
    });
  return { item, profile };
}

/** What is made of one region of a plane, or of all its curves. */
export interface Maker {
  solid(
    frame: PlaneFrame,
    places: readonly (readonly [number, number])[],
    stretches: readonly PlanarStretch[],
    outline: readonly BoundaryStep[],
    holes: readonly (readonly BoundaryStep[])[],
  ): Drawn;
  sheet(frame: PlaneFrame, places: readonly (readonly [number, number])[], stretches: readonly PlanarStretch[]): Drawn;
}

/** The bodies that a step makes of a sketch: a solid of each region that is chosen, or one sheet of all its curves. */
export function bodiesOf(
  { regions, as }: { regions: readonly RegionRef[]; as: "solid" | "sheet" },
  item: SketchItem,
  profile: Profile,
  maker: Maker,
  context: StepContext,
): Body[] {
  const { step } = context;
  const [places, stretches] = [profile.graph.places, stretchesOf(profile)];
  const body = (kind: Body["kind"], mark: string, drawn: Drawn): Body => ({
    id: `${step}:${kind}${mark}`,
    kind,
    shape: drawn.shape,
    faces: faceNames(step, drawn, profile),
    hint: { text: kind === "solid" ? "Solid" : "Sheet" },
  });
  if (as === "sheet") return [body("sheet", "", maker.sheet(item.frame, places, stretches))];
  const merged = regionsToFill(regions, item, profile, context);
  return merged.map((region) => {
    const mark = merged.length > 1 ? regionMark(region.key) : "";
    return body("solid", mark, maker.solid(item.frame, places, stretches, region.outline, region.holes));
  });
}

/** What tells the body of one region from those of others. */
export const regionMark = (key: string): string => `~${hashText(key).slice(0, 4)}`;

/** The regions that are chosen, joined where they meet. @throws SeamError where nothing is enclosed. */
export function regionsToFill(
  regions: readonly RegionRef[],
  item: SketchItem,
  profile: Profile,
  context: StepContext,
): Region[] {
  if (profile.regions.length === 0) {
    const [open] = profile.openEnds;
    const where = open
      ? ` It is open at ${formatLength(open.at[0])}, ${formatLength(open.at[1])}, where “${open.curve}” ends.`
      : "";
    fail("outline-open", `${context.nameOf(item.id)} encloses nothing.${where} Close the outline, or make a sheet.`, {
      step: context.step,
      bodies: [item.id],
      ...(open ? { at: [...inSpace(item.frame, open.at)] } : {}),
    });
  }
  return mergeRegions(
    profile,
    regions.length > 0 ? regions.map((ref) => regionFor(ref, profile, context)) : filledRegions(profile),
  );
}

/** A region as it was chosen: by the curves round it; where several have the same, by the point that was in it. */
function regionFor({ key, inner }: RegionRef, { regions }: Profile, context: StepContext): Region {
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
