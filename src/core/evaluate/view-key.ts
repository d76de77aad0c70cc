import { hashValue } from "../hash";
import { type Job, type Part, partsNeeded } from "../job";
import { stepType } from "../steps";
import { ENGINE_VERSION } from "./version";

/**
 * The key of all that a part shows when it is built to its hold point: its own document and those of the parts that it brings
 * something in from, the job's parameters and its files.
 */
export function viewKey(job: Job, part: Part): string {
  const parts = [part, ...partsNeeded(job, part.id).slice(1)];
  const types = new Set(parts.flatMap(({ steps }) => steps.map(({ type }) => type)));
  return hashValue({
    engine: ENGINE_VERSION,
    view: 9,
    steps: [...types].map((type) => [type, stepType(type)?.version ?? 0]),
    parts: parts.map(built),
    parameters: job.parameters,
    files: job.files.map(({ id, sha256, name }) => [id, sha256 ?? "", name]),
  });
}

/** How bodies look and are looked at, and what is written of them, changes nothing that is built. */
function built({ looks: _looks, groups: _groups, notes: _notes, views: _views, ...rest }: Part) {
  return rest;
}
