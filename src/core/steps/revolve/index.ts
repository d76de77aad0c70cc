import { z } from "zod";
import { fail } from "../../errors";
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
import { type Body, baseName, edgeRefSchema, faceNamesOf, type SketchItem } from "../../naming";
import { angleField, toRadians } from "../../params";
import { along, type Profile, placeOf, sensesOf, type Vec2 } from "../../sketch";
import { goesInto, INTO_FORM, intoFields, putInto, targetsOf } from "../into";
import {
  bodiesOf,
  type Maker,
  PROFILE_FORM,
  PROFILE_OF,
  profileFields,
  profileFor,
  profileRefs,
  profileValues,
  regionsToFill,
} from "../profile";
import { defineStep, type StepContext } from "../step";

const schema = z.object({
  ...profileFields,
  axis: z.enum(["x", "y", "line", "edge"]).default("y").describe("The sketch's X or Y axis, a line of it, or an edge"),
  line: z.string().max(60).default("").describe("line: a straight line of the sketch, by its id"),
  edge: z.array(edgeRefSchema).max(1).default([]).describe("edge: a straight edge in the sketch's plane"),
  extent: z.enum(["full", "angle", "symmetric"]).default("full"),
  angle: angleField({ min: -360, max: 360 }).default(90).describe("angle: from the plane on; symmetric: in all"),
  ...intoFields,
});
type Values = z.infer<typeof schema>;

/** A drawing turned about an axis in its plane. */
export const revolve = defineStep({
  type: "revolve",
  schema,
  words: { label: "Revolve", line: "A sketch turned about an axis: a solid, a sheet, or a cut", stage: "shape" },
  fields: [
    ...PROFILE_OF,
    {
      key: "axis",
      kind: "choice",
      label: "About",
      options: [
        { value: "x", label: "Its X axis" },
        { value: "y", label: "Its Y axis" },
        { value: "line", label: "A line of it" },
        { value: "edge", label: "An edge" },
      ],
    },
    { key: "line", kind: "sketch-line", of: "sketch", label: "Line", when: { key: "axis", is: ["line"] } },
    {
      key: "edge",
      kind: "edges",
      label: "Straight edge",
      accepts: "line",
      min: 1,
      max: 1,
      when: { key: "axis", is: ["edge"] },
    },
    ...PROFILE_FORM,
    ...INTO_FORM,
    {
      key: "extent",
      kind: "choice",
      label: "How far",
      options: [
        { value: "full", label: "All round" },
        { value: "angle", label: "By an angle" },
        { value: "symmetric", label: "Both ways alike" },
      ],
    },
    { key: "angle", kind: "angle", label: "Angle", when: { key: "extent", is: ["angle", "symmetric"] } },
  ],
  refs: (values) => [
    ...profileRefs(values),
    ...(values.axis === "edge" ? values.edge.map((ref) => ref.body) : []),
    ...(goesInto(values) ? values.targets : []),
  ],
  changes: (values) => (goesInto(values) ? values.targets : []),
  resolved: (values) => ({
    ...profileValues(values),
    angle: values.extent === "full" ? 0 : toRadians(values.angle),
    line: values.axis === "line" ? values.line : "",
    edge: values.axis === "edge" ? values.edge : [],
    targets: goesInto(values) ? values.targets : [],
  }),
  weighed: goesInto,
  evaluate(values, context) {
    const { step } = context;
    const { item, profile } = profileFor(values, "turn", context);
    const targets = targetsOf(values, context);
    const { at, axis } = axisOf(values, item, context);
    const angle = values.extent === "full" ? 2 * Math.PI : toRadians(values.angle);
    if (Math.abs(angle) < 1e-9) fail("no-angle", "The angle is nothing. Give one.", { step, field: "angle" });
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
    const half = values.extent !== "full" && Math.abs(turn.sweep - Math.PI) < 1e-12;
    return putInto(values, targets, half ? bodies.map(withOneCap) : bodies, context);
  },
});

/** Half a turn of what reaches its axis ends in two faces of one plane that meet at the axis: they are one, as wherever faces meet so. */
function withOneCap(body: Body): Body {
  if (body.kind !== "solid") return body;
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
  if (off > 1e-6)
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
      if (low < -1e-6 && high > 1e-6)
        fail(
          "axis-across",
          `The axis goes through the outline of ${context.nameOf(id)}, which would turn into itself. Move the axis beside the outline, or onto its edge.`,
          { step: context.step, bodies: [id], at: [...where] },
        );
    }
}
