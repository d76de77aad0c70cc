import { hashValue } from "../hash";
import type { Job, Part } from "../job";
import { stepType } from "../steps";
import { ENGINE_VERSION } from "./version";

/** The key of all that a part shows when it is built to its hold point: its own document, the job's parameters and its files. */
export function viewKey(job: Job, part: Part): string {
  // How bodies look, and what is written of them, changes nothing that is built.
  const { looks: _looks, groups: _groups, notes: _notes, ...built } = part;
  return hashValue({
    engine: ENGINE_VERSION,
    view: 7,
    steps: [...new Set(part.steps.map(({ type }) => type))].map((type) => [type, stepType(type)?.version ?? 0]),
    part: built,
    parameters: job.parameters,
    files: job.files.map(({ id, sha256, name }) => [id, sha256 ?? "", name]),
  });
}
