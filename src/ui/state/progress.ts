import type { WorkspaceStoreApi } from "./workspace-store";

/** As often as this the page is told how far the building is, ms: oftener nobody can read it, and all that shows it is drawn anew. */
const OFTEN = 40;

/** Tells the workspace how far the building is: at once that it has begun, and from then on now and then. */
export class ProgressTeller {
  private waiting: { done: number; total: number; since: number; stage?: string | undefined } | null = null;
  private timer: ReturnType<typeof setTimeout> | null = null;

  /** @param now a clock, ms. */
  constructor(
    private readonly workspace: WorkspaceStoreApi,
    private readonly now: () => number = () => performance.now(),
  ) {}

  begin(total: number): void {
    this.workspace.setState({ engine: { kind: "computing", done: 0, total, since: this.now() } });
  }

  /** @param stage what the step after those that are done is at. */
  tell(done: number, total: number, stage?: string): void {
    const { engine } = this.workspace.getState();
    const at = this.waiting ?? (engine.kind === "computing" ? engine : null);
    // Written without a word to those who watch: it changes faster than anyone reads.
    if (at?.done === done && stage !== undefined) at.stage = stage;
    else if (at?.done !== done) this.waiting = { done, total, since: this.now(), stage };
    if (this.waiting) this.timer ??= setTimeout(() => this.flush(), OFTEN);
  }

  private flush(): void {
    this.timer = null;
    if (this.waiting) this.workspace.setState({ engine: { kind: "computing", ...this.waiting } });
    this.waiting = null;
  }

  /** What has not been told yet is not told any more. */
  end(): void {
    if (this.timer !== null) clearTimeout(this.timer);
    this.timer = null;
    this.waiting = null;
  }
}
