import { applyPatches, current, enablePatches, type Patch, produceWithPatches } from "immer";
import * as z from "zod";
import { fail } from "../errors";
import { partsOf } from "../steps";
import { emptyPart, type Job, type Part, type Step } from "./document";
import { settleLinks } from "./links/settle";
import type { Look, Note } from "./looks";
import { checkJob } from "./parse";

enablePatches();

/** One edit: what it is called, and how to do and undo it. */
export interface Change {
  label: string;
  patches: Patch[];
  inverse: Patch[];
}

export const patchSchema = z.object({
  op: z.enum(["replace", "remove", "add"]),
  path: z.array(z.union([z.string().max(700), z.number().int().min(0)])).max(40),
  value: z.unknown().optional(),
});
export const patchesSchema = z.array(patchSchema).min(1).max(5000);

/** Makes a change by editing a draft, and what follows from it for what was brought in; null when nothing changed. */
export function makeChange(job: Job, label: string, edit: (draft: Job) => void): { job: Job; change: Change } | null {
  const [next, patches, inverse] = produceWithPatches(job, (draft) => {
    edit(draft);
    if (current(draft) === job) return;
    settleLinks(draft, job);
  });
  return patches.length === 0 ? null : { job: next, change: { label, patches, inverse } };
}

/**
 * Applies patches and checks the result as a whole. `asSent` tells whether the result is just what the patches make of the
 * job: checking fills in what a sender left out.
 * @throws SeamError when they do not fit or leave no valid job.
 */
export function applyChange(job: Job, patches: readonly Patch[]): { job: Job; inverse: Patch[]; asSent: boolean } {
  if (
    patches.some((patch) =>
      patch.path.some((key) => key === "__proto__" || key === "constructor" || key === "prototype"),
    )
  )
    fail("change-invalid", "The change does not fit this job.");
  let next: Job;
  let inverse: Patch[];
  try {
    [next, , inverse] = produceWithPatches(job, (draft) => {
      for (const patch of patches) {
        if (!fits(draft, patch)) fail("change-invalid", "The change does not fit this job. Load the job again.");
        applyPatches(draft, [patch as Patch]);
      }
    });
  } catch {
    fail("change-invalid", "The change does not fit this job. Load the job again.");
  }
  const sent = JSON.stringify(next);
  const made = checkJob(JSON.parse(sent));
  return { job: made, inverse, asSent: sameJson(JSON.parse(sent), made) };
}

/** Whether two values written as JSON are the same, in whatever order their names stand. */
function sameJson(a: unknown, b: unknown): boolean {
  if (Object.is(a, b)) return true;
  if (typeof a !== "object" || typeof b !== "object" || a === null || b === null) return false;
  if (Array.isArray(a) !== Array.isArray(b)) return false;
  const [one, two] = [Object.entries(a), Object.keys(b)];
  const has = b as Record<string, unknown>;
  const wanted = one.filter(([, value]) => value !== undefined);
  return (
    wanted.length === two.filter((key) => has[key] !== undefined).length &&
    wanted.every(([key, value]) => Object.hasOwn(b, key) && sameJson(value, has[key]))
  );
}

/**
 * Whether a patch has a place in a value: every step of its path is there, and in a list it touches what is there or the
 * next place, so that no list grows by more than what is put into it.
 */
function fits(value: unknown, { op, path, value: put }: Patch): boolean {
  let at = value;
  for (const key of path.slice(0, -1)) {
    if (typeof at !== "object" || at === null || !Object.hasOwn(at, key)) return false;
    at = (at as Record<PropertyKey, unknown>)[key];
  }
  const last = path.at(-1);
  if (last === undefined || typeof at !== "object" || at === null) return false;
  if (!Array.isArray(at)) return op === "add" || Object.hasOwn(at, last);
  if (last === "length")
    return op === "replace" && Number.isInteger(put) && (put as number) >= 0 && (put as number) <= at.length;
  const place = typeof last === "number" ? last : /^\d+$/.test(String(last)) ? Number(last) : -1;
  return place >= 0 && place < at.length + (op === "add" ? 1 : 0);
}

