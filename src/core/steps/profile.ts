import { z } from "zod";
import { fail } from "../errors";
import { hashText } from "../hash";
import { type BoundaryStep, type Drawn, inSpace, type PlanarStretch, type PlaneFrame } from "../kernel";
import type { Body, SketchItem } from "../naming";
import { filledRegions, mergeRegions, type Profile, profileOf, type Region, regionHolds, stretchesOf } from "../sketch";
import { formatLength } from "../units";
import { itemRef } from "./common";
import { faceNames } from "./extrude/faces";
import type { Field, StepContext } from "./step";

/** The values of a step that makes bodies of a sketch. */
export const profileFields = {
  sketch: z.array(itemRef).max(1).default([]).describe("The sketch"),
  regions: z
    .array(
      z
        .object({ key: z.string().max(5000), inner: z.tuple([z.number(), z.number()]).optional() })
        .describe("A region by the curves of its outline, each with the side it lies on, and a point that was in it"),
    )
    .max(2000)
    .default([])
    .describe("Its regions; none for all that are not holes"),
  as: z.enum(["solid", "sheet"]).default("solid").describe("sheet: of every curve, open or closed"),
};

/** The field of a form for whether a solid or a sheet is made. */
export const MAKES: Field = {
  key: "as",
  kind: "choice",
  label: "Makes",
  options: [
    { value: "solid", label: "A solid" },
    { value: "sheet", label: "A sheet" },
  ],
};

/** The fields of a form for what is made of a sketch, and of which regions. */
export const PROFILE_FORM: Field[] = [
  MAKES,
  { key: "regions", kind: "regions", of: "sketch", label: "Regions", when: { key: "as", is: ["solid"] } },
];

interface RegionRef {
  key: string;
  inner?: [number, number] | undefined;
}

/** The sketch that a step takes, with what it encloses. @throws SeamError when none is picked, or nothing is drawn. */
export function profileFor(refs: readonly string[], ask: string, context: StepContext) {
  const { step } = context;
  const [item] = context.items(refs);
  if (item?.kind !== "sketch") fail("nothing-picked", ask, { step });
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
    const mark = merged.length > 1 ? `~${hashText(region.key).slice(0, 4)}` : "";
    return body("solid", mark, maker.solid(item.frame, places, stretches, region.outline, region.holes));
  });
}

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
