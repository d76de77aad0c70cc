/**
 * Does one piece of work at a time, and next always the newest: what comes in meanwhile waits, and takes the place of what waited.
 * Where nothing is under way it begins at once. Work that goes on for longer than `patience` while something waits is stopped.
 */
export class Newest<T> {
  private current: { abort: AbortController; since: number | null } | null = null;
  private waiting: { what: T } | null = null;
  private timer: ReturnType<typeof setTimeout> | null = null;

  /**
   * @param work never rejects; ends soon once its signal is aborted. It calls `begun` when it has what it needs: getting ready is not
   * counted, since it would only have to be done again. @param patience ms. @param now a clock, ms: any that runs on.
   */
  constructor(
    private readonly work: (what: T, signal: AbortSignal, begun: () => void) => Promise<void>,
    private readonly patience: number,
    private readonly now: () => number = () => performance.now(),
  ) {}

  put(what: T): void {
    this.waiting = { what };
    if (this.current) this.watch();
    else this.next();
  }

  /** Whether something waits for its turn. */
  get waits(): boolean {
    return this.waiting !== null;
  }

  /** Sees to it that what goes on for too long while something waits is stopped. */
  private watch(): void {
    const { current } = this;
    if (!current || current.since === null || !this.waiting) return;
    this.timer ??= setTimeout(
      () => {
        this.timer = null;
        if (this.waiting) this.current?.abort.abort();
      },
      Math.max(0, this.patience - (this.now() - current.since)),
    );
  }

  /** Stops what is under way, and forgets what waits. */
  stop(): void {
    this.waiting = null;
    this.current?.abort.abort();
  }

  private next(): void {
    const waiting = this.waiting;
    if (!waiting) return;
    this.waiting = null;
    const mine: NonNullable<typeof this.current> = { abort: new AbortController(), since: null };
    this.current = mine;
    const begun = () => {
      mine.since ??= this.now();
      if (this.current === mine) this.watch();
    };
    void this.work(waiting.what, mine.abort.signal, begun).finally(() => {
      this.current = null;
      if (this.timer) clearTimeout(this.timer);
      this.timer = null;
      this.next();
    });
  }
}
