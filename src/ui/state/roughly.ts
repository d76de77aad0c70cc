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
const TURNS = 8;

/**
 * The kinds of steps of which there are triangles, and whether a number of their own makes others: of a division it is what divides that is moved, and
 * what its pieces are to be takes no time.
 */
const BY_TRIANGLES: ReadonlyMap<string, "own" | "others"> = new Map([
  ["seam", "others"],
  ["shell", "own"],
]);

/** What is to be shown: a part of a job, with the step that is open in it. */
export interface Wanted {
  /** Without what is written in the open step and not kept. */
  job: Job;
  part: string;
  editing: Editing | null;
  /** Whether a number of it is in a hand that moves. */
  dragged: boolean;
}

/** How long the exact pieces of the open step took, ms, and how long triangles of it did at best, in how many tries. */
interface Pace {
  step: string;
  job: Job;
  took: number;
  best: number;
  tries: number;
}

/** So often triangles may be there later than what is exact would be: the first are unpractised. */
const TRIES = 4;

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
    const { step } = editing;
    const before = this.pace?.step === step.id ? this.pace : { best: Number.POSITIVE_INFINITY, tries: 0 };
    this.pace = { step: step.id, job, took: ms, best: before.best, tries: before.tries };
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
    pace.tries += answer ? 1 : TRIES;
    if (answer) pace.best = Math.min(pace.best, answer.took);
    const now = workspace.getState();
    // Closed meanwhile: nothing exact is worked out for it where something else waits.
    if (now.editing?.step.id !== step || now.part !== part) return this.waits();
    if (!answer) return false;
    const rough = asShown(step, answer, now.evaluation?.pieces ?? []);
    workspace.setState({ rough, meshes: withMovedMeshes(now.meshes, answer) });
    return wanted.dragged && !(await handRests(this.waits));
  }

  /** Whether exact pieces would keep somebody waiting, and would be of other things than those that are shown. */
  private isSlow({ step, job, took, best, tries }: Pace, { editing, job: now }: Wanted): boolean {
    const whose = BY_TRIANGLES.get(editing?.step.type ?? "");
    if (!whose || editing?.step.id !== step || (whose === "others" && now === job)) return false;
    return took > LATE && (tries < TRIES || best < took);
  }
}

/** Whether nothing newer comes in until the hand is taken to rest. */
export async function handRests(waits: () => boolean): Promise<boolean> {
  // In turns, too: a page that is busy has not heard of what the hand did meanwhile.
  for (let [from, turns] = [performance.now(), 0]; turns < TURNS || performance.now() - from < REST; turns++) {
    if (waits()) return false;
    await new Promise((done) => setTimeout(done, 10));
  }
  return !waits();
}
