import { fail } from "../../errors";
import { NotStretchable, stretchedSolid } from "../../exchange";
import type { Body } from "../../items";
import { has } from "../../items/kinds";
import { freeShape, isValid, openEdges, scaled, type Vec3, volumeOf } from "../../kernel";
import { faceNamesOf } from "../../naming";
import { toFactor } from "../../params";
import { SAME_SIZE } from "../../tolerance";
import { evaluates, type StepContext, type ValuesOf } from "../evaluation";
import { toVec3 } from "../shared/space";
import { scaleStep } from "./declare";

type Values = ValuesOf<typeof scaleStep>;

export const evaluateScaleStep = evaluates(scaleStep, {
  weighed: () => true,
  evaluate(values, context) {
    const bodies = context.bodies(values.bodies);
    if (bodies.length === 0) fail("nothing-picked", "Pick the bodies to scale.", { step: context.step });
    const [factors, about] = [factorsOf(values), toVec3(values.about)];
    const even = factors.every((factor) => factor === factors[0]);
    const made: Body[] = [];
    try {
      for (const body of bodies)
        made.push(
          even ? { ...body, shape: scaled(body.shape, about, factors[0]) } : stretched(body, about, factors, context),
        );
    } catch (cause) {
      for (const { shape } of made) freeShape(shape);
      throw cause;
    }
    return { made, used: bodies.map(({ id }) => id) };
  },
});

const factorsOf = ({ by, factor, alongX, alongY, alongZ }: Values): Vec3 =>
  by === "even"
    ? [toFactor(factor), toFactor(factor), toFactor(factor)]
    : [toFactor(alongX), toFactor(alongY), toFactor(alongZ)];

/** A solid stretched along the axes. What came of it is weighed: a stretch multiplies a volume by its factors. */
function stretched(body: Body, about: Vec3, factors: Vec3, context: StepContext): Body {
  const { step } = context;
  const name = context.nameOf(body.id);
  if (!has(body, "closed"))
    fail("needs-solids", `${name} is a sheet: only solids can be scaled by a factor for each axis.`, {
      step,
      bodies: [body.id],
    });
  const refuse = (): never =>
    fail(
      "not-stretchable",
      `${name} has faces that have no exact form once stretched (turned free curves, or offsets of them). Scale it evenly, or stretch what it was made from.`,
      { step, bodies: [body.id] },
    );
  let made: ReturnType<typeof stretchedSolid>;
  try {
    made = stretchedSolid(body.shape, { about, factors });
  } catch (cause) {
    if (cause instanceof NotStretchable) throw refuse();
    throw cause;
  }
  const { shape, sources } = made;
  const wanted = volumeOf(body.shape) * factors[0] * factors[1] * factors[2];
  const sound =
    openEdges(shape).length === 0 && isValid(shape) && Math.abs(volumeOf(shape) - wanted) <= SAME_SIZE * wanted;
  if (!sound || sources.includes(-1)) {
    freeShape(shape);
    throw refuse();
  }
  return {
    ...body,
    shape,
    faces: faceNamesOf(
      shape,
      sources.map((place) => body.faces[place]!),
    ),
  };
}
