import { fail } from "../errors";
import {
  formatMeasured,
  formulasIn,
  mapFormulas,
  namesUsed,
  type Parameter,
  ParameterScope,
  renameIn,
  UNIT_SIZE,
} from "../params";
import { placeSchema } from "../place";
import type { Dimension } from "../sketch";
import { fieldLabel, mapStepFormulas, stepFormulas } from "../steps/values";
import type { Job, Part } from "./document";

/** Whose parameters: the whole job's, or one part's by its id. */
export type Owner = { part: string } | "job";

/** A place that a parameter is used in. */
export type Use =
  | { kind: "parameter"; owner: Owner; name: string }
  | { kind: "field"; part: string; step: string; path: string; label: string }
  /** A wanted fit, by its place in the job's list. */
  | { kind: "fit"; place: number; of: "least" | "most" }
  /** A number of where a part stands: by the place's position in its list, and the path of the number in it. */
  | { kind: "place"; part: string; place: number; path: string };

export function parametersOf(job: Job, owner: Owner): Parameter[] {
  return owner === "job" ? job.parameters : partOf(job, owner.part).parameters;
}

/** The names that formulas of a part can use: the job's and its own parameters, and named dimensions of its sketches. */
export function scopeOf(
  job: Pick<Job, "parameters">,
  part: { parameters: Part["parameters"]; steps?: Part["steps"] } | undefined,
): ParameterScope {
  return new ParameterScope(job.parameters, [
    ...(part?.parameters ?? []),
    ...(part?.steps ?? []).flatMap(dimensionsOf),
  ]);
}

/** A sketch's dimension is called by the sketch's id and its own name: `plate.width`. */
function dimensionsOf(step: Part["steps"][number]): Parameter[] {
  if (step.type !== "sketch") return [];
  return (step.dimensions as Dimension[]).flatMap(({ name, type, value, measured }) =>
    name && !measured
      ? [{ name: `${step.id}.${name}`, unit: type === "angle" ? "deg" : "mm", formula: value, note: "" }]
      : [],
  );
}

/** Everything that uses a parameter: other parameters, and number fields of steps. */
export function usesOf(job: Job, owner: Owner, name: string): Use[] {
  const uses: Use[] = [];
  const inside = (list: readonly Parameter[], where: Owner) => {
    for (const other of list)
      if (namesUsed(other.formula).includes(name) && !(other.name === name && sameOwner(where, owner)))
        uses.push({ kind: "parameter", owner: where, name: other.name });
  };
  if (owner === "job") inside(job.parameters, "job");
  if (owner === "job")
    for (const [place, fit] of job.fits.entries())
      for (const bound of ["least", "most"] as const)
        if (namesUsed(fit[bound]).includes(name)) uses.push({ kind: "fit", place, of: bound });
  for (const part of job.parts) {
    if (owner !== "job" && owner.part !== part.id) continue;
    const hidden = owner === "job" && part.parameters.some((parameter) => parameter.name === name);
    // A part's own parameter of the same name hides the job's, but for its own formula.
    inside(hidden ? part.parameters.filter((parameter) => parameter.name === name) : part.parameters, {
      part: part.id,
    });
    if (hidden) continue;
    for (const [place, values] of part.places.entries())
      for (const { path, formula } of formulasIn(placeSchema, values))
        if (namesUsed(formula).includes(name)) uses.push({ kind: "place", part: part.id, place, path });
    for (const step of part.steps)
      for (const { path, formula } of stepFormulas(step))
        if (namesUsed(formula).includes(name))
          uses.push({ kind: "field", part: part.id, step: step.id, path, label: fieldLabel(step, path) });
  }
  return uses;
}

/** Gives a parameter another name, in every formula that uses it too. */
export function renameParameter(job: Job, owner: Owner, from: string, to: string): void {
  const list = parametersOf(job, owner);
  const parameter = list.find((candidate) => candidate.name === from);
  if (!parameter || from === to) return;
  if (list.some((other) => other.name === to)) fail("parameter-taken", `There is a parameter “${to}” already.`);
  refuseCapture(job, owner, from, to);
  replaceName(job, owner, from, (formula) => renameIn(formula, from, to));
  parameter.name = to;
}

/** The new name must not come to mean another parameter where the old one is used. */
function refuseCapture(job: Job, owner: Owner, from: string, to: string): void {
  if (owner === "job") {
    for (const use of usesOf(job, owner, from)) {
      const id = partOfUse(use);
      const part = id === null ? null : partOf(job, id);
      if (part?.parameters.some((parameter) => parameter.name === to))
        fail(
          "parameter-taken",
          `The part “${part.name}” has its own “${to}”, which would be meant instead. Choose another name.`,
        );
    }
    return;
  }
  const meant = usesOf(job, "job", to).some((use) => partOfUse(use) === owner.part);
  if (meant) fail("parameter-taken", `This part uses the job's “${to}” already. Choose another name.`);
}

