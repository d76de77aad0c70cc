import { hashValue } from "../hash";
import { type Job, linkOf, type Part, partsNeeded } from "../job";
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
    view: 10,
    steps: [...types].map((type) => [type, stepType(type)?.version ?? 0]),
    // Where a part stands changes what it brings in, and nothing else of it.
    parts: parts.map((one) => (parts.length > 1 ? built(one) : { ...built(one), places: [] })),
    parameters: job.parameters,
    // What was taken as it was is called by what it holds; what is kept by another name is held against it all the same.
    kept: parts.flatMap(({ steps }) => steps.flatMap((step) => keptFor(job, linkOf(step)?.taken?.as))),
    files: job.files.map(({ id, sha256, name }) => [id, sha256 ?? "", name]),
  });
}

/** What is kept by an id, with what that needs of others so. */
function keptFor({ kept }: Job, id: string | undefined, seen = new Set<string>()): unknown[] {
  if (id === undefined || seen.has(id) || !kept[id]) return [];
  seen.add(id);
  const { parameters, parts } = kept[id];
  const links = parts.flatMap(({ steps }) => steps.flatMap((step) => linkOf(step)?.taken?.as ?? []));
  return [{ parameters, parts: parts.map(built) }, ...links.flatMap((as) => keptFor({ kept } as Job, as, seen))];
}

/** How bodies look and are looked at, and what is written of them, changes nothing that is built. */
function built({ looks: _looks, groups: _groups, notes: _notes, views: _views, ...rest }: Part) {
  return rest;
}
