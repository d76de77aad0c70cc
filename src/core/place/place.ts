import * as z from "zod";
import { angleField, lengthField, type Resolved, resolveQuantities, type Scope } from "../params";
import { idField, nameField } from "../schema/fields";
import { IDENTITY, type Transform, transformOf } from "./transform";

/** Across which of its own planes a part is turned over: its right hand becomes its left one. */
export const MIRRORS = ["none", "x", "y", "z"] as const;

const direction = z
  .tuple([z.number(), z.number(), z.number()])
  .refine((axis) => Math.hypot(...axis) > 1e-9, "has to point somewhere: not 0 in X, Y and Z");

/** Where a part stands in its job: mirrored first, where it is, in a plane through its origin; then turned about an axis through that; then moved. */
export const placeSchema = z
  .strictObject({
    id: idField,
    name: nameField.optional().describe("Of a copy"),
    by: z.tuple([lengthField(), lengthField(), lengthField()]).default([0, 0, 0]).describe("Moved by, X, Y and Z"),
    turn: angleField().default(0).describe("Turned by"),
    axis: direction.default([0, 0, 1]).describe("Turned about, through its origin"),
    mirror: z.enum(MIRRORS).default("none").describe("Mirrored first: its own plane square to X, Y or Z"),
  })
  .describe("A place of a part in the job");
export type Place = z.infer<typeof placeSchema>;

/** What every part has that was given no place: it stands as it is drawn. */
export const PLAIN_PLACE: Omit<Place, "id"> = { by: [0, 0, 0], turn: 0, axis: [0, 0, 1], mirror: "none" };

/** Where a place puts what is drawn in the part; or why that cannot be told. */
export function resolvedPlace(place: Place, scope: Scope): { transform: Transform } | { problem: string } {
  const { values, problems } = resolveQuantities(placeSchema, place, scope);
  const [problem] = Object.values(problems);
  return problem === undefined ? { transform: transformOf(values as Resolved<Place>) } : { problem };
}

/** Where the part itself stands, of its places: the first; as it is drawn where there is none. */
export const ownPlace = (places: readonly Place[], scope: Scope): ReturnType<typeof resolvedPlace> =>
  places[0] ? resolvedPlace(places[0], scope) : { transform: IDENTITY };
