import same from "fast-deep-equal/es6";
import type { Job } from "@/core/job";
import type { RoughPieces } from "@/engine/contract";
import { Cancelled, type EngineHost } from "@/engine/host";
import { movedPlane } from "./moved-plane";
import { asShown, withMovedMeshes } from "./rough";
import type { Editing, WorkspaceStoreApi } from "./workspace-store";

/** ms: what takes longer keeps somebody waiting, and is shown by triangles meanwhile where it can be. */
export const LATE = 120;

/** ms: a hand that has not moved for so long rests, and what is exact is worked out. */
const REST = 150;

/** What is to be shown: a part of a job, with the step that is open in it. */
export interface Wanted {
  /** Without what is written in the open step and not kept. */
  job: Job;
  part: string;
  editing: Editing | null;
  /** Whether a number of it is in a hand that moves. */
  dragged: boolean;
}

/** How long the exact pieces of the open step took, ms, and how often in a row triangles took longer, or there were none. */
interface Pace {
  step: string;
  job: Job;
  took: number;
  later: number;
}

/** So often in a row triangles may be there later than what is exact would be: the first are unpractised. */
const OFTEN = 2;

/** Shows the pieces of the open step as triangles where exact ones keep somebody waiting: at every movement, and what is exact at rest. */
export class Roughly {
  private pace: Pace | null = null;

  constructor(
    private readonly workspace: WorkspaceStoreApi,
    private readonly engines: () => Pick<EngineHost, "ask">,
    /** Whether something newer is wanted already. */
    private readonly waits: () => boolean,
  ) {}

  /** Notes how long what is exact took. */
  took({ editing, job }: Wanted, ms: number): void {
    if (!editing) return;
    const later = this.pace?.step === editing.step.id ? this.pace.later : 0;
    this.pace = { step: editing.step.id, job, took: ms, later };
  }

  /** @param job what is wanted, with the open step. @returns whether triangles are all that is wanted of it: something newer is already. */
  async show(wanted: Wanted, job: Job, signal: AbortSignal): Promise<boolean> {
    const { editing, part } = wanted;
    const { pace, workspace } = this;
    if (!pace || !editing || !this.isSlow(pace, wanted)) return false;
    const { evaluation, evaluatedJob, meshes } = workspace.getState();
    // Kept as it was dragged to, and exact already.
    if (same(evaluatedJob, job)) return false;
    // A plane that is moved parts the pieces that are shown, which is quicker still.
    if (movedPlane(evaluation, evaluatedJob, job, part)) return false;
    const step = editing.step.id;
    let answer: RoughPieces | null;
    try {
      answer = await this.engines().ask("rough", { job, part, step, known: [...meshes.keys()] }, { signal });
    } catch (cause) {
      if (cause instanceof Cancelled) throw cause;
      // What is exact follows, and says what is wrong where it is.
      answer = null;
    }
    if (!answer) pace.later = OFTEN;
    else pace.later = answer.took < pace.took ? 0 : pace.later + 1;
    const now = workspace.getState();
    if (!answer || now.editing?.step.id !== step || now.part !== part) return false;
    const rough = asShown(step, answer, now.evaluation?.pieces ?? []);
    workspace.setState({ rough, meshes: withMovedMeshes(now.meshes, answer) });
    return wanted.dragged && !(await this.rests());
  }

  /** Whether exact pieces would keep somebody waiting, and would be of other things than those that are shown. */
  private isSlow({ step, job, later, took }: Pace, { editing, job: now }: Wanted): boolean {
    return editing?.step.type === "seam" && editing.step.id === step && now !== job && later < OFTEN && took > LATE;
  }

  /** Whether nothing newer comes in until the hand is taken to rest. */
  private async rests(): Promise<boolean> {
    for (const from = performance.now(); performance.now() - from < REST; ) {
      if (this.waits()) return false;
      await new Promise((done) => setTimeout(done, 10));
    }
    return !this.waits();
  }
}
