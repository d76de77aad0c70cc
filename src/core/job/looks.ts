import * as z from "zod";
import { faceRefSchema } from "../references";
import { idField, nameField } from "../schema/fields";

/** Colours for bodies, by name: told apart with any kind of colour vision by their lightness as well. */
export const BODY_COLOURS = ["steel", "graphite", "sand", "clay", "moss", "lagoon", "plum", "chalk"] as const;
export type BodyColour = (typeof BODY_COLOURS)[number];

/** The colours in numbers, as files tell them: sRGB. */
export const BODY_SRGB: Readonly<Record<BodyColour, string>> = {
  steel: "#8fa0ad",
  graphite: "#565b61",
  sand: "#d9bd84",
  clay: "#b8694a",
  moss: "#7d8c4c",
  lagoon: "#3f8f95",
  plum: "#7c4f74",
  chalk: "#f1efe9",
};

export const materialSchema = z.strictObject({
  name: nameField,
  density: z.number().positive().max(30).describe("g/cm³"),
});
export type Material = z.infer<typeof materialSchema>;

/**
 * Materials that a workshop has at hand, g/cm³. Common values of the trade, from memory: a data sheet says more exactly.
 * A job can have its own beside them.
 */
export const STANDARD_MATERIALS: readonly Material[] = [
  { name: "Steel", density: 7.85 },
  { name: "Stainless steel", density: 7.9 },
  { name: "Cast iron", density: 7.2 },
  { name: "Aluminium", density: 2.7 },
  { name: "Brass", density: 8.5 },
  { name: "Copper", density: 8.96 },
  { name: "PLA", density: 1.24 },
  { name: "PETG", density: 1.27 },
  { name: "ABS", density: 1.04 },
  { name: "Nylon", density: 1.14 },
  { name: "Acetal", density: 1.41 },
  { name: "Silicone rubber", density: 1.15 },
  { name: "Polyurethane rubber", density: 1.1 },
  { name: "Plaster", density: 1.2 },
  { name: "Beech", density: 0.72 },
  { name: "Plywood", density: 0.68 },
];

export const lookSchema = z
  .strictObject({
    colour: z.enum(BODY_COLOURS).optional(),
    material: nameField.optional().describe("By name: one of the job's, or of those that come with the program"),
    clear: z.boolean().optional().describe("Seen through"),
  })
  .describe("How a body looks and what it is of");
export type Look = z.infer<typeof lookSchema>;

export const bodyGroupSchema = z.strictObject({
  name: nameField,
  bodies: z.array(z.string().min(1).max(700)).max(500).describe("By body id"),
});
export type BodyGroup = z.infer<typeof bodyGroupSchema>;

export const noteSchema = z.strictObject({
  id: idField,
  body: z.string().min(1).max(700).describe("The body, by id"),
  face: faceRefSchema.optional().describe("The face of it that it is about"),
  text: z.string().trim().min(1, "must not be empty").max(2000),
});
export type Note = z.infer<typeof noteSchema>;

/** The material of a name: the job's own before those that come with the program. */
export function materialOf(job: { materials: readonly Material[] }, name: string | undefined): Material | undefined {
  const same = (material: Material) => material.name.toLowerCase() === name?.toLowerCase();
  return job.materials.find(same) ?? STANDARD_MATERIALS.find(same);
}

/** What is kept of a body under its id, or under one that it had before it was changed. */
export function keptOf<T>(kept: Readonly<Record<string, T>>, { id, was }: { id: string; was: readonly string[] }) {
  const known = [id, ...was].find((name) => name in kept);
  return known === undefined ? undefined : kept[known];
}
