import { fail } from "../errors";
import { STEP_TYPES, type StepUpgrade, stepType, withDefaults } from "../steps";
import { versionsSchema } from "./document";

type Written = Record<string, unknown>;

/** A change of how jobs are written, outside of their steps: what the release before wrote, to what is written since. */
interface JobUpgrade {
  name: string;
  up(job: Written): Written;
}

/** A change of every part of a job, and of those that it keeps as they were. */
const eachPart = (job: Written, change: (part: Written) => Written): Written => {
  const within = (one: Written): Written => ({
    ...one,
    parts: Array.isArray(one.parts) ? one.parts.map((part) => (isObject(part) ? change(part) : part)) : one.parts,
  });
  const kept = isObject(job.kept)
    ? { kept: Object.fromEntries(Object.entries(job.kept).map(([id, one]) => [id, isObject(one) ? within(one) : one])) }
    : {};
  return { ...within(job), ...kept };
};

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
  { name: "views", up: (job) => eachPart(job, (part) => ({ views: [], ...part })) },
  { name: "fits", up: (job) => ({ fits: [], ...job }) },
  {
    name: "places and links",
    // What was brought in followed at once, and goes on doing so.
    up: (job) => {
      const end = (one: unknown) => (isObject(one) ? { at: "", ...one } : one);
      const fits = Array.isArray(job.fits)
        ? job.fits.map((fit) => (isObject(fit) ? { ...fit, one: end(fit.one), other: end(fit.other) } : fit))
        : job.fits;
      return eachPart({ follow: true, kept: {}, ...job, fits }, (part) => ({ places: [], ...part }));
    },
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
  const versions = versionsSchema.safeParse(job.stepVersions ?? {});
  if (!versions.success) return job as T;
  for (const [type, version] of Object.entries(versions.data)) refuseNewer(type, version, upgradesOf(type).length);
  const from = (type: string) => versions.data[type] ?? 0;
  const { stepVersions: _before, ...upgraded } = eachPart(job, (part) => ({
    ...part,
    steps: Array.isArray(part.steps)
      ? part.steps.map((step) => (isObject(step) ? upgradeStep(step, from, upgradesOf) : step))
      : part.steps,
  }));
  // Of every kind, whether the job has steps of it or not: those that it gets from now on are written as they are written now.
  const now = STEP_TYPES.map(({ type }) => [type, upgradesOf(type).length] as const).filter(
    ([, version]) => version > 0,
  );
  return (now.length > 0 ? { ...upgraded, stepVersions: Object.fromEntries(now) } : upgraded) as T;
}

const knownUpgrades = (type: string): readonly StepUpgrade[] => stepType(type)?.upgrades ?? [];

function upgradeStep(
  step: Written,
  from: (type: string) => number,
  upgradesOf: (type: string) => readonly StepUpgrade[],
): Written {
  const { type } = step;
  if (typeof type !== "string" || !stepType(type)) return step;
  const upgraded = upgradesOf(type)
    .slice(from(type))
    .reduce((values, { up }) => up(values), step);
  return withDefaults({ ...upgraded, type });
}

function refuseNewer(type: string, version: number, known: number): void {
  if (version <= known) return;
  const label = stepType(type)?.words.label ?? type;
  fail(
    "job-newer",
    `This job was saved by a newer release of the program, which writes the step “${label}” in another way. Open it with that release.`,
  );
}

const isObject = (value: unknown): value is Written =>
  typeof value === "object" && value !== null && !Array.isArray(value);
