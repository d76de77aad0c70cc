import { fail } from "../errors";
import { type StepUpgrade, stepType } from "../steps";
import { withDefaults } from "../steps/values";

type Written = Record<string, unknown>;

/** A change of how jobs are written, outside of their steps: what the release before wrote, to what is written since. */
interface JobUpgrade {
  name: string;
  up(job: Written): Written;
}

const eachPart = (job: Written, change: (part: Written) => Written): Written => ({
  ...job,
  parts: Array.isArray(job.parts) ? job.parts.map((part) => (isObject(part) ? change(part) : part)) : job.parts,
});

/**
 * In order, and never changed once they have landed: a job of any release goes through those that came after it. All so far
 * only put in what was not there before, so that no job has to say where it stands: they are done to every job.
 */
const JOB_UPGRADES: readonly JobUpgrade[] = [
  {
    name: "parameters",
    up: (job) => eachPart({ parameters: [], ...job }, (part) => ({ parameters: [], ...part })),
  },
  {
    name: "looks, groups, notes and materials",
    up: (job) => eachPart({ materials: [], ...job }, (part) => ({ looks: {}, groups: [], notes: [], ...part })),
  },
];

/**
 * A job as any release wrote it, in the form of this one: its own fields, then each step through the upgrades of its kind
 * that it has not been through (`stepVersions` says how far it was), and with the values that its kind has got since. What
 * is no job is left for the schema to refuse.
 * @throws SeamError `job-newer` where a later release wrote it.
 */
export function upgradeJob<T>(stored: T, upgradesOf = knownUpgrades): T {
  if (!isObject(stored)) return stored;
  const job = JOB_UPGRADES.reduce<Written>((value, { up }) => up(value), stored);
  const versions = isObject(job.stepVersions) ? job.stepVersions : {};
  const now: Record<string, number> = {};
  for (const [type, version] of Object.entries(versions)) refuseNewer(type, version, upgradesOf(type).length);
  const upgraded = eachPart(job, (part) => ({
    ...part,
    steps: Array.isArray(part.steps)
      ? part.steps.map((step) => (isObject(step) ? upgradeStep(step, versions, now, upgradesOf) : step))
      : part.steps,
  }));
  const { stepVersions: _before, ...rest } = upgraded;
  return (Object.keys(now).length > 0 ? { ...rest, stepVersions: now } : rest) as T;
}

const knownUpgrades = (type: string): readonly StepUpgrade[] => stepType(type)?.upgrades ?? [];

function upgradeStep(
  step: Written,
  versions: Written,
  now: Record<string, number>,
  upgradesOf: (type: string) => readonly StepUpgrade[],
): Written {
  const { type } = step;
  if (typeof type !== "string" || !stepType(type)) return step;
  const upgrades = upgradesOf(type);
  if (upgrades.length > 0) now[type] = upgrades.length;
  const from = typeof versions[type] === "number" ? versions[type] : 0;
  return withDefaults(upgrades.slice(from).reduce((values, { up }) => up(values), step) as Written & { type: string });
}

function refuseNewer(type: string, version: unknown, known: number): void {
  if (typeof version !== "number" || version <= known) return;
  const label = stepType(type)?.words.label ?? type;
  fail(
    "job-newer",
    `This job was saved by a newer release of the program, which writes the step “${label}” in another way. Open it with that release.`,
  );
}

const isObject = (value: unknown): value is Written =>
  typeof value === "object" && value !== null && !Array.isArray(value);
