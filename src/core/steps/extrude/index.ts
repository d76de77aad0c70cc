import { z } from "zod";
import { fail } from "../../errors";
import { boxOf, dot, drawOutSheet, drawOutSolid, type PlaneFrame, sub } from "../../kernel";
import type { Body } from "../../naming";
import { lengthField, toMm } from "../../params";
import { goesInto, INTO_FORM, intoFields, putInto, targetsOf } from "../into";
import { bodiesOf, type Maker, PROFILE_FORM, profileFields, profileFor } from "../profile";
import { defineStep, type StepContext } from "../step";

const schema = z.object({
  ...profileFields,
  extent: z.enum(["distance", "symmetric", "two", "through"]).default("distance"),
  distance: lengthField({ above: 0 }).default(10).describe("Along the normal of the sketch, mm; symmetric: in all"),
  second: lengthField({ min: 0 }).default(10).describe("two: against the normal, mm"),
  flip: z.boolean().default(false).describe("Against the normal of the sketch"),
  from: lengthField().default(0).describe("Where it begins: over the sketch's plane, the way it goes, mm"),
  ...intoFields,
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
    ...PROFILE_FORM,
    ...INTO_FORM,
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
      key: "from",
      kind: "length",
      label: "Begins over the plane by",
      when: { key: "extent", is: ["distance", "symmetric", "two"] },
    },
    {
      key: "flip",
      kind: "toggle",
      label: "The other way round",
      when: { key: "extent", is: ["distance", "two", "through"] },
    },
  ],
  refs: (values) => [...values.sketch, ...(goesInto(values) ? values.targets : [])],
  resolved: (values) => ({
    ...values,
    distance: values.extent === "through" ? 0 : toMm(values.distance),
    second: values.extent === "two" ? toMm(values.second) : 0,
    from: values.extent === "through" ? 0 : toMm(values.from),
    targets: goesInto(values) ? values.targets : [],
  }),
  evaluate(values, context) {
    const { item, profile } = profileFor(values.sketch, "Pick the sketch to draw out.", context);
    const targets = targetsOf(values, context);
    const [low, high] = heights(values, item.frame, targets, context);
    const maker: Maker = {
      solid: (...region) => drawOutSolid(...region, low, high),
      sheet: (...curves) => drawOutSheet(...curves, low, high),
    };
    return putInto(values, targets, bodiesOf(values, item, profile, maker, context), context);
  },
});

/** From where to where it reaches, over the sketch's plane. */
function heights(values: Values, frame: PlaneFrame, targets: readonly Body[], context: StepContext): [number, number] {
  const from = toMm(values.from);
  const turned = ([low, high]: [number, number]): [number, number] => (values.flip ? [-high, -low] : [low, high]);
  switch (values.extent) {
    case "distance":
      return turned([from, from + toMm(values.distance)]);
    case "symmetric":
      return [from - toMm(values.distance) / 2, from + toMm(values.distance) / 2];
    case "two":
      return turned([from - toMm(values.second), from + toMm(values.distance)]);
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
