import * as z from "zod";
import { type WantedFit, wantedFitSchema } from "../fit/audit/wanted";
import { MAX_PARAMETERS, type Parameter, parameterSchema } from "../params";
import { type Place, placeSchema, type Taken } from "../place";
import { idField, nameField } from "../schema/fields";
import { STEP_TYPES } from "../steps/registry";
import type { Kept } from "./links/kept";
import {
  type BodyGroup,
  bodyGroupSchema,
  type Look,
  lookSchema,
  type Material,
  materialSchema,
  type Note,
  noteSchema,
} from "./looks";
import { type SavedView, savedViewSchema } from "./views";

export const FORMAT = "bold-seam-job";
export const FORMAT_VERSION = 1;

const stepBase = {
  id: idField,
  name: nameField.optional().describe("What a person calls the step; its type's name otherwise"),
  suppressed: z.boolean().default(false).describe("Left out while true"),
  group: nameField.optional().describe("Steps beside each other with the same group are folded up together"),
};

/** A step of any type: its id, name and state beside the values of its type. */
export const stepSchema = z.discriminatedUnion(
  "type",
  STEP_TYPES.map((type) =>
    (type.schema as z.ZodObject).extend({ ...stepBase, type: z.literal(type.type) }).strict(),
  ) as unknown as [z.ZodObject<typeof stepBase & { type: z.ZodLiteral<string> }>],
);
export type Step = { id: string; type: string; name?: string; suppressed: boolean; group?: string } & Record<
  string,
  unknown
>;

const parametersField = z.array(parameterSchema).max(MAX_PARAMETERS).default([]);

export const partSchema = z.strictObject({
  id: idField,
  name: nameField,
  parameters: parametersField.describe("Named values of this part; they stand before the job's of the same name"),
  places: z
    .array(placeSchema)
    .max(100)
    .default([])
    .describe("Where it stands: its own place first, then copies; with none as it is drawn"),
  steps: z.array(stepSchema).max(2000),
  hold: z.string().nullable().default(null).describe("The last step that is built; null builds all"),
  names: z.record(z.string(), nameField).default({}).describe("Names given to bodies, by body id"),
  looks: z.record(z.string(), lookSchema).default({}).describe("How bodies look and what they are of, by body id"),
  groups: z.array(bodyGroupSchema).max(200).default([]).describe("Bodies that are shown and hidden together"),
  notes: z.array(noteSchema).max(1000).default([]).describe("What is to be known of bodies and faces"),
  views: z.array(savedViewSchema).max(200).default([]).describe("Ways to look at the part that were given names"),
});
export interface Part {
  id: string;
  name: string;
  parameters: Parameter[];
  places: Place[];
  steps: Step[];
  hold: string | null;
  names: Record<string, string>;
  looks: Record<string, Look>;
  groups: BodyGroup[];
  notes: Note[];
  views: SavedView[];
}

export const fileSchema = z
  .strictObject({
    id: idField,
    name: z.string().min(1).max(240).describe("The file's own name"),
    sha256: z
      .string()
      .regex(/^[0-9a-f]{64}$/, "has to be a SHA-256 in hexadecimal")
      .optional()
      .describe("Hash of its bytes, as the server keeps it"),
    path: z.string().optional().describe("Where it lies, relative to the job file (command line)"),
    text: z.string().optional().describe("Its contents, in the job file itself"),
  })
  .describe("An imported file, kept as it came");
export type JobFile = z.infer<typeof fileSchema>;

/** By type of step. */
export const versionsSchema = z.record(z.string(), z.number().int().min(0));

const keptSchema = z
  .strictObject({ parameters: parametersField, parts: z.array(partSchema).min(1).max(200) })
  .describe("A part as it was when something was taken of it, and those that it needed");

