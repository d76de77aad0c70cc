import { fail } from "../../errors";
import type { Body, SketchItem } from "../../items";
import { type BoundaryStep, bendsOf, dot, inSpace, type SweepManner, type SweptSection, startOf } from "../../kernel";
import { toRadians } from "../../params";
import { along, type Profile, pathOf, stretchesOf } from "../../sketch";
import { evaluates, type StepContext, type ValuesOf } from "../evaluation";
import { type NamedSpine, reachOf, refuseTight, spineOf, sweptBody, without } from "../shared/along/spine";
import { putInto, targetsOf } from "../shared/into/put";
import { profileFor, regionMark, regionsToFill } from "../shared/profile/profile";
import { sweep } from "./declare";

type Values = ValuesOf<typeof sweep>;

export const evaluateSweep = evaluates(sweep, {
  weighed: () => true,
  evaluate(values, context) {
    const { item, profile } = profileFor(values, "sweep", context);
    const spine = spineOf(values, context);
    const targets = targetsOf(values, context);
    refuseFlat(item, spine, context);
    if (values.stands === "square")
      refuseTight(spine, bendsOf(spine.spine), reachOf(spine.spine, pointsOf(item, profile)), context);
    return putInto(values, targets, swept(values, item, profile, spine, context), context);
  },
});

function swept(values: Values, item: SketchItem, profile: Profile, spine: NamedSpine, context: StepContext): Body[] {
  const { step } = context;
  const solid = values.as === "solid";
  const manner: SweepManner = {
    stands: values.stands,
    corners: values.corners,
    twist: values.stands === "square" ? toRadians(values.twist) : 0,
    solid,
  };
  const drawn = { frame: item.frame, places: profile.graph.places, stretches: stretchesOf(profile) };
  const section = (outline: readonly BoundaryStep[]): SweptSection => ({ kind: "drawn", ...drawn, outline });
  const sectionName = (stretch: number) => profile.graph.stretches[stretch]!.curve.id;
  if (!solid) {
    const outline = pathOf(profile.graph);
    if (!outline)
      fail(
        "section-branches",
        `${context.nameOf(item.id)} is not one line of curves: a sheet is swept from one. Draw one.`,
        {
          step,
          bodies: [item.id],
        },
      );
    return [sweptBody(spine, section(outline), manner, { id: `${step}:sheet`, mark: "", sectionName }, context)];
  }
  const regions = regionsToFill(values.regions, item, profile, context);
  return regions.map(({ key, outline, holes }): Body => {
    const id = `${step}:solid${regions.length > 1 ? regionMark(key) : ""}`;
    const outer = sweptBody(spine, section(outline), manner, { id, mark: "", sectionName }, context);
    const inner = holes.map((hole, i) =>
      sweptBody(spine, section(hole), manner, { id: `${step}:hole${i}`, mark: "inside:", sectionName }, context),
    );
    return { ...without(outer, inner, context), hint: { text: "Solid" } };
  });
}

/** Points of a section's outline in space. */
function pointsOf({ frame }: SketchItem, { graph }: Profile) {
  return graph.stretches.flatMap(({ curve, from, to }) =>
    Array.from({ length: 17 }, (_, i) => inSpace(frame, along(curve, from + ((to - from) * i) / 16))),
  );
}

/** A sine: a path that leaves its section at less sweeps no room worth having. */
const FLAT = 1e-3;

/** A section along which the path runs sweeps nothing. */
function refuseFlat({ frame, id }: SketchItem, { spine, from }: NamedSpine, context: StepContext): void {
  if (Math.abs(dot(startOf(spine).way, frame.normal)) > FLAT) return;
  fail(
    "section-flat",
    `The path runs within the plane of ${context.nameOf(id)}, so it sweeps no room. Draw the section across the path.`,
    { step: context.step, bodies: [id, from] },
  );
}
