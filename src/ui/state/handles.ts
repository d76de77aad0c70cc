import { type Job, type Owner, parametersOf, type Step } from "@/core/job";
import { FormulaError, isFormula, type Parameter, type Quantity, quantityValue, type Scope } from "@/core/params";
import { resolveStep, stepType } from "@/core/steps";
import { type HandlePlace, handlePlaces, type Surroundings } from "@/core/steps/handles";
import type { ItemView } from "@/engine/contract";
import { problemsOf, scopeIn } from "./open-values";
import type { Found } from "./whereabouts";
import type { WorkspaceStore } from "./workspace-store";

/** A number of a step that is set in the view, along a line from a place. */
export interface Handle extends Omit<HandlePlace, "moves"> {
  /** The step that has it, which need not be the one that is open. */
  step: string;
  /** What it belongs to, as it is called. */
  name: string;
  /** mm or degrees */
  value: number;
  /** How it is written, where that is a formula: it is not dragged over. */
  formula: string | null;
  /** The parameter that it is: that is what is dragged, and all that uses it follows. */
  parameter: NumberParameter | null;
}

/** A parameter that is a number by itself. */
interface NumberParameter {
  owner: Owner;
  name: string;
  unit: "mm" | "in" | "deg";
}

/** A number that is being dragged, of a step or as a parameter: shown, and not yet kept. */
export type Dragged = { step: string; set: Record<string, unknown> } | { parameter: NumberParameter; value: number };

/** A job with a number as it is being dragged. */
export function withDragged(job: Job, part: string, dragged: Dragged | null): Job {
  if (!dragged) return job;
  if ("parameter" in dragged) {
    const { owner, name } = dragged.parameter;
    const set = (list: Parameter[]) =>
      list.map((one) => (one.name === name ? { ...one, formula: dragged.value } : one));
    return owner === "job"
      ? { ...job, parameters: set(job.parameters) }
      : {
          ...job,
          parts: job.parts.map((one) => (one.id === owner.part ? { ...one, parameters: set(one.parameters) } : one)),
        };
  }
  const changed = (step: Step) => (step.id === dragged.step ? { ...step, ...dragged.set } : step);
  return {
    ...job,
    parts: job.parts.map((one) => (one.id === part ? { ...one, steps: one.steps.map(changed) } : one)),
  };
}

/**
 * The numbers of the open step that stand in space, and where the things are that it cuts with.
 * @param job with what is being dragged.
 */
export function handlesOf(
  { editing, evaluation }: Pick<WorkspaceStore, "editing" | "evaluation">,
  job: Job,
  part: string,
  found: Found,
): Handle[] {
  if (!editing || !evaluation) return [];
  const open = editing.step;
  const steps = job.parts.find(({ id }) => id === part)!.steps;
  const size = sizeOf(evaluation.items);
  if (open.type !== "seam") return handlesIn(open, evaluation.items, size, job, part);
  const before = evaluation.before ?? [];
  const ids = new Set(found.items((open.cutters ?? []) as string[]));
  const makers = new Set(before.flatMap(({ id, step }) => (ids.has(id) || ids.has(step) ? [step] : [])));
  return steps.filter(({ id }) => makers.has(id)).flatMap((step) => handlesIn(step, before, size, job, part, true));
}

/** @param whole only of what moves the whole of what the step makes. */
function handlesIn(
  step: Step,
  items: readonly ItemView[],
  size: number,
  job: Job,
  part: string,
  whole = false,
): Handle[] {
  const scope = scopeIn(job, part);
  const { step: values, problems } = resolveStep(step, scope);
  if (Object.keys(problems).length > 0) return [];
  const own = items.filter((item) => item.step === step.id);
  const places = handlePlaces(step, values, surroundings(step.id, own, size));
  const name = own.length === 1 ? own[0]!.name : (step.name ?? stepType(step.type)?.words.label ?? "");
  return places.flatMap(({ moves, ...place }): Handle[] => {
    if (whole && !moves) return [];
    const written = writtenIn(step, place);
    const value = numberIn(written, place.kind, scope);
    if (value === null) return [];
    const parameter = parameterIn(written, place.kind, job, part);
    const plain = parameter !== null || !isFormula(written, place.kind);
    return [{ ...place, step: step.id, name, value, parameter, formula: plain ? null : String(written) }];
  });
}

