import { fail } from "../../errors";
import { type Body, isBody } from "../../items";
import { has } from "../../items/kinds";
import { allFaceFacts, freeShape, KernelFault, surfaceRecordsOf, type Vec3 } from "../../kernel";
import { type Move, type SweptFault, sweptRoom } from "../../motion";
import { faceNamesOf } from "../../naming";
import { toMm } from "../../params";
import { SAME_PLACE } from "../../tolerance";
import { evaluates, type StepContext, type ValuesOf } from "../evaluation";
import { goesInto } from "../shared/into/declare";
import { grownBy, leastGap } from "../shared/into/gap";
import { putInto, targetsOf } from "../shared/into/put";
import { motion } from "./declare";
import { movesFrom, movesOfWay } from "./ways";

type Values = ValuesOf<typeof motion>;

export const evaluateMotion = evaluates(motion, {
  weighed: goesInto,
  onWay: (values, context) => ({ body: movedBy(values, context), moves: movesOf(values, context) }),
  evaluate(values, context) {
    const { step } = context;
    const body = movedBy(values, context);
    const moves = movesOf(values, context);
    const targets = targetsOf(values, context);
    if (targets.some(({ id }) => id === body.id))
      fail("same-body", "A body cannot be cut by its own moves. Pick another to cut.", { step, field: "targets" });
    const gap = values.into === "cut" ? toMm(values.intoGap) : 0;
    if (Math.abs(gap) < SAME_PLACE) return putInto(values, targets, [room(body, moves, context)], context);
    // What moves is grown, not the room: its own corners are what has to be run on, which the room may have none of.
    const [grown] = grownBy([body], targets, gap, context);
    let plain: Body | null = null;
    try {
      plain = room(body, moves, context);
      const outcome = putInto({ ...values, intoGap: 0 }, targets, [room(grown!, moves, context)], context);
      const told = leastGap([plain], outcome.made.filter(isBody), gap, context);
      return told.length > 0 ? { ...outcome, told } : outcome;
    } finally {
      freeShape(grown!.shape);
      if (plain) freeShape(plain.shape);
    }
  },
});

/** @throws SeamError where no solid is picked */
function movedBy(values: Values, context: StepContext): Body {
  const { step } = context;
  const [body] = context.bodies(values.body);
  if (!body || !has(body, "closed")) fail("nothing-picked", "Pick the solid that moves.", { step, field: "body" });
  return body;
}

/** The room that a body passes through, as a body. @throws SeamError where it cannot be had exactly */
function room(body: Body, moves: readonly Move[], context: StepContext): Body {
  const { step } = context;
  const name = context.nameOf(body.id);
  try {
    const swept = sweptRoom(body, moves);
    if ("why" in swept) refuse(swept, body, context);
    const faces = faceNamesOf(
      swept.shape,
      swept.faces.map((face) => `${step}:way:${face}`),
    );
    const hint = { from: body.id, suffix: "on its way" };
    return { id: `${step}:room`, kind: "solid", shape: swept.shape, faces, hint };
  } catch (cause) {
    if (cause instanceof KernelFault && !cause.fatal)
      fail(
        "motion-undivided",
        `What ${name} passes through cannot be put together: parts of its way touch or lie nearly in each other. Change a move a little.`,
        { step, bodies: [body.id], ...(cause.at ? { at: [...cause.at] as [number, number, number] } : {}) },
      );
    throw cause;
  }
}

/** @throws SeamError with the faces to blame, and what would do */
function refuse({ why, places }: SweptFault, body: Body, { step, nameOf }: StepContext): never {
  const at = allFaceFacts(body.shape)[places[0] ?? -1]?.centre;
  const name = nameOf(body.id);
  const sentence = {
    free: `The way of ${name} has no exact form: a face of it is freely curved, or round and moves across its own axis. Move it straight along or about that axis, or let a simpler body move in its place.`,
    unclear: `It cannot be told where a face of ${name} leads on its way. Change the move a little, or let a simpler body move in its place.`,
    far: `${name} would go more than 100 times as far as it is large, or turn about an axis as far away. Give a shorter way, or an axis that lies nearer.`,
    apart: `What ${name} passes through is not one solid. Change the moves so that each begins where the one before ends.`,
  }[why];
  fail(`motion-${why}`, sentence, {
    step,
    bodies: [body.id],
    faces: places.map((place) => ({ body: body.id, face: body.faces[place]! })),
    ...(at ? { at: [...at] as [number, number, number] } : {}),
  });
}

/** The moves, those left out that move nothing. @throws SeamError where none is left */
function movesOf(values: Values, context: StepContext): Move[] {
  const { step } = context;
  const written = movesOfWay(values);
  if (written.length === 0) fail("nothing-picked", "Add a move.", { step, field: "moves" });
  const moves = movesFrom(written, () => axisOf(values, context));
  if (moves.length === 0)
    fail("no-distance", "Nothing moves: each move is of length 0. Give one a distance or an angle.", {
      step,
      field: values.way === "moves" ? "moves" : values.way === "swing" ? "to" : "depth",
    });
  return moves;
}

function axisOf({ axis }: Values, context: StepContext): { at: Vec3; axis: Vec3 } {
  const { step } = context;
  const [ref] = axis;
  if (!ref) fail("nothing-picked", "Pick the round face whose axis is turned about.", { step, field: "axis" });
  const { body, face } = context.face(ref);
  const surface = surfaceRecordsOf(body.shape)[face]!;
  if (surface?.kind !== "cylinder" && surface?.kind !== "cone" && surface?.kind !== "torus")
    fail("no-axis", "The picked face has no axis. Pick a cylindrical, conical or ring-shaped face.", {
      step,
      field: "axis",
      bodies: [body.id],
      faces: [{ body: body.id, face: body.faces[face]! }],
    });
  return { at: surface.at, axis: surface.axis };
}
