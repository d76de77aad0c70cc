import { fail } from "../../errors";
import type { Body, SketchItem } from "../../items";
import { draftFaces, freeShape, type Neutral, scale } from "../../kernel";
import { divideAll, joinPieces } from "../../seam";
import { SAME_PLACE } from "../../tolerance";
import type { StepContext } from "../evaluation";
import { refuseBriefly } from "../shared/briefly";
import { largestThat } from "../shared/largest";

/** Makes the bodies that reach from one height over the sketch's plane to another, mm, before they are drafted. */
type Between = (low: number, high: number) => Body[];

/**
 * Bodies drawn out with their sides tilted from the sketch's plane on: what goes both ways gets narrower both ways.
 * @param degrees above 0 for narrower. @throws SeamError where sides would meet before the end, with the most that fits.
 */
export function drafted(
  between: Between,
  { id, frame }: SketchItem,
  degrees: number,
  [low, high]: readonly [number, number],
  context: StepContext,
): Body[] {
  const { step } = context;
  const ups: Neutral = { at: frame.origin, pull: frame.normal };
  const downs: Neutral = { at: frame.origin, pull: scale(frame.normal, -1) };
  const ways: { neutral: Neutral; bodies: () => Body[] }[] =
    low < -SAME_PLACE && high > SAME_PLACE
      ? [
          { neutral: ups, bodies: () => between(0, high) },
          { neutral: downs, bodies: () => between(low, 0).map((body) => asBack(body, step)) },
        ]
      : [{ neutral: high > SAME_PLACE ? ups : downs, bodies: () => between(low, high) }];
  const tilted = (by: number): Body[][] | null => {
    const made: Body[][] = [];
    for (const { neutral, bodies } of ways) {
      const done = tilt(bodies(), step, neutral, by);
      if (done) made.push(done);
      else {
        for (const body of made.flat()) freeShape(body.shape);
        return null;
      }
    }
    return made;
  };
  const made = tilted(degrees);
  if (!made) {
    refuseBriefly(context, "draft-closes", "draft", id);
    const most = largestThat((trial) => {
      const done = tilted(trial * Math.sign(degrees));
      for (const body of done?.flat() ?? []) freeShape(body.shape);
      return done !== null;
    }, Math.abs(degrees));
    const fits = most === null ? null : most * Math.sign(degrees);
    fail(
      "draft-closes",
      fits === null
        ? "These sides cannot be drafted: only sides from straight lines and arcs can."
        : `With a draft of ${degrees}° the sides meet before the end. Up to ${fits}° fits.`,
      {
        step,
        field: "draft",
        bodies: [id],
        ...(fits === null ? {} : { repair: { label: `Make it ${fits}°`, step, set: { draft: fits } } }),
      },
    );
  }
  const [front, back] = made;
  return back ? front!.map((body, i) => united(body, back[i]!)) : front!;
}

/** The sides on the back of the sketch's plane have names of their own. */
const asBack = (body: Body, step: string): Body => ({
  ...body,
  faces: body.faces.map((name) => name.replace(`${step}:side:`, `${step}:back:`)),
});

/** Tilts the sides of each body, which is freed; null where one cannot be. */
function tilt(bodies: readonly Body[], step: string, neutral: Neutral, degrees: number): Body[] | null {
  const done = bodies.map((body) => {
    const sides = body.faces.flatMap((name, place) => (name.startsWith(`${step}:cap:`) ? [] : [place]));
    return { body, worked: draftFaces(body.shape, sides, neutral, (degrees * Math.PI) / 180) };
  });
  for (const { shape } of bodies) freeShape(shape);
  const made = done.flatMap(({ body, worked }): Body[] =>
    "faulty" in worked
      ? []
      : [{ ...body, shape: worked.shape, faces: worked.origins.map(({ place }) => body.faces[place]!) }],
  );
  if (made.length === bodies.length) return made;
  for (const { shape } of made) freeShape(shape);
  return null;
}

/** Two bodies that share a face as one. They are freed. */
function united(front: Body, back: Body): Body {
  const division = divideAll([front, { ...back, id: `${back.id}:back` }]);
  try {
    const [joined] = joinPieces(division, division.pieces);
    return { ...front, shape: joined!.shape, faces: joined!.faces };
  } finally {
    division.free();
    for (const { shape } of [front, back]) freeShape(shape);
  }
}
