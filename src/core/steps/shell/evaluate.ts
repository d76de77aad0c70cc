import { fail } from "../../errors";
import type { Body } from "../../items";
import { has } from "../../items/kinds";
import { toMm } from "../../params";
import type { FaceRef } from "../../references";
import { evaluates, type StepContext } from "../evaluation";
import { valuesOfFaces } from "../shared/face-sets";
import { chosenPlane } from "../shared/plane/choose";
import { firstSets } from "../shared/sets";
import { shell } from "./declare";
import { evenWalls } from "./even";
import { smallerRoom } from "./smaller";
import { takenOut, type Walls } from "./taken-out";
import { unevenWalls } from "./uneven";
import type { ShellValues } from "./values";

export const evaluateShell = evaluates(shell, {
  weighed: () => true,
  hollow(values, context) {
    if (values.how !== "even" || isLimited(values)) return null;
    const { body, open, own } = hollowedBy(values, context);
    const first = toMm(values.thickness);
    const wallAt = (face: number) =>
      open.includes(face) ? null : (own.find(({ places }) => places.includes(face))?.thickness ?? first);
    return { body, walls: body.faces.map((_, face) => wallAt(face)), outward: values.outward };
  },
  evaluate(values, context) {
    const { body, open, own } = hollowedBy(values, context);
    const limit = isLimited(values) ? chosenPlane(values, "hollow it on one side of", context) : null;
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

/** What is hollowed, which of its faces, by place, are left open, and which have walls of their own. @throws SeamError */
function hollowedBy(values: ShellValues, context: StepContext) {
  const { step } = context;
  const [body] = context.bodies(values.body);
  if (!body || !has(body, "closed")) fail("nothing-picked", "Pick the solid to hollow.", { step });
  const open = values.open.flatMap((ref) => facesOf(body, ref, "An open face", context));
  if (open.length === body.faces.length)
    fail("all-open", "Every face is left open, so no wall is left. Leave one or more closed.", { step });
  return { body, open, own: wallsOf(body, values, context) };
}

/** The thicknesses beside the first, each with its faces. */
const others = ({ how, thickness, walls, faces2, thickness2, faces3, thickness3 }: ShellValues) =>
  how === "smaller"
    ? []
    : firstSets(
        [
          { faces: [], thickness },
          { faces: faces2, thickness: thickness2 },
          { faces: faces3, thickness: thickness3 },
        ],
        walls,
      ).slice(1);

/** The faces that have walls of their own, by place. */
function wallsOf(body: Body, values: ShellValues, context: StepContext): Walls["own"] {
  const sets = others(values).map(({ faces, thickness }, i) => ({
    refs: faces,
    value: toMm(thickness),
    field: `faces${i + 2}`,
  }));
  for (const { refs } of sets) for (const ref of refs) facesOf(body, ref, "A face with a wall of its own", context);
  const own = valuesOfFaces(sets, context).get(body) ?? new Map<number, number>();
  return [...own].map(([place, thickness]) => ({ places: [place], thickness }));
}

const isLimited = ({ part, outward, how }: ShellValues): boolean => part !== "all" && !(outward && how === "even");

function facesOf(body: Body, ref: FaceRef, what: string, context: StepContext): readonly number[] {
  const { body: owner, faces } = context.faces(ref);
  if (owner.id !== body.id)
    fail("other-body", `${what} is not of ${context.nameOf(body.id)}. Pick faces of the solid that is hollowed.`, {
      step: context.step,
      bodies: [owner.id],
    });
  return faces;
}
