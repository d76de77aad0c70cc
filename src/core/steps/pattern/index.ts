import { z } from "zod";
import { fail } from "../../errors";
import { add, type Placement, placed, scale, spotsAlong, sub, turnBetween, type Vec3 } from "../../kernel";
import type { Body } from "../../naming";
import { angleField, countField, lengthField, toCount, toMm, toRadians } from "../../params";
import { alongFields, PATH_FORM, pathRefs, spineOf } from "../along";
import { AXES, AXIS_OPTIONS, axisField, pointField, toVec3 } from "../common";
import { copyOf, joinedWith, REPEAT_FORM, repeatFields, repeatRefs, repeatSteps } from "../copies";
import { defineStep, type Field, type StepContext } from "../step";

/** More copies than a bench, and a person, can hold. */
const MOST = 500;

const { corners: _corners, ...pathFields } = alongFields;

const schema = z.object({
  ...repeatFields,
  kind: z.enum(["rows", "ring", "path"]).default("rows"),
  axis: axisField.default("x").describe("rows: along; ring: about"),
  count: countField({ min: 1 }).default(3).describe("In all, the original too"),
  spacing: lengthField().default(20).describe("rows: from one to the next, mm"),
  rows: countField({ min: 1 }).default(1).describe("rows: how many, side by side"),
  across: axisField.default("y").describe("rows: which way the second row lies"),
  rowSpacing: lengthField().default(20).describe("rows: from one row to the next, mm"),
  about: pointField().default([0, 0, 0]).describe("ring: a point on the axis"),
  angle: angleField({ min: -360, max: 360 }).default(360).describe("ring: in all; a whole turn spaces them evenly"),
  ...pathFields,
  turn: z.boolean().default(true).describe("path: each turns as the path does; otherwise all stand alike"),
  join: z.boolean().default(false).describe("Each body and its copies become one"),
});
type Values = z.infer<typeof schema>;

/** Copies of bodies in rows or round an axis. */
export const pattern = defineStep({
  type: "pattern",
  schema,
  words: {
    label: "Pattern",
    line: "Copies of bodies, or of what steps joined and cut, in rows, in a ring or along a path",
    stage: "shape",
  },
  fields: [
    ...REPEAT_FORM,
    {
      key: "kind",
      kind: "choice",
      label: "In",
      options: [
        { value: "rows", label: "Rows" },
        { value: "ring", label: "A ring" },
        { value: "path", label: "Along a path" },
      ],
    },
    {
      key: "axis",
      kind: "choice",
      label: "Along or about",
      options: AXIS_OPTIONS,
      when: { key: "kind", is: ["rows", "ring"] },
    },
    ...PATH_FORM.map(
      (field): Field => ({ ...field, when: [...[field.when ?? []].flat(), { key: "kind", is: ["path"] }] }),
    ),
    { key: "count", kind: "count", label: "How many, in all" },
    { key: "spacing", kind: "length", label: "From one to the next", when: { key: "kind", is: ["rows"] } },
    { key: "rows", kind: "count", label: "Rows", when: { key: "kind", is: ["rows"] } },
    {
      key: "across",
      kind: "choice",
      label: "Rows lie along",
      options: AXIS_OPTIONS,
      when: { key: "kind", is: ["rows"] },
    },
    { key: "rowSpacing", kind: "length", label: "From row to row", when: { key: "kind", is: ["rows"] } },
    { key: "about", kind: "point", label: "Through the point", when: { key: "kind", is: ["ring"] } },
    { key: "angle", kind: "angle", label: "Angle in all", when: { key: "kind", is: ["ring"] } },
    { key: "turn", kind: "toggle", label: "Turn with the path", when: { key: "kind", is: ["path"] } },
    { key: "join", kind: "toggle", label: "Join with the originals", when: { key: "what", is: ["bodies"] } },
  ],
  refs: (values) => [...repeatRefs(values), ...(values.kind === "path" ? pathRefs(values) : [])],
  repeats: (values) => (values.what === "steps" ? values.steps : []),
  resolved: (values) => ({
    what: values.what,
    kind: values.kind,
    axis: values.axis,
    count: toCount(values.count),
    join: values.join,
    ...(values.kind === "rows"
      ? {
          spacing: toMm(values.spacing),
          rows: toCount(values.rows),
          across: values.across,
          rowSpacing: toMm(values.rowSpacing),
        }
      : values.kind === "ring"
        ? { about: toVec3(values.about), angle: toRadians(values.angle) }
        : { along: values.along, path: values.path, edges: values.edges, turn: values.turn }),
  }),
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
    const places =
      values.kind === "rows" ? inRows(values) : values.kind === "ring" ? inRing(values) : onPath(values, context);
    if (values.what === "steps")
      return repeatSteps(
        values.steps,
        ({ shape }) => places.map(({ mark, placement }) => ({ mark, shape: placed(shape, placement) })),
        context,
      );
    const copies = bodies.map((body) =>
      places.map(({ mark, placement }): Body => copyOf(body, placed(body.shape, placement), step, mark, mark)),
    );
    return values.join ? joinedWith(bodies, copies, context) : { made: copies.flat(), used: [] };
  },
});

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
  const whole = Math.abs(Math.abs(angle) - 2 * Math.PI) < 1e-9;
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