/** The edits that the interface makes. Each edits the draft in place. */
export const edits = {
  addStep(part: Part, step: Step): void {
    // New work goes to the hold point, where the part is built up to, and the hold point moves on with it.
    const at = part.hold === null ? part.steps.length : part.steps.findIndex((other) => other.id === part.hold) + 1;
    part.steps.splice(at, 0, step);
    if (part.hold !== null) part.hold = step.id;
  },
  setStep(part: Part, id: string, values: Record<string, unknown>): void {
    Object.assign(stepOf(part, id), values);
  },
  removeStep(part: Part, id: string): void {
    const at = part.steps.findIndex((step) => step.id === id);
    if (at < 0) return;
    part.steps.splice(at, 1);
    if (part.hold === id) part.hold = part.steps[at - 1]?.id ?? null;
  },
  moveStep(part: Part, id: string, to: number): void {
    const at = part.steps.findIndex((step) => step.id === id);
    if (at < 0) return;
    const [step] = part.steps.splice(at, 1);
    part.steps.splice(Math.max(0, Math.min(to, part.steps.length)), 0, step!);
    settleGroup(part, step!);
  },
  setHold(part: Part, id: string | null): void {
    part.hold = id !== null && part.steps[part.steps.length - 1]?.id === id ? null : id;
  },
  suppress(part: Part, id: string, suppressed: boolean): void {
    stepOf(part, id).suppressed = suppressed;
  },
  renameStep(part: Part, id: string, name: string): void {
    const step = stepOf(part, id);
    if (name.trim()) step.name = name.trim();
    else delete step.name;
  },
  renameBody(part: Part, body: string, name: string): void {
    if (name.trim()) part.names[body] = name.trim();
    else delete part.names[body];
  },
};

/** A step that was moved belongs to the group that it came to stand in, and to none that it left. */
function settleGroup(part: Part, step: Step): void {
  const at = part.steps.indexOf(step);
  const [above, below] = [part.steps[at - 1]?.group, part.steps[at + 1]?.group];
  if (above !== undefined && above === below) step.group = above;
  else if (step.group !== above && step.group !== below) delete step.group;
}

/** Steps beside each other that belong together. */
export interface GroupRun {
  name: string;
  ids: string[];
}

/** The groups of a sheet, in its order. Steps of one group that others stand between are two runs. */
export function groupRuns(steps: readonly Step[]): GroupRun[] {
  const runs: GroupRun[] = [];
  steps.forEach(({ id, group }, at) => {
    if (group === undefined) return;
    if (at > 0 && steps[at - 1]!.group === group) runs.at(-1)!.ids.push(id);
    else runs.push({ name: group, ids: [id] });
  });
  return runs;
}

/** A body by its id, and by those that it had before it was changed. */
interface Known {
  id: string;
  was: readonly string[];
}

/** The edits of how bodies look and of what is written of them. */
export const lookEdits = {
  /** Gives a body a look of its own; one that it has from before it was changed stays with what else came of that. */
  setLook(part: Part, { id, was }: Known, look: Look): void {
    const kept = Object.fromEntries(Object.entries(look).filter(([, value]) => value !== undefined && value !== false));
    const inherits = was.some((before) => before in part.looks);
    if (inherits || Object.keys(kept).length > 0) part.looks[id] = kept;
    else delete part.looks[id];
  },
  /**
   * Puts a body into a group, which is made where there is none of the name, and out of any other. Empty groups go.
   * @param others the other bodies of the part: what it was before, some of them may have been, too.
   */
  setGroup(part: Part, body: Known, others: readonly Known[], name: string | null): void {
    for (const group of part.groups)
      group.bodies = [
        ...new Set(
          group.bodies.flatMap((id) => {
            if (id === body.id) return [];
            if (!body.was.includes(id)) return [id];
            return others.filter(({ was }) => was.includes(id)).map((other) => other.id);
          }),
        ),
      ];
    const wanted = name?.trim();
    if (wanted) {
      const group = part.groups.find((other) => other.name === wanted);
      if (group) group.bodies.push(body.id);
      else part.groups.push({ name: wanted, bodies: [body.id] });
    }
    part.groups = part.groups.filter(({ bodies }) => bodies.length > 0);
  },
  setNote(part: Part, note: Note): void {
    const at = part.notes.findIndex(({ id }) => id === note.id);
    if (!note.text.trim()) part.notes = part.notes.filter(({ id }) => id !== note.id);
    else if (at < 0) part.notes.push(note);
    else part.notes[at] = note;
  },
};

