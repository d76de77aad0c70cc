import type * as z from "zod";
import { type FieldProblems, formulasIn, mapFormulas, resolveQuantities, type Scope } from "../params";
import { elsewhereIn, filesIn, referencesIn } from "../references";
import type { Dimension } from "../sketch";
import type { Field, StepType } from "./declare";
import { stepType } from "./registry";

/** A step as a document holds it. */
type StepLike = { id: string; type: string } & Record<string, unknown>;

/** A step with every number field worked out to millimetres, degrees or a count, and what is wrong by field. */
export function resolveStep<T extends StepLike>(step: T, scope: Scope): { step: T; problems: FieldProblems } {
  const type = stepType(step.type);
  if (!type) return { step, problems: {} };
  const { values, problems } = resolveQuantities(type.schema, activeValues(step), scope);
  return { step: values, problems };
}

/** The fields of a step that its form shows: those whose conditions hold. */
export function shownFields(step: StepLike): Field[] {
  const active = activeValues(step);
  return (stepType(step.type)?.fields ?? [])
    .filter((field) => isShown(field, active))
    .map((field) => called(field, active));
}

/** A field as it is called with the values that there are. */
function called<F extends Field>(field: F, values: Record<string, unknown>): F {
  const label = field.labels?.of[String(values[field.labels.key])];
  return label ? { ...field, label } : field;
}

const isShown = ({ when }: Field, values: Record<string, unknown>) =>
  (when ? [when].flat() : []).every((condition) =>
    "is" in condition
      ? condition.is.includes(String(values[condition.key]))
      : condition.any.some((key) => Array.isArray(values[key]) && (values[key] as unknown[]).length > 0),
  );

/** A step as it acts: what its form does not show is as if it had never been filled in. */
export function activeValues<T extends StepLike>(step: T): T {
  const type = stepType(step.type);
  if (!type) return step;
  let active = step;
  for (const [key, fields] of conditionalOf(type)) {
    if (fields.some((field) => isShown(field, active))) continue;
    const initial = initialOf(type, key);
    if (initial === undefined || active[key] === undefined) continue;
    if (active === step) active = { ...step };
    (active as Record<string, unknown>)[key] = initial.value;
  }
  return active;
}

const conditionals = new WeakMap<StepType, [key: string, fields: Field[]][]>();

/** The values that do not count at all times, with the fields that ask for them: a value counts where one of its fields is shown. */
function conditionalOf(type: StepType): [key: string, fields: Field[]][] {
  let known = conditionals.get(type);
  if (!known) {
    const byKey = new Map<string, Field[]>();
    for (const field of type.fields) byKey.set(field.key, [...(byKey.get(field.key) ?? []), field]);
    known = [...byKey].filter(([, fields]) => fields.every(({ when }) => when));
    conditionals.set(type, known);
  }
  return known;
}

/** The items and steps that a step needs, as it acts: by id. */
export function refsOf(step: StepLike): string[] {
  const type = stepType(step.type);
  return type ? referencesIn(type.schema, activeValues(step)).all : [];
}

/** The other parts of the job that a step needs, as it acts: by id. */
export function partsOf(step: StepLike): string[] {
  const type = stepType(step.type);
  return type ? elsewhereIn(type.schema, activeValues(step)).parts : [];
}

/** What a step that is resolved needs, and what its result depends on beside that. */
export function needsOf(type: StepType, step: StepLike) {
  const { all, steps } = referencesIn(type.schema, step);
  return {
    /** Items and steps, by id. */
    refs: all,
    /** Of those, the steps that it does again elsewhere. */
    repeats: steps,
    /** Imported files, by id. */
    files: filesIn(type.schema, step),
    /** Other parts of the job by id, and what of them. */
    elsewhere: elsewhereIn(type.schema, step),
    values: ownValues(type, step),
  };
}

/** Whether what a step makes comes from a file. */
export const bringsIn = (type: StepType): boolean => type.fields.some(({ kind }) => kind === "file");

/** The values of a step's kind that its result depends on: not what it is called, and in which group it stands. */
function ownValues(type: StepType, step: StepLike): Record<string, unknown> {
  const values: Record<string, unknown> = {};
  for (const key of Object.keys(shapeOf(type))) if (!type.asides?.includes(key)) values[key] = step[key];
  return values;
}

/** The values of a kind of step, by their keys. */
const shapeOf = ({ schema }: StepType) => (schema as unknown as { shape: Record<string, z.ZodType> }).shape;

/** A step as written, with the values that it does not have filled in, as far as its kind has defaults for them. */
export function withDefaults<T extends { type: string } & Record<string, unknown>>(step: T): T {
  const type = stepType(step.type);
  if (!type) return step;
  let whole: T = step;
  for (const key of Object.keys(shapeOf(type))) {
    const initial = step[key] === undefined ? initialOf(type, key) : undefined;
    if (initial === undefined || initial.value === undefined) continue;
    if (whole === step) whole = { ...step };
    // Each step has lists of its own: who edits one does not edit all.
    (whole as Record<string, unknown>)[key] = structuredClone(initial.value);
  }
  return whole;
}

const initials = new WeakMap<StepType, Map<string, { value: unknown } | undefined>>();

/** What a field is when nobody fills it in; undefined for one that has to be. */
function initialOf(type: StepType, key: string): { value: unknown } | undefined {
  let known = initials.get(type);
  if (!known) {
    known = new Map();
    initials.set(type, known);
  }
  if (!known.has(key)) {
    const schema = shapeOf(type)[key];
    const empty = schema?.safeParse(undefined);
    known.set(key, empty?.success ? { value: empty.data } : undefined);
  }
  return known.get(key);
}

/** Every formula of a step, by the path of its field. */
export function stepFormulas(step: StepLike): { path: string; formula: string }[] {
  const type = stepType(step.type);
  return type ? formulasIn(type.schema, step) : [];
}

/** A step with its formulas changed. */
export function mapStepFormulas<T extends StepLike>(step: T, change: (formula: string) => string): T {
  const type = stepType(step.type);
  return type ? mapFormulas(type.schema, step, change) : step;
}

/** What a form calls the field at a path: `Size X` for `size.0`, `Dimension width` for a sketch's own. */
export function fieldLabel(step: StepLike, path: string): string {
  const [key, part] = path.split(".");
  if (step.type === "sketch" && key === "dimensions") {
    const { name, id } = (step.dimensions as Dimension[])[Number(part)]!;
    return `Dimension ${name ?? id}`;
  }
  const field = stepType(step.type)?.fields.find((candidate) => candidate.key === key);
  if (!field) return path;
  if (field.kind === "points" && part !== undefined) {
    const [, , what, axis] = path.split(".");
    return `Point ${Number(part) + 1}${what === "at" ? ` ${"XYZ"[Number(axis)]}` : ""}`;
  }
  if (field.kind !== "point" || part === undefined) return field.label;
  return `${field.label} ${(field.labels ?? ["X", "Y", "Z"])[Number(part)]}`;
}
