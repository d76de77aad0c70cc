import * as z from "zod";
import { angleField, lengthField } from "../params";
import { idField } from "../schema/fields";

/** Ids of what every sketch has without drawing it: its origin and its two axes. */
export const BUILT_IN = ["origin", "axis-x", "axis-y"] as const;

const refField = idField.describe("An entity by its id, or origin, axis-x, axis-y");
const coordinate = z.number().min(-100_000).max(100_000);
const construction = z.boolean().default(false).describe("Helps to draw and makes no outline");

export const pointSchema = z.object({
  id: idField,
  type: z.literal("point"),
  x: coordinate,
  y: coordinate,
  construction,
});
export const lineSchema = z.object({
  id: idField,
  type: z.literal("line"),
  from: refField,
  to: refField,
  construction,
});
export const circleSchema = z.object({
  id: idField,
  type: z.literal("circle"),
  centre: refField,
  radius: z.number().positive().max(100_000),
  construction,
});
export const arcSchema = z
  .object({ id: idField, type: z.literal("arc"), centre: refField, from: refField, to: refField, construction })
  .describe("Counter-clockwise round its centre, from one point to the other");
export const ellipseSchema = z
  .object({
    id: idField,
    type: z.literal("ellipse"),
    centre: refField,
    major: refField,
    minor: z.number().positive().max(100_000),
    from: refField.optional(),
    to: refField.optional(),
    construction,
  })
  .describe(
    "By its centre, the end of one axis, and half of the other; part of one runs from a point to another, counter-clockwise",
  );
export const splineSchema = z
  .object({
    id: idField,
    type: z.literal("spline"),
    form: z.enum(["through", "control"]).default("through"),
    points: z.array(refField).min(2).max(500),
    closed: z.boolean().default(false),
    knots: z.array(z.number()).max(600).optional().describe("control: its own knots, as many as points + degree + 1"),
    degree: z.number().int().min(1).max(25).optional().describe("control, with knots: its degree"),
    construction,
  })
  .refine(({ points, knots, degree }) => knots === undefined || knots.length === points.length + (degree ?? 3) + 1, {
    message: "A spline with knots needs as many of them as it has points, and its degree and one more.",
  })
  .refine(
    ({ knots = [0, 1] }) => knots.every((knot, i) => i === 0 || knot >= knots[i - 1]!) && knots.at(-1)! > knots[0]!,
    {
      message: "The knots of a spline have to run upwards.",
    },
  )
  .describe("A cubic curve through its points, or drawn by them as control points");

export const textSchema = z
  .object({
    id: idField,
    type: z.literal("text"),
    at: refField,
    along: refField,
    text: z.string().min(1).max(200),
    height: z.number().positive().max(10_000).describe("Of a capital letter, mm"),
    mirrored: z.boolean().default(false).describe("Letters that read right in a mirror, as a stamp has them"),
    construction,
  })
  .describe("Letters as outlines, from a point along the line to another");

/** What is drawn. Coordinates are millimetres in the sketch's plane, where the solver last left them. */
export const entitySchema = z.discriminatedUnion("type", [
  pointSchema,
  lineSchema,
  circleSchema,
  arcSchema,
  ellipseSchema,
  splineSchema,
  textSchema,
]);
export type Entity = z.infer<typeof entitySchema>;
export type EntityType = Entity["type"];
export type EntityOf<T extends EntityType> = Extract<Entity, { type: T }>;

export const CONSTRAINT_TYPES = [
  "coincident",
  "on",
  "midpoint",
  "horizontal",
  "vertical",
  "parallel",
  "perpendicular",
  "tangent",
  "equal",
  "concentric",
  "symmetric",
  "fixed",
] as const;
export type ConstraintType = (typeof CONSTRAINT_TYPES)[number];

/** What has to hold between entities. */
export const constraintSchema = z.object({
  id: idField,
  type: z.enum(CONSTRAINT_TYPES),
  of: z.array(refField).min(1).max(3).describe("What it holds between, in the order that its type asks for"),
  inside: z
    .boolean()
    .optional()
    .describe("tangent circles: whether one lies in the other; found from the drawing when absent"),
});
export type Constraint = z.infer<typeof constraintSchema>;

const dimensionBase = {
  id: idField,
  of: z.array(refField).min(1).max(1000),
  name: z
    .string()
    .regex(/^[\p{L}_][\p{L}\p{N}_]{0,59}$/u, "has to be letters, digits and _, beginning with a letter")
    .optional()
    .describe("What formulas call it, after the sketch's id and a dot"),
  measured: z.boolean().default(false).describe("It only tells a size and holds nothing"),
  at: z.tuple([coordinate, coordinate]).optional().describe("Where its text stands"),
};

/** A size between entities: with a value it drives the drawing, measured it follows it. */
export const dimensionSchema = z.discriminatedUnion("type", [
  z.object({
    ...dimensionBase,
    type: z
      .enum(["distance", "across", "upright", "radius", "diameter", "offset"])
      .describe("offset: of pairs, each a line or round curve and the one that keeps this distance from it"),
    value: lengthField(),
    side: z
      .union([z.literal(1), z.literal(-1)])
      .optional()
      .describe(
        "Which side counts as above 0 along an axis or from a line: 1 to the right, up, left of the line; as drawn where left out. Below 0 lies on the other",
      ),
  }),
  z.object({
    ...dimensionBase,
    type: z.literal("angle"),
    value: angleField({ min: -360, max: 360 }),
    reverse: z
      .tuple([z.boolean(), z.boolean()])
      .default([false, false])
      .describe("Whether the angle is counted from a line's end and not its beginning"),
  }),
]);
export type Dimension = z.infer<typeof dimensionSchema>;
export type DimensionType = Dimension["type"];

/** A drawing: entities with what holds between them. */
export interface Sketch {
  entities: Entity[];
  constraints: Constraint[];
  dimensions: Dimension[];
  /** What bodies give to draw by: it does not move. */
  given?: readonly Entity[];
  /** Names that are not given anew: what else names them may mean what is gone. */
  reserved?: ReadonlySet<string>;
}

/** All there is in a sketch: what is drawn, and what is given. */
export const allOf = ({ entities, given }: Pick<Sketch, "entities" | "given">): readonly Entity[] =>
  given?.length ? [...entities, ...given] : entities;
