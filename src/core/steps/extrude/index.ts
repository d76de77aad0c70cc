import { drawOutSheet, drawOutSolid } from "../../kernel";
import { toDegrees, toMm } from "../../params";
import { sensesOf } from "../../sketch";
import { goesInto, INTO_FORM, putInto, targetsOf } from "../into";
import { bodiesOf, type Maker, PROFILE_FORM, PROFILE_OF, profileFor, profileRefs, profileValues } from "../profile";
import { defineStep } from "../step";
import { drafted } from "./drafted";
import { heights } from "./heights";
import { cutOff, limitOf } from "./limit";
import { type ExtrudeValues, schema } from "./values";

const ends = (values: ExtrudeValues) => values.extent === "to" || values.extent === "next";

/** A drawing drawn out square to its plane. */
export const extrude = defineStep({
  type: "extrude",
  schema,
  words: {
    label: "Extrude",
    line: "A sketch or flat faces drawn out square to their plane: a solid, a sheet, or a cut",
    stage: "shape",
  },
  fields: [
    ...PROFILE_OF,
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
        { value: "to", label: "Up to …" },
        { value: "next", label: "To what comes next" },
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
      key: "to",
      kind: "choice",
      label: "Up to",
      options: [
        { value: "face", label: "A face" },
        { value: "workplane", label: "A workplane" },
        { value: "body", label: "A body" },
      ],
      when: { key: "extent", is: ["to"] },
    },
    {
      key: "toFace",
      kind: "faces",
      label: "Face",
      accepts: "any",
      min: 1,
      max: 1,
      when: [
        { key: "extent", is: ["to"] },
        { key: "to", is: ["face"] },
      ],
    },
    {
      key: "toPlane",
      kind: "bodies",
      label: "Workplane",
      accepts: ["workplane"],
      min: 1,
      max: 1,
      when: [
        { key: "extent", is: ["to"] },
        { key: "to", is: ["workplane"] },
      ],
    },
    {
      key: "toBody",
      kind: "bodies",
      label: "Bodies",
      accepts: ["solid", "sheet"],
      min: 1,
      when: [
        { key: "extent", is: ["to"] },
        { key: "to", is: ["body"] },
      ],
    },
    {
      key: "from",
      kind: "length",
      label: "Begins over the plane by",
      when: { key: "extent", is: ["distance", "symmetric", "two", "to", "next"] },
    },
    { key: "draft", kind: "angle", label: "Draft", when: { key: "as", is: ["solid"] } },
    {
      key: "flip",
      kind: "toggle",
      label: "The other way round",
      when: { key: "extent", is: ["distance", "two", "through", "to", "next"] },
    },
  ],
  refs: (values) => [
    ...profileRefs(values),
    ...(goesInto(values) ? values.targets : []),
    ...(values.extent !== "to"
      ? []
      : values.to === "face"
        ? values.toFace.map((ref) => ref.body)
        : values.to === "workplane"
          ? values.toPlane
          : values.toBody),
  ],
  needsAll: (values) => values.extent === "next",
  changes: (values) => (goesInto(values) ? values.targets : []),
  resolved: (values) => ({
    ...profileValues(values),
    distance: values.extent === "through" || ends(values) ? 0 : toMm(values.distance),
    second: values.extent === "two" ? toMm(values.second) : 0,
    from: values.extent === "through" ? 0 : toMm(values.from),
    draft: values.as === "solid" ? toDegrees(values.draft) : 0,
    ...(values.extent === "to" ? {} : { to: "face", toFace: [], toPlane: [], toBody: [] }),
    targets: goesInto(values) ? values.targets : [],
  }),
  weighed: goesInto,
  evaluate(values, context) {
    const { item, profile } = profileFor(values, "draw out", context);
    const targets = targetsOf(values, context);
    const limit = ends(values) ? limitOf(values, item.frame, context) : null;
    const [low, high] = heights(values, item, profile, targets, limit, context);
    const between = (from: number, to: number) => {
      const maker: Maker = {
        solid: (...region) => drawOutSolid(...region, from, to),
        sheet: (...curves) => drawOutSheet(...curves, from, to, sensesOf(profile)),
      };
      return bodiesOf(values, item, profile, maker, context);
    };
    const degrees = values.as === "solid" ? toDegrees(values.draft) : 0;
    const drawn = degrees === 0 ? between(low, high) : drafted(between, item, degrees, [low, high], context);
    const bodies = limit ? cutOff(drawn, limit, values.flip ? "end" : "base", item, context) : drawn;
    return putInto(values, targets, bodies, context);
  },
});