/** The edits of the build sheet beyond single steps. */
export const sheetEdits = {
  /**
   * Puts a copy of a step after it, under an id of its own. A copy makes the same again beside the first; what it changes, it
   * changes once more.
   */
  copyStep(part: Part, id: string, job: Job): string {
    const at = part.steps.findIndex((step) => step.id === id);
    const step = stepOf(part, id);
    const copy = { ...structuredClone(JSON.parse(JSON.stringify(step)) as Step), id: freshStepId(part, job) };
    if (step.name) copy.name = `${step.name} copy`.slice(0, 120);
    part.steps.splice(at + 1, 0, copy);
    if (part.hold === id) part.hold = copy.id;
    return copy.id;
  },
  /** Puts a step into the group of the one before it, or begins one; out of it with null. */
  groupStep(part: Part, id: string, name: string | null): void {
    const step = stepOf(part, id);
    if (name?.trim()) step.group = name.trim();
    else delete step.group;
  },
  /** Calls a run of steps that are folded up together something else; takes them apart with nothing. */
  renameGroup(part: Part, ids: readonly string[], name: string): void {
    for (const id of ids) sheetEdits.groupStep(part, id, name);
  },
};

function stepOf(part: Part, id: string): Step {
  return part.steps.find((step) => step.id === id) ?? fail("step-gone", "That step is no longer on the sheet.");
}

/** Adds an empty part and returns its id: one that nothing in the job names, not even what named a part that is gone. */
export function addPart(job: Job, name: string): string {
  const id = `part${1 + highest(/\bpart(\d+)\b/g, job)}`;
  job.parts.push(emptyPart(id, name));
  return id;
}

/** Takes a part out of a job; the last one stays. What is brought in from it elsewhere says so from then on. */
export function removePart(job: Job, id: string): void {
  if (job.parts.length > 1) job.parts = job.parts.filter((part) => part.id !== id);
}

/**
 * An id that no step of the part has, and that nothing names which meant one that is gone: it would mean this one from then on. Nor does what
 * other parts bring in from it, nor a fit that is wanted of its bodies.
 */
export function freshStepId(part: Part, job: Job): string {
  const elsewhere = job.parts.flatMap((other) =>
    other.id === part.id ? [] : other.steps.filter((step) => partsOf(step).includes(part.id)),
  );
  const fits = job.fits.filter(({ one, other }) => one.part === part.id || other.part === part.id);
  return `s${1 + Math.max(part.steps.length, highest(/\bs(\d+)\b/g, [part, elsewhere, fits]))}`;
}

/**
 * Every name with a number that stands anywhere in a part, as of curves and points: also of such that are gone, where something
 * still means them. What is drawn anew must not be called so.
 */
export function namesUsed(part: Part): Set<string> {
  return new Set(JSON.stringify(part).match(/\b[A-Za-z]+\d+\b/g));
}

/** The highest number by which something in a document is called; 0 where there is none. */
function highest(name: RegExp, document: unknown): number {
  let most = 0;
  for (const [, digits] of JSON.stringify(document).matchAll(name)) {
    const number = Number(digits);
    if (number < 1e9) most = Math.max(most, number);
  }
  return most;
}
