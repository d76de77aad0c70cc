import { unpack } from "@/core/evaluate/pack";
import { viewKey } from "@/core/evaluate/view-key";
import type { Job } from "@/core/job";
import { type Evaluation, isBodyView, type ViewMesh } from "@/engine/contract";
import { api } from "./api";
import type { WorkspaceStoreApi } from "./workspace-store";

/** What earlier visits stored: shown as soon as a part is asked for, before anything is computed. */
export class StoredViews {
  /** The view that was looked for last, and what is coming of it. */
  private last: { key: string; coming: Promise<Evaluation | null> } | null = null;

  constructor(private readonly workspace: WorkspaceStoreApi) {}

  /** Shows a part as it was stored, where it was, and nothing else is shown yet. */
  async show(job: Job, part: string): Promise<Evaluation | null> {
    const shown = job.parts.find((candidate) => candidate.id === part);
    if (!shown || this.workspace.getState().evaluation !== null) return null;
    const key = viewKey(job, shown);
    if (this.last?.key !== key) this.last = { key, coming: this.fetched(key) };
    const evaluation = await this.last.coming;
    const now = this.workspace.getState();
    if (evaluation && now.evaluation === null && now.part === part && now.editing === null)
      this.workspace.setState({ evaluation, meshes: takeMeshes(evaluation, new Map()) });
    return evaluation;
  }

  private async fetched(key: string): Promise<Evaluation | null> {
    const bytes = await api.stored(key);
    if (!bytes) return null;
    try {
      return unpack(bytes) as Evaluation;
    } catch {
      return null;
    }
  }
}

/** Adds the new meshes of an evaluation and drops those that nothing shows any more. */
export function takeMeshes(evaluation: Evaluation, before: Map<string, ViewMesh>): Map<string, ViewMesh> {
  const meshes = new Map<string, ViewMesh>();
  for (const item of [...evaluation.items, ...(evaluation.before ?? [])]) {
    if (!isBodyView(item)) continue;
    const mesh = item.mesh ?? before.get(item.meshId);
    if (mesh && !meshes.has(item.meshId)) meshes.set(item.meshId, mesh);
  }
  return meshes;
}