/** The parameter that a number is written as, by itself, where that is a number itself. */
function parameterIn(written: Quantity, kind: Handle["kind"], job: Job, part: string): NumberParameter | null {
  const name = typeof written === "string" ? written.trim() : "";
  const owners: Owner[] = [{ part }, "job"];
  for (const owner of owners) {
    const found = parametersOf(job, owner).find((one) => one.name === name);
    if (!found) continue;
    const { unit, formula } = found;
    const fits = kind === "angle" ? unit === "deg" : unit === "mm" || unit === "in";
    return fits && unit !== "" && !isFormula(formula, kind) ? { owner, name, unit } : null;
  }
  return null;
}

/** A value as a parameter has it, in its own unit. */
export const inUnit = ({ unit }: NumberParameter, value: number): number =>
  unit === "in" ? Number((value / 25.4).toFixed(6)) : value;

function surroundings(step: string, own: readonly ItemView[], size: number): Surroundings {
  return {
    step,
    bodies: own.flatMap((item) =>
      item.kind === "solid" || item.kind === "sheet" ? [{ faces: item.faces, box: item.measures.box }] : [],
    ),
    planes: own.flatMap((item) => (item.kind === "workplane" ? [item] : [])),
    size,
  };
}

/** How large what is shown is, mm. */
function sizeOf(items: readonly ItemView[]): number {
  const boxes = items.flatMap((item) =>
    (item.kind === "solid" || item.kind === "sheet") && item.measures.box ? [item.measures.box] : [],
  );
  const spans = [0, 1, 2].map(
    (k) => Math.max(0, ...boxes.map(({ max }) => max[k]!)) - Math.min(0, ...boxes.map(({ min }) => min[k]!)),
  );
  return Math.hypot(...spans) || 100;
}

type Placed = Pick<Handle, "field" | "index">;

function writtenIn(step: Step, { field, index }: Placed): Quantity {
  const written = step[field] as Quantity | Quantity[];
  return index === undefined ? (written as Quantity) : (written as Quantity[])[index]!;
}

/** The values of a step with one of its numbers set. */
export function withNumber(step: Step, { field, index }: Placed, value: number): Record<string, unknown> {
  if (index === undefined) return { [field]: value };
  return { [field]: (step[field] as Quantity[]).map((one, i) => (i === index ? value : one)) };
}

/** Whether a step may have a number: a diameter below nothing is not dragged to. */
export function mayBe(step: Step, place: Placed, value: number, scope: Scope): boolean {
  const { field, index } = place;
  const problems = problemsOf({ ...step, ...withNumber(step, place, value) }, scope);
  return !((index === undefined ? field : `${field}.${index}`) in problems);
}

function numberIn(written: Quantity, kind: Handle["kind"], scope: Scope): number | null {
  try {
    return quantityValue(written, kind, scope);
  } catch (cause) {
    if (cause instanceof FormulaError) return null;
    throw cause;
  }
}

const STEPS = { length: [0.01, 0.05, 0.1, 0.5, 1, 5, 10, 50, 100], angle: [0.1, 0.5, 1, 5, 15] };

/** Steps that a number is dragged in, mm or degrees: the finest that is some pixels long. @param perUnit pixels of one along its line. */
export function stepFor(perUnit: number, kind: Handle["kind"] = "length"): number {
  const least = 4 / Math.max(perUnit, 1e-6);
  return STEPS[kind].find((step) => step >= least) ?? STEPS[kind].at(-1)!;
}

/** A number where it has been dragged to, on a grid of its steps. */
export const draggedTo = (value: number, by: number, step: number): number =>
  Number((Math.round((value + by) / step) * step).toFixed(4));
