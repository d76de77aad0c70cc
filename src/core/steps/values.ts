import { type FieldProblems, formulasIn, mapFormulas, resolveQuantities, type Scope } from "../params";
import type { Dimension } from "../sketch";
import { stepType } from "./registry";

/** A step as a document holds it. */
type StepLike = { id: string; type: string } & Record<string, unknown>;

/** A step with every number field worked out to millimetres, degrees or a count, and what is wrong by field. */
export function resolveStep<T extends StepLike>(step: T, scope: Scope): { step: T; problems: FieldProblems } {
  const type = stepType(step.type);
  if (!type) return { step, problems: {} };
  const { values, problems } = resolveQuantities(type.schema, step, scope);
  return { step: values, problems };
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
  if (field.kind !== "point" || part === undefined) return field.label;
  return `${field.label} ${(field.labels ?? ["X", "Y", "Z"])[Number(part)]}`;
}