export const jobSchema = z
  .strictObject({
    format: z.literal(FORMAT),
    version: z.literal(FORMAT_VERSION),
    name: nameField,
    units: z
      .enum(["mm", "inch"])
      .default("mm")
      .describe("The unit shown to people; numbers in the file are millimetres"),
    parameters: parametersField.describe("Named values for all parts"),
    materials: z.array(materialSchema).max(200).default([]).describe("Beside those that come with the program"),
    files: z.array(fileSchema).max(500).default([]),
    stepVersions: versionsSchema
      .optional()
      .describe("How far each type of step has been upgraded, for types whose steps were once written in another way"),
    parts: z.array(partSchema).min(1, "A job needs at least one part").max(200),
    fits: z.array(wantedFitSchema).max(2000).default([]).describe("How bodies are to lie to each other"),
    follow: z
      .boolean()
      .default(true)
      .describe("What parts bring in of others follows at once; else it stays until it is refreshed"),
    kept: z.record(idField, keptSchema).default({}).describe("By id"),
  })
  .superRefine((job, context) => {
    const issue = (path: (string | number)[], message: string) => context.addIssue({ code: "custom", path, message });
    repeated(job.parts.map((part) => part.id)).forEach((id) => {
      issue(["parts"], `two parts have the id “${id}”`);
    });
    repeated(job.files.map((file) => file.id)).forEach((id) => {
      issue(["files"], `two files have the id “${id}”`);
    });
    const twice = (list: Parameter[], path: (string | number)[]) => {
      for (const name of repeated(list.map((parameter) => parameter.name)))
        issue(path, `two parameters are called “${name}”`);
    };
    twice(job.parameters, ["parameters"]);
    const isKept = (id: string) => Object.hasOwn(job.kept, id);
    const parts = [
      ...job.parts.map((part, p) => ({ part, path: ["parts", p] as (string | number)[] })),
      ...Object.entries(job.kept).flatMap(([id, { parts }]) =>
        parts.map((part, p) => ({ part, path: ["kept", id, "parts", p] as (string | number)[] })),
      ),
    ];
    for (const { part, path } of parts) {
      for (const id of repeated(part.places.map(({ id }) => id)))
        issue([...path, "places"], `two places have the id “${id}”`);
      for (const [s, step] of (part.steps as unknown as Step[]).entries()) {
        const as = (step.taken as Taken | null | undefined)?.as;
        if (as !== undefined && !isKept(as)) issue([...path, "steps", s, "taken"], `“${as}” is not kept in the job`);
      }
      twice(part.parameters, [...path, "parameters"]);
      const steps = part.steps as unknown as Step[];
      repeated(steps.map((step) => step.id)).forEach((id) => {
        issue([...path, "steps"], `two steps have the id “${id}”`);
      });
      repeated(part.groups.map(({ name }) => name)).forEach((name) => {
        issue([...path, "groups"], `two groups are called “${name}”`);
      });
      repeated(part.views.map(({ name }) => name)).forEach((name) => {
        issue([...path, "views"], `two views are called “${name}”`);
      });
      if (part.hold !== null && !steps.some((step) => step.id === part.hold))
        issue([...path, "hold"], `there is no step “${part.hold}”`);
    }
  });

/** The document: everything that a person made, nothing that can be computed. */
export interface Job {
  format: typeof FORMAT;
  version: typeof FORMAT_VERSION;
  name: string;
  units: "mm" | "inch";
  parameters: Parameter[];
  materials: Material[];
  files: JobFile[];
  stepVersions?: Record<string, number>;
  parts: Part[];
  fits: WantedFit[];
  /** Whether what is brought in follows what it is of at once. */
  follow: boolean;
  /** By id. */
  kept: Record<string, Kept>;
}

function repeated(ids: string[]): string[] {
  return [...new Set(ids.filter((id, i) => ids.indexOf(id) !== i))];
}

export function emptyPart(id: string, name: string): Part {
  return {
    id,
    name,
    parameters: [],
    places: [],
    steps: [],
    hold: null,
    names: {},
    looks: {},
    groups: [],
    notes: [],
    views: [],
  };
}

export function emptyJob(name: string, units: Job["units"] = "mm"): Job {
  return {
    format: FORMAT,
    version: FORMAT_VERSION,
    name,
    units,
    parameters: [],
    materials: [],
    files: [],
    parts: [emptyPart("part1", "Part 1")],
    fits: [],
    follow: false,
    kept: {},
  };
}
