import { fail } from "../../errors";
import type { Body } from "../../items";
import {
  boxOf,
  centre,
  dot,
  facesOf,
  freeShape,
  nearest,
  scaled,
  shellOf,
  sub,
  subshapePlanes,
  type Vec3,
} from "../../kernel";
import { tellStage } from "../../stage";
import { formatLength } from "../../units";
import type { StepContext } from "../evaluation";

/**
 * The room of a hollow that is the body made smaller: about its middle, or about the middle of the one flat face that is
 * left open. As large as it can be with walls at least so thick.
 */
export function smallerRoom(body: Body, open: readonly number[], thickness: number, context: StepContext): Body {
  const { step } = context;
  const { shape } = body;
  const about = middleOf(body, open, context);
  const faces = facesOf(shape);
  const walls = shellOf(faces.filter((_, place) => !open.includes(place)));
  const thin = (factor: number): number => {
    const room = scaled(shape, about, factor);
    const inside = shellOf(facesOf(room).filter((_, place) => !open.includes(place)));
    const gap = nearest(inside, walls)?.gap ?? 0;
    freeShape(inside);
    freeShape(room);
    return gap;
  };
  try {
    // What is scaled about a point keeps its directions: the walls get thicker as it gets smaller, nearly evenly. So the line
    // through the last two finds it in a few steps, and one that is on the same side again counts for half on the other (the Illinois
    // rule: else one end stays where it is, and it takes a dozen).
    let [low, gapAtLow] = [LEAST, thin(LEAST)];
    if (gapAtLow < thickness)
      fail(
        "shell-tight",
        `${context.nameOf(body.id)} is too thin for walls of ${formatLength(thickness)}. Make them thinner.`,
        {
          step,
          field: "thickness",
          bodies: [body.id],
        },
      );
    // A hair to the safe side, so that what is found has walls that are thick enough.
    const aim = thickness * (1 + NEARLY / 2);
    let [high, overLow, overHigh] = [1, gapAtLow - aim, -aim];
    let before: "low" | "high" | null = null;
    for (let round = 0; round < ROUNDS && gapAtLow - thickness > NEARLY * thickness; round++) {
      tellStage(`looking for the largest room (${round + 1})`);
      const factor = low + ((high - low) * overLow) / (overLow - overHigh);
      const gap = thin(factor);
      const side = gap >= thickness ? "low" : "high";
      if (side === "low") {
        [low, gapAtLow, overLow] = [factor, gap, gap - aim];
        if (side === before) overHigh /= 2;
      } else {
        [high, overHigh] = [factor, gap - aim];
        if (side === before) overLow /= 2;
      }
      before = side;
    }
    context.warn({
      code: "walls-uneven",
      message: `The hollow is the body made smaller, × ${low.toFixed(4)}: its walls are ${formatLength(thickness)} where they are thinnest, and thicker elsewhere.`,
      step,
      bodies: [body.id],
    });
    const mark = (name: string, place: number) =>
      open.includes(place) ? `${step}:mouth:${name}` : `${step}:wall:${name}`;
    return { ...body, id: `${step}:room`, shape: scaled(shape, about, low), faces: body.faces.map(mark) };
  } finally {
    freeShape(walls);
  }
}

/** The smallest that a room is tried. */
const LEAST = 0.02;
/** How nearly the thinnest wall is as thick as it is asked for, as a part of it; and in how many trials at most. */
const NEARLY = 1e-6;
const ROUNDS = 16;

function middleOf({ shape, id }: Body, open: readonly number[], context: StepContext): Vec3 {
  const box = boxOf(shape)!;
  const [place] = open;
  if (place === undefined) return centre(box);
  const plane = open.length === 1 ? subshapePlanes(shape)[place] : null;
  if (!plane)
    fail("open-faces", "A hollow that is the body made smaller takes one flat open face, or none.", {
      step: context.step,
      field: "open",
      bodies: [id],
    });
  // The middle of the body, put into the plane of the mouth.
  const middle = centre(box);
  const height = dot(sub(middle, plane.origin), plane.normal);
  return sub(middle, [0, 1, 2].map((axis) => plane.normal[axis]! * height) as unknown as Vec3);
}
