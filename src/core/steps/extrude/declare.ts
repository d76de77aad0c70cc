import { declareStep } from "../declare";
import { INTO_FORM, putsInto } from "../shared/into/declare";
import { PROFILE_FORM, PROFILE_OF } from "../shared/profile/declare";
import { schema } from "./values";

/** A drawing drawn out square to its plane. */
export const extrude = declareStep({
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
        { value: "both", label: "Through all, both ways" },
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
      accepts: ["plane"],
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
      accepts: ["body"],
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
  needsAll: (values) => values.extent === "next",
  changes: ({ targets }) => targets,
  repeats: putsInto,
});
