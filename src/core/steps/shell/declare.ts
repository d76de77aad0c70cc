import { declareStep, type Field } from "../declare";
import { planeForm } from "../shared/plane/declare";
import { setsChoice, whenSet } from "../shared/sets";
import { schema } from "./values";

const EVEN = { key: "how", is: ["even"] };

/** A solid hollowed to walls. */
export const shell = declareStep({
  type: "shell",
  schema,
  words: {
    label: "Shell",
    line: "A solid hollowed to walls of one thickness or several, open where faces are picked",
    stage: "shape",
  },
  fields: [
    { key: "body", kind: "bodies", label: "Solid", accepts: ["closed"], min: 1, max: 1 },
    {
      key: "open",
      kind: "faces",
      label: "Open faces",
      accepts: "any",
      min: 0,
      rules: true,
      help: "None: a closed void inside",
    },
    {
      key: "how",
      kind: "choice",
      label: "The hollow",
      options: [
        { value: "even", label: "Leaves even walls" },
        { value: "smaller", label: "Is the body made smaller" },
      ],
    },
    { key: "thickness", kind: "length", label: "Thickness of the walls" },
    setsChoice("walls", "Thicknesses", [EVEN]),
    ...(["2", "3"] as const).flatMap((n): Field[] => {
      const when = [EVEN, whenSet("walls", n)];
      const word = n === "2" ? "second" : "third";
      return [
        {
          key: `faces${n}`,
          kind: "faces",
          label: `Faces of the ${word} thickness`,
          accepts: "any",
          min: 0,
          rules: true,
          when,
        },
        { key: `thickness${n}`, kind: "length", label: `${n === "2" ? "Second" : "Third"} thickness`, when },
      ];
    }),
    { key: "outward", kind: "toggle", label: "Walls outside", when: EVEN },
    {
      key: "part",
      kind: "choice",
      label: "Hollowed",
      options: [
        { value: "all", label: "All of it" },
        { value: "front", label: "Before a plane" },
        { value: "back", label: "Behind a plane" },
      ],
      when: { key: "outward", is: ["false"] },
    },
    ...planeForm("The plane", [
      { key: "part", is: ["front", "back"] },
      { key: "outward", is: ["false"] },
    ]),
  ],
  changes: (values) => values.body,
});
