import { fail } from "../../errors";
import type { Body, SketchItem } from "../../items";
import { has } from "../../items/kinds";
import {
  cross,
  dot,
  freeShape,
  inSpace,
  mergeFacesApart,
  type PlaneFrame,
  sub,
  surfacesOf,
  type Turn,
  turnSheet,
  turnSolid,
  unit,
  type Vec3,
} from "../../kernel";
import { baseName, faceNamesOf } from "../../naming";
import { toRadians } from "../../params";
import { along, type Profile, placeOf, sensesOf, type Vec2 } from "../../sketch";
import { SAME_PLACE, SAME_WAY } from "../../tolerance";
import { evaluates, type StepContext, type ValuesOf } from "../evaluation";
import { goesInto } from "../shared/into/declare";
import { putInto, targetsOf } from "../shared/into/put";
import { bodiesOf, type Maker, profileFor, regionsToFill } from "../shared/profile/profile";
import { revolve } from "./declare";

type Values = ValuesOf<typeof revolve>;

export const evaluateRevolve = evaluates(revolve, {
  weighed: goesInto,
  evaluate(values, context) {
    const { step } = context;
    const { item, profile } = profileFor(values, "turn", context);
    const targets = targetsOf(values, context);
    const { at, axis } = axisOf(values, item, context);
    const angle = values.extent === "full" ? 2 * Math.PI : toRadians(values.angle);
    if (Math.abs(angle) < SAME_WAY) fail("no-angle", "The angle is nothing. Give one.", { step, field: "angle" });
    const turn: Turn = {
      at,
      axis,
      from: values.extent === "symmetric" ? -Math.abs(angle) / 2 : Math.min(angle, 0),
      sweep: Math.abs(angle),
    };
    const parts =
      values.as === "solid"
        ? regionsToFill(values.regions, item, profile, context).map((region) =>
            [region.outline, ...region.holes].flat(),
          )
        : [profile.graph.stretches];
    for (const part of parts) refuseAcross(part, item, turn, context);
    const maker: Maker = {
      solid: (...region) => turnSolid(...region, turn),
      sheet: (...curves) => turnSheet(...curves, turn, sensesOf(profile)),
    };
    const bodies = bodiesOf(values, item, profile, maker, context);
    const half = values.extent !== "full" && Math.abs(turn.sweep - Math.PI) < SAME_WAY;
    return putInto(values, targets, half ? bodies.map(withOneCap) : bodies, context);
  },
});

/** Half a turn of what reaches its axis ends in two faces of one plane that meet at the axis: they are one, as wherever faces meet so. */
function withOneCap(body: Body): Body {
  if (!has(body, "closed")) return body;
  const keys = surfacesOf(body.shape).map(({ signature }, face) => signature ?? body.faces[face]!);
  const merged = mergeFacesApart(body.shape, keys);
  if (!merged) return body;
  freeShape(body.shape);
  const bases = merged.sources.map((sources) => sources.map((face) => baseName(body.faces[face]!)).sort()[0]!);
  return { ...body, shape: merged.shape, faces: faceNamesOf(merged.shape, bases) };
}

/** The axis in space. @throws SeamError where it is not picked, or not in the plane. */
function axisOf(values: Values, { frame, entities }: SketchItem, context: StepContext): { at: Vec3; axis: Vec3 } {
  const { step } = context;
  const direction = (way: Vec2): Vec3 => unit(sub(inSpace(frame, way), frame.origin));
  if (values.axis === "x") return { at: frame.origin, axis: direction([1, 0]) };
  if (values.axis === "y") return { at: frame.origin, axis: direction([0, 1]) };
  if (values.axis === "line") {
    const line = entities.find(({ id }) => id === values.line);
    if (line?.type !== "line")
      fail("nothing-picked", "Pick the line of the sketch to turn it about.", { step, field: "line" });
    const [from, to] = [placeOf({ entities }, line.from), placeOf({ entities }, line.to)];
    return { at: inSpace(frame, from), axis: direction([to[0] - from[0], to[1] - from[1]]) };
  }
  const ref = values.edge[0] ?? fail("nothing-picked", "Pick the straight edge to turn it about.", { step });
  const { facts, body } = context.edge(ref);
  if (!facts.direction || facts.kind !== "line")
    fail("not-straight", "The picked edge is not straight. Pick a straight one.", { step, bodies: [body.id] });
  const off = Math.max(...facts.ends.map((end) => Math.abs(dot(sub(end, frame.origin), frame.normal))));
  if (off > SAME_PLACE)
    fail("axis-off-plane", "The picked edge does not lie in the plane of the sketch. Pick one that does.", {
      step,
      bodies: [body.id],
    });
  return { at: facts.ends[0], axis: facts.direction };
}

/** What crosses the axis would turn into itself. */
function refuseAcross(
  parts: readonly Pick<Profile["graph"]["stretches"][number], "curve" | "from" | "to">[],
  { frame, id }: SketchItem,
  { at, axis }: Turn,
  context: StepContext,
): void {
  const side = cross(frame.normal, axis);
  let [low, high] = [0, 0];
  let where: Vec3 = at;
  for (const { curve, from, to } of parts)
    for (let i = 0; i <= 64; i++) {
      const place = inSpace(frame as PlaneFrame, along(curve, from + ((to - from) * i) / 64));
      const away = dot(sub(place, at), side);
      if (away < low || away > high) where = place;
      low = Math.min(low, away);
      high = Math.max(high, away);
      if (low < -SAME_PLACE && high > SAME_PLACE)
        fail(
          "axis-across",
          `The axis goes through the outline of ${context.nameOf(id)}, which would turn into itself. Move the axis beside the outline, or onto its edge.`,
          { step: context.step, bodies: [id], at: [...where] },
        );
    }
}
