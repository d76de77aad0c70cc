import { fail } from "../../errors";
import type { Body, FaceRef } from "../../naming";
import { toMm } from "../../params";
import { chosenPlane, planeForm, planeRefs } from "../plane-choice";
import { defineStep, type Field, type StepContext } from "../step";
import { evenWalls } from "./even";
import { smallerRoom } from "./smaller";
import { takenOut, type Walls } from "./taken-out";
import { unevenWalls } from "./uneven";
import { type ShellValues, schema } from "./values";

const EVEN = { key: "how", is: ["even"] };

/** The thicknesses beside the first, each with its faces. */
const others = ({ how, walls, faces2, thickness2, faces3, thickness3 }: ShellValues) =>
  how === "smaller"
    ? []
    : [
        { faces: faces2, thickness: thickness2 },
        { faces: faces3, thickness: thickness3 },
      ].slice(0, { one: 0, two: 1, three: 2 }[walls]);

const isLimited = ({ part, outward, how }: ShellValues): boolean => part !== "all" && !(outward && how === "even");

/** A solid hollowed to walls. */
export const shell = defineStep({
  type: "shell",
  schema,
  words: {
    label: "Shell",
    line: "A solid hollowed to walls of one thickness or several, open where faces are picked",
    stage: "shape",
  },
  fields: [
    { key: "body", kind: "bodies", label: "Solid", accepts: ["solid"], min: 1, max: 1 },
    { key: "open", kind: "faces", label: "Open faces", accepts: "any", min: 0, help: "None: a closed void inside" },
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
    {
      key: "walls",
      kind: "choice",
      label: "Thicknesses",
      options: [
        { value: "one", label: "One" },
        { value: "two", label: "Two" },
        { value: "three", label: "Three" },
      ],
      when: EVEN,
    },
    ...(["2", "3"] as const).flatMap((n): Field[] => {
      const when = [EVEN, { key: "walls", is: n === "2" ? ["two", "three"] : ["three"] }];
      const word = n === "2" ? "second" : "third";
      return [
        { key: `faces${n}`, kind: "faces", label: `Faces of the ${word} thickness`, accepts: "any", min: 0, when },
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
  refs: (values) => [
    ...values.body,
    ...[...values.open, ...others(values).flatMap(({ faces }) => faces)].map((ref) => ref.body),
    ...(isLimited(values) ? planeRefs(values) : []),
  ],
  changes: (values) => values.body,
  resolved: (values) => ({
    body: values.body,
    open: values.open,
    thickness: toMm(values.thickness),
    outward: values.outward && values.how === "even",
    how: values.how,
    others: others(values).map(({ faces, thickness }) => ({ faces, thickness: toMm(thickness) })),
    ...(isLimited(values) ? { part: values.part, about: values.about, face: values.face, plane: values.plane } : {}),
  }),
  weighed: () => true,
  evaluate(values, context) {
    const { step } = context;
    const [body] = context.bodies(values.body);
    if (body?.kind !== "solid") fail("nothing-picked", "Pick the solid to hollow.", { step });
    const placesOf = (refs: readonly FaceRef[], what: string) => refs.map((ref) => faceOf(body, ref, what, context));
    const open = placesOf(values.open, "An open face");
    if (open.length === body.faces.length)
      fail("all-open", "Every face is left open, so no wall is left. Leave one or more closed.", { step });
    const limit = isLimited(values) ? chosenPlane(values, "hollow it on one side of", context) : null;
    const own = others(values).map(({ faces, thickness }) => ({
      places: placesOf(faces, "A face with a wall of its own"),
      thickness: toMm(thickness),
    }));
    const thickness = toMm(values.thickness);
    if (values.how === "even" && own.every(({ places }) => places.length === 0) && !limit) {
      const { shape, faces } = evenWalls(body, open, thickness, values.outward, context);
      return { made: [{ ...body, shape, faces }], used: [body.id] };
    }
    const walls: Walls = { first: thickness, own, outward: values.outward, limit, part: values.part };
    const { shape, faces } =
      values.how === "smaller"
        ? takenOut(body, open, smallerRoom(body, open, thickness, context), walls, context)
        : unevenWalls(body, open, walls, context);
    return { made: [{ ...body, shape, faces }], used: [body.id] };
  },
});

function faceOf(body: Body, ref: FaceRef, what: string, context: StepContext): number {
  const { body: owner, face } = context.face(ref);
  if (owner.id !== body.id)
    fail("other-body", `${what} is not of ${context.nameOf(body.id)}. Pick faces of the solid that is hollowed.`, {
      step: context.step,
      bodies: [owner.id],
    });
  return face;
}
