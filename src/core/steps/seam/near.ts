import type { Repair } from "../../errors";
import { type Body, has, type Item } from "../../items";
import {
  dot,
  freeShape,
  fuse,
  KernelFault,
  length,
  type NearFlats,
  nearest,
  nearFlats,
  placed,
  type Shape,
  scale,
  sub,
  type Vec3,
} from "../../kernel";
import { SAME_PLACE } from "../../tolerance";
import { formatDeviation } from "../../units";
import type { StepContext } from "../evaluation";

/** mm: bodies that are no farther apart were meant to touch; nothing that small is left open on purpose (common practice, no source). */
const MEANT = 0.1;

/** mm: faces nearer to one plane than this make a step, or leave a skin, that cannot be cut, printed or cast. */
const UNMAKEABLE = 0.01;

/** Of how many bodies every pair is looked at. */
const MOST = 20;

/** Moves a body by a step of its own before the one that is done: exact, unlike a division with a tolerance. */
function moveRepair(body: Body, by: Vec3, against: Body, { step, nameOf }: StepContext): Repair {
  const numbers = by.map((part) => Number(part.toFixed(9)) + 0);
  return {
    label: `Move ${nameOf(body.id)} by ${formatDeviation(length(by))}, against ${nameOf(against.id)}`,
    step,
    set: {},
    insert: { type: "move", bodies: [body.id], by: numbers },
  };
}

/**
 * What brings the nearest two of bodies that do not touch together, where that is a hair's breadth and they then share faces: the second
 * moved against the first, or the other way round. Whoever tries them finds out which of the two does.
 */
export function touchRepairs(bodies: readonly Body[], context: StepContext): Repair[] {
  const some = bodies.slice(0, MOST);
  const pairs = some.flatMap((one, i) => some.slice(i + 1).map((other) => ({ one, other })));
  return pairs
    .flatMap(({ one, other }) => {
      const near = nearest(one.shape, other.shape);
      return near && near.gap > SAME_PLACE && near.gap <= MEANT ? [{ one, other, by: sub(near.on1, near.on2) }] : [];
    })
    .sort((a, b) => length(a.by) - length(b.by))
    .slice(0, 1)
    .flatMap(({ one, other, by }) =>
      shareFaces(one.shape, other.shape, by)
        ? [moveRepair(other, by, one, context), moveRepair(one, scale(by, -1), other, context)]
        : [],
    );
}

/** Whether a body shares faces with another once it is moved; where that cannot be found out, nothing is offered. */
function shareFaces(one: Shape, other: Shape, by: Vec3): boolean {
  const moved = placed(other, { about: [0, 0, 0], axis: [0, 0, 1], angle: 0, by });
  try {
    const fusion = fuse([one, moved], false);
    try {
      const seen = new Set<number>();
      return fusion.cells.some((cell) => {
        const again = cell.faces.some(({ face }) => seen.has(face));
        for (const { face } of cell.faces) seen.add(face);
        return again;
      });
    } finally {
      fusion.free();
    }
  } catch (cause) {
    if (cause instanceof KernelFault && !cause.fatal) return false;
    throw cause;
  } finally {
    freeShape(moved);
  }
}

/**
 * Tells of flat faces of two bodies that lie nearly in one plane, where what is made of them has a step, a skin or a slot there of a size
 * that cannot be made.
 */
export function tellNearFaces(
  pairs: readonly (readonly [Body, Body])[],
  made: readonly Item[],
  context: StepContext,
): void {
  const given = pairs.flatMap(([one, other]) =>
    nearFlats(one.shape, other.shape, UNMAKEABLE).map((near) => ({ one, other, near })),
  );
  if (given.length === 0) return;
  const own = made.flatMap((item) => (has(item, "closed") ? nearFlats(item.shape, item.shape, UNMAKEABLE) : []));
  for (const { one, other, near } of given) {
    const left = own.find((pair) => areSame(near, pair));
    if (!left) continue;
    const { nameOf, step } = context;
    const what = left.alike ? "step" : left.off > 0 ? "skin" : "slot";
    context.warn({
      code: "near-faces",
      message: `Faces of ${nameOf(one.id)} and ${nameOf(other.id)} are ${formatDeviation(Math.abs(near.off))} from lying in one plane: that leaves a ${what} too small to be made.`,
      step,
      bodies: [one.id, other.id],
      at: [...left.at],
      repair: moveRepair(other, scale(near.normal, near.off), one, context),
    });
    return;
  }
}

/** Whether two pairs of faces lie in the same two planes: a face may look the other way where it was taken from something. */
function areSame(given: NearFlats, made: NearFlats): boolean {
  const same = dot(given.normal, made.normal);
  if (Math.abs(same) < 1 - 1e-9) return false;
  const planes = ({ height, off }: NearFlats, sense: number) =>
    [height * sense, (height - off) * sense].sort((a, b) => a - b);
  const [[a, b], [c, d]] = [planes(given, 1), planes(made, Math.sign(same))];
  return Math.abs(a! - c!) < SAME_PLACE && Math.abs(b! - d!) < SAME_PLACE;
}
