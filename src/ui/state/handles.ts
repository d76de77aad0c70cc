import type { Job, Part, Step } from "@/core/job";
import { FormulaError, type ParameterScope, type Quantity, quantityValue } from "@/core/params";
import type { ItemView } from "@/engine/contract";
import type { Found } from "./whereabouts";
import type { WorkspaceStore } from "./workspace-store";

/** A number of a step that is set in the view, along a line from a place. */
export interface Handle {
  /** The step that has it, which need not be the one that is open, and its field. */
  step: string;
  field: string;
  /** What it moves: its id, and what it is called. */
  item: string;
  name: string;
  at: readonly [number, number, number];
  /** Of length 1: the way in which the number grows. */
  way: readonly [number, number, number];
  /** mm */
  value: number;
  /** How it is written, where that is a formula: it is not dragged over. */
  formula: string | null;
}

/** A number that is being dragged: shown, and not yet kept. */
export interface Dragged {
  step: string;
  set: Record<string, unknown>;
}

/** A job with a number as it is being dragged. */
export function withDragged(job: Job, part: string, dragged: Dragged | null): Job {
  if (!dragged) return job;
  const changed = (step: Step) => (step.id === dragged.step ? { ...step, ...dragged.set } : step);
  return {
    ...job,
    parts: job.parts.map((one) => (one.id === part ? { ...one, steps: one.steps.map(changed) } : one)),
  };
}

/** A number by itself, with or without its unit: anything else says more than a number. */
const NUMBER = /^\s*-?\d*\.?\d+\s*(mm)?\s*$/;

/** The planes that the open step cuts with, or is, each with its offset. */
export function handlesOf(
  { editing, evaluation, dragged }: Pick<WorkspaceStore, "editing" | "evaluation" | "dragged">,
  part: Part,
  found: Found,
  scope: ParameterScope,
): Handle[] {
  if (!editing || !evaluation) return [];
  const open = editing.step;
  const planes = planesOf(open, open.type === "workplane" ? evaluation.items : (evaluation.before ?? []), found);
  return planes.flatMap((plane): Handle[] => {
    const kept = part.steps.find(({ id }) => id === plane.step);
    const step = open.id === plane.step ? open : kept;
    if (step?.type !== "workplane") return [];
    const written = (dragged?.step === step.id ? dragged.set.offset : step.offset) as Quantity;
    const value = lengthOf(written, scope);
    if (value === null) return [];
    const plain = typeof written === "number" || NUMBER.test(String(written));
    const sign = step.flip === true ? -1 : 1;
    return [
      {
        step: step.id,
        field: "offset",
        item: plane.id,
        name: plane.name,
        at: plane.origin,
        way: plane.normal.map((x) => sign * x) as unknown as Handle["way"],
        value,
        formula: plain ? null : String(written),
      },
    ];
  });
}

type Plane = Extract<ItemView, { kind: "workplane" }>;

function planesOf(open: Step, items: readonly ItemView[], found: Found): Plane[] {
  const planes = items.filter((item): item is Plane => item.kind === "workplane");
  if (open.type === "workplane") return planes.filter(({ step }) => step === open.id);
  if (open.type !== "seam") return [];
  const ids = new Set(found.items((open.cutters ?? []) as string[]));
  return planes.filter(({ id, step }) => ids.has(id) || ids.has(step));
}

function lengthOf(written: Quantity, scope: ParameterScope): number | null {
  try {
    return quantityValue(written, "length", scope);
  } catch (cause) {
    if (cause instanceof FormulaError) return null;
    throw cause;
  }
}

/** Steps that a number is dragged in, mm: the finest that is some pixels long. @param perMm pixels of a millimetre along its line. */
export function stepFor(perMm: number): number {
  const least = 4 / Math.max(perMm, 1e-6);
  return [0.01, 0.05, 0.1, 0.5, 1, 5, 10, 50].find((step) => step >= least) ?? 100;
}

/** A number where it has been dragged to, on a grid of its steps. */
export const draggedTo = (value: number, by: number, step: number): number =>
  Number((Math.round((value + by) / step) * step).toFixed(4));
