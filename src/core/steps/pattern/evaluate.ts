import { fail } from "../../errors";
import type { Body } from "../../items";
import { add, type Placement, scale, spotsAlong, sub, turnBetween, type Vec3 } from "../../kernel";
import { toCount, toMm, toRadians } from "../../params";
import { SAME_WAY } from "../../tolerance";
import { evaluates, type StepContext, type ValuesOf } from "../evaluation";
import { spineOf } from "../shared/along/spine";
import { copyOf, joinedWith, repeatSteps } from "../shared/repeat/copies";
import { placedAt } from "../shared/repeat/elsewhere";
import { AXES, toVec3 } from "../shared/space";
import { pattern } from "./declare";

type Values = ValuesOf<typeof pattern>;

export const evaluatePattern = evaluates(pattern, {
  weighed: () => true,
  evaluate(values, context) {
    const { step } = context;
    const bodies = values.what === "bodies" ? context.bodies(values.bodies) : [];
    if (values.what === "bodies" && bodies.length === 0)
      fail("nothing-picked", "Pick the bodies to copy.", { step, field: "bodies" });
    const each = values.what === "bodies" ? bodies.length : Math.max(1, values.steps.length);
    const all = toCount(values.count) * (values.kind === "rows" ? toCount(values.rows) : 1) * each;
    if (all > MOST)
      fail(
        "too-many",
        `That makes ${all.toLocaleString("en")} bodies; a pattern takes at most ${MOST}. Make it smaller.`,
        {
          step,
          field: "count",
        },
      );
    if (all <= each) fail("too-few", "A pattern needs two or more, the original counted.", { step, field: "count" });
    const spots =
      values.kind === "rows" ? inRows(values) : values.kind === "ring" ? inRing(values) : onPath(values, context);
    const places = spots.map(({ mark, placement }) => placedAt(mark, placement));
    if (values.what === "steps") return repeatSteps(values.steps, places, context);
    const copies = bodies.map((body) =>
      places.map(({ mark, put }): Body => copyOf(body, put(body.shape), step, mark, mark)),
    );
    return values.join ? joinedWith(bodies, copies, context) : { made: copies.flat(), used: [] };
  },
});

/** More copies than a bench, and a person, can hold. */
const MOST = 500;

interface Place {
  /** Row and place in it, or place in the ring: the original is 1. */
  mark: string;
  placement: Placement;
}

function inRows(values: Values): Place[] {
  const along = scale(AXES[values.axis], toMm(values.spacing));
  const across = scale(AXES[values.across], toMm(values.rowSpacing));
  const [count, rows] = [toCount(values.count), toCount(values.rows)];
  return Array.from({ length: rows }, (_, row) =>
    Array.from({ length: count }, (_, i): Place => {
      const by: Vec3 = add(scale(along, i), scale(across, row));
      return {
        mark: rows > 1 ? `${row + 1}-${i + 1}` : `${i + 1}`,
        placement: { about: [0, 0, 0], axis: [0, 0, 1], angle: 0, by },
      };
    }),
  )
    .flat()
    .slice(1);
}

function inRing(values: Values): Place[] {
  const count = toCount(values.count);
  const angle = toRadians(values.angle);
  // Round a whole turn the last would lie on the first; along a part of one both ends are taken.
  const whole = Math.abs(Math.abs(angle) - 2 * Math.PI) < SAME_WAY;
  const step = angle / (whole ? count : count - 1);
  return Array.from(
    { length: count - 1 },
    (_, i): Place => ({
      mark: `${i + 2}`,
      placement: { about: toVec3(values.about), axis: AXES[values.axis], angle: step * (i + 1), by: [0, 0, 0] },
    }),
  );
}

/**
 * Evenly along a path, from where it begins to where it ends; round a closed one the last comes before the first. The
 * original stays where it is: the copies lie to the path as it lies to its beginning.
 */
function onPath(values: Values, context: StepContext): Place[] {
  const { spine } = spineOf(values, context);
  const count = toCount(values.count);
  const spots = spotsAlong(spine, count);
  const [first] = spots;
  return spots.slice(1).map(({ at, frame }, i): Place => {
    const turn = values.turn ? turnBetween(first!.frame, frame) : { axis: [0, 0, 1] as Vec3, angle: 0 };
    return { mark: `${i + 2}`, placement: { about: first!.at, ...turn, by: sub(at, first!.at) } };
  });
}
