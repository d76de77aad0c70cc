import {
  distanceToPoint,
  facesOf,
  freeShape,
  pointOnFace,
  readStepShapes,
  type Shape,
  type Vec3,
  writeStepShapes,
} from "../../kernel";
import { NotStretchable, type Stretch, stretchStep } from "./affine";

/** Farther than this, mm, and a face is not the image of another. */
const SAME = 1e-4;

/**
 * A solid stretched along the axes, exactly, by way of its STEP text: the library stretches evenly only. For each of its
 * faces, the place of the face that it comes from.
 * @throws NotStretchable where a surface has no exact form once stretched, or the text is not read as one solid.
 */
export function stretchedSolid(solid: Shape, stretch: Stretch): { shape: Shape; sources: number[] } {
  const text = stretchStep(writeStepShapes([{ tag: "body", shape: solid }]), stretch);
  const { shapes } = readStepShapes(new TextEncoder().encode(text));
  const [made, ...more] = shapes;
  if (made?.kind !== "solid" || more.length > 0) {
    for (const { shape } of shapes) freeShape(shape);
    throw new NotStretchable("a body that is not one solid");
  }
  const { about, factors } = stretch;
  const image = (p: Vec3): Vec3 =>
    p.map((value, k) => about[k]! + (value - about[k]!) * factors[k]!) as unknown as Vec3;
  const marks = facesOf(solid).map((face) => image(pointOnFace(face)));
  const sources = facesOf(made.shape).map((face) => {
    const gaps = marks.map((mark) => distanceToPoint(face, mark)?.gap ?? Number.POSITIVE_INFINITY);
    const best = gaps.indexOf(Math.min(...gaps));
    return gaps[best]! < SAME ? best : -1;
  });
  return { shape: made.shape, sources };
}
