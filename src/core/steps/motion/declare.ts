import { declareStep } from "../declare";
import { INTO_FORM, putsInto } from "../shared/into/declare";
import { AXIS_OPTIONS } from "../shared/space";
import { schema } from "./values";

/** What a field is asked for on: ways that have something to do with it. */
const along = (...is: string[]) => ({ key: "way", is });

/** The room that a body passes through along a chain of moves. */
export const motion = declareStep({
  type: "motion",
  schema,
  words: {
    label: "Motion clearance",
    line: "The room that a body passes through on straight moves and turns: a body, or cut out with a gap",
    stage: "fit",
  },
  fields: [
    { key: "body", kind: "bodies", label: "What moves", accepts: ["closed"], min: 1, max: 1 },
    {
      key: "way",
      kind: "choice",
      label: "Its way",
      options: [
        { value: "lock", label: "Locking slot" },
        { value: "swing", label: "Swings" },
        { value: "slide", label: "Slides" },
        { value: "moves", label: "Moves of its own" },
      ],
    },
    {
      key: "towards",
      kind: "choice",
      label: "Along",
      options: AXIS_OPTIONS,
      when: along("lock", "slide"),
    },
    {
      key: "depth",
      kind: "length",
      label: "By",
      help: "Below 0 it goes the other way",
      when: along("lock", "slide"),
    },
    { key: "angle", kind: "angle", label: "Then turned by", when: along("lock") },
    { key: "back", kind: "length", label: "Then drawn back by", when: along("lock") },
    { key: "from", kind: "angle", label: "Turned from", when: along("swing") },
    { key: "to", kind: "angle", label: "To", when: along("swing") },
    { key: "moves", kind: "moves", label: "Moves", when: along("moves") },
    {
      key: "axis",
      kind: "faces",
      label: "Round face to turn about",
      accepts: "any",
      min: 0,
      max: 1,
      when: along("lock", "swing", "moves"),
    },
    ...INTO_FORM,
  ],
  changes: ({ targets }) => targets,
  repeats: putsInto,
});
