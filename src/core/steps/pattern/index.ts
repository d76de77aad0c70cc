import { z } from "zod";
import { fail } from "../../errors";
import { add, type Placement, placed, scale, type Vec3 } from "../../kernel";
import type { Body } from "../../naming";
import { angleField, countField, lengthField, toCount, toMm, toRadians } from "../../params";
import { AXES, AXIS_OPTIONS, axisField, itemRef, pointField, toVec3 } from "../common";
import { copyOf, joinedWith } from "../copies";
import { defineStep } from "../step";

/** More copies than a bench, and a person, can hold. */
const MOST = 500;

const schema = z.object({
  bodies: z.array(itemRef).max(200).default([]),
  kind: z.enum(["rows", "ring"]).default("rows"),
  axis: axisField.default("x").describe("rows: along; ring: about"),
  count: countField({ min: 1 }).default(3).describe("In all, the original too"),
  spacing: lengthField().default(20).describe("rows: from one to the next, mm"),
  rows: countField({ min: 1 }).default(1).describe("rows: how many, side by side"),
  across: axisField.default("y").describe("rows: which way the second row lies"),
  rowSpacing: lengthField().default(20).describe("rows: from one row to the next, mm"),
  about: pointField().default([0, 0, 0]).describe("ring: a point on the axis"),
  angle: angleField({ min: -360, max: 360 }).default(360).describe("ring: in all; a whole turn spaces them evenly"),
  join: z.boolean().default(false).describe("Each body and its copies become one"),
});
type Values = z.infer<typeof schema>;

/** Copies of bodies in rows or round an axis. */
export const pattern = defineStep({
  type: "pattern",
  schema,
  words: { label: "Pattern", line: "Copies of bodies in rows, or in a ring about an axis", stage: "shape" },
  fields: [
    { key: "bodies", kind: "bodies", label: "Bodies", accepts: ["solid", "sheet"], min: 1 },
    {
      key: "kind",
      kind: "choice",
      label: "In",
      options: [
        { value: "rows", label: "Rows" },
        { value: "ring", label: "A ring" },
      ],
    },
    { key: "axis", kind: "choice", label: "Along or about", options: AXIS_OPTIONS },
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
    { key: "join", kind: "toggle", label: "Join with the originals" },
  ],
  refs: (values) => values.bodies,
  resolved: (values) => ({
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
      : { about: toVec3(values.about), angle: toRadians(values.angle) }),
  }),
  evaluate(values, context) {
    const { step } = context;
    const bodies = context.bodies(values.bodies);
    if (bodies.length === 0) fail("nothing-picked", "Pick the bodies to copy.", { step });
    const all = toCount(values.count) * (values.kind === "rows" ? toCount(values.rows) : 1) * bodies.length;
    if (all > MOST)
      fail(
        "too-many",
        `That makes ${all.toLocaleString("en")} bodies; a pattern takes at most ${MOST}. Make it smaller.`,
        {
          step,
          field: "count",
        },
      );
    if (all <= bodies.length)
      fail("too-few", "A pattern needs two or more, the original counted.", { step, field: "count" });
    const places = values.kind === "rows" ? inRows(values) : inRing(values);
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