/** The part that a use is in; null for what is the whole job's. */
function partOfUse(use: Use): string | null {
  if (use.kind === "fit") return null;
  if (use.kind === "field" || use.kind === "place") return use.part;
  return use.owner === "job" ? null : use.owner.part;
}

/** Takes a parameter out; where it is used, its value as it is now takes its place. */
export function removeParameter(job: Job, owner: Owner, name: string): void {
  const list = parametersOf(job, owner);
  const at = list.findIndex((candidate) => candidate.name === name);
  if (at < 0) return;
  if (usesOf(job, owner, name).length > 0) {
    const scope = owner === "job" ? new ParameterScope(job.parameters) : scopeOf(job, partOf(job, owner.part));
    const outcome = scope.outcome(name);
    if (!outcome?.ok) fail("parameter-used", `${name} is used and has no value to put in its place. Mend it first.`);
    const text = literalText(outcome.value.value, list[at]!.unit);
    replaceName(job, owner, name, (formula) => renameIn(formula, name, text));
  }
  list.splice(at, 1);
}

/** A value as a formula writes it, exactly. */
function literalText(value: number, unit: Parameter["unit"]): string {
  const number = Number((value / UNIT_SIZE[unit]).toPrecision(15));
  return unit === "" ? `(${number})` : `(${number} ${unit})`;
}

function replaceName(job: Job, owner: Owner, name: string, change: (formula: string) => string): void {
  const uses = usesOf(job, owner, name);
  for (const use of uses) {
    if (use.kind === "parameter") {
      const other = parametersOf(job, use.owner).find((candidate) => candidate.name === use.name)!;
      other.formula = change(String(other.formula));
      continue;
    }
    if (use.kind === "fit") {
      const fit = job.fits[use.place]!;
      fit[use.of] = change(String(fit[use.of]));
      continue;
    }
    const part = partOf(job, use.part);
    if (use.kind === "place") {
      part.places[use.place] = mapFormulas(placeSchema, part.places[use.place]!, change);
      continue;
    }
    const place = part.steps.findIndex((step) => step.id === use.step);
    part.steps[place] = mapStepFormulas(part.steps[place]!, (formula) => change(formula));
  }
}

export function setParameter(job: Job, owner: Owner, name: string, values: Partial<Omit<Parameter, "name">>): void {
  const parameter = parametersOf(job, owner).find((candidate) => candidate.name === name);
  if (!parameter) fail("parameter-gone", `There is no parameter “${name}” any more.`);
  Object.assign(parameter, values);
}

export function addParameter(job: Job, owner: Owner, parameter: Parameter): void {
  const list = parametersOf(job, owner);
  if (list.some((other) => other.name === parameter.name))
    fail("parameter-taken", `There is a parameter “${parameter.name}” already.`);
  list.push(parameter);
}

/** Takes parameters in: those of a known name get the new formula, unit and note, the others are added. */
export function mergeParameters(job: Job, owner: Owner, incoming: readonly Parameter[]): void {
  const list = parametersOf(job, owner);
  for (const parameter of incoming) {
    const known = list.find((other) => other.name === parameter.name);
    if (known) Object.assign(known, parameter);
    else list.push({ ...parameter });
  }
}

/** A name that no parameter of the list has: `value1`, `value2` … */
export function freshParameterName(list: readonly Parameter[]): string {
  for (let n = 1; ; n++) if (!list.some((parameter) => parameter.name === `value${n}`)) return `value${n}`;
}

/** A parameter's value for a person, or why it has none. */
export function parameterText(
  scope: ParameterScope,
  { name, unit }: Parameter,
  owner: Owner,
): { text: string; problem: string | null } {
  const outcome = scope.outcome(name, owner === "job" ? 0 : 1);
  if (!outcome) return { text: "", problem: null };
  return outcome.ok
    ? { text: formatMeasured(outcome.value, unit), problem: null }
    : { text: "", problem: outcome.message };
}

const sameOwner = (a: Owner, b: Owner): boolean => a === b || (a !== "job" && b !== "job" && a.part === b.part);

function partOf(job: Job, id: string): Part {
  return job.parts.find((part) => part.id === id) ?? fail("part-missing", "That part is no longer in the job.");
}
