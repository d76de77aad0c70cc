import type { EngineApi, OperationName, Operations, Progress } from "./contract";
import { readEngineFault } from "./faults";

/** A worker with an engine in it, as a host sees it. */
export interface EngineWorker {
  api: EngineApi;
  /** Resolves when the engine is ready for work. */
  ready: Promise<void>;
  /** Resolves when the worker has died, whatever of. */
  died: Promise<void>;
  kill(): void;
}

export class Cancelled extends Error {
  constructor() {
    super("Stopped.");
    this.name = "Cancelled";
  }
}

export class EngineError extends Error {
  constructor(
    readonly code: string,
    message: string,
  ) {
    super(message);
    this.name = "EngineError";
  }
}

export interface HostOptions {
  /** Whether engines are warmed up while there is nothing else to do. */
  warm: boolean;
  /** Kernel memory above which an engine is replaced while idle, bytes. */
  heapLimit: number;
  /** Whether a second engine stands by. */
  spare: boolean;
  /** ms after some work before it does anything by itself: whoever drags a number asks again within that. */
  quiet?: number;
}

/**
 * Keeps one engine at work and one in reserve. Cancelling kills the engine at work and the reserve takes over; an engine
 * that dies or whose memory has grown is replaced, and what it was doing is done again. Requests wait for each other.
 */
export class EngineHost {
  private current: EngineWorker;
  private reserve: EngineWorker | null = null;
  private queue: Promise<unknown> = Promise.resolve();
  private busy = 0;
  private closed = false;
  private turn = 0;
  private warm = new WeakSet<EngineWorker>();
  /** How many engines have been replaced, for tests and diagnosis. */
  replaced = 0;

  constructor(
    private readonly spawn: () => EngineWorker,
    private readonly options: HostOptions,
  ) {
    this.current = spawn();
    this.idle();
  }

  /** Has an operation done. @throws Cancelled when `signal` says so, EngineError with a sentence. */
  ask<N extends OperationName>(
    operation: N,
    request: Operations[N]["asks"],
    { progress, signal }: { progress?: (progress: Progress) => void; signal?: AbortSignal } = {},
  ): Promise<Operations[N]["gives"]> {
    return this.run(async (api) => {
      const { answer, heapBytes } = await api.run(operation, request, progress);
      if (heapBytes > this.options.heapLimit) queueMicrotask(() => this.replace());
      return answer;
    }, signal);
  }

  close(): void {
    this.closed = true;
    this.current.kill();
    this.reserve?.kill();
  }

  private run<T>(work: (api: EngineApi) => Promise<T>, signal?: AbortSignal): Promise<T> {
    const result = this.queue.then(() => this.attempt(work, signal, 2));
    this.queue = result.catch(() => {});
    return result;
  }

  private async attempt<T>(
    work: (api: EngineApi) => Promise<T>,
    signal: AbortSignal | undefined,
    tries: number,
  ): Promise<T> {
    if (signal?.aborted) throw new Cancelled();
    const worker = this.current;
    this.busy++;
    let cancel: (() => void) | undefined;
    const cancelled = new Promise<never>((_resolve, reject) => {
      cancel = () => reject(new Cancelled());
      signal?.addEventListener("abort", cancel);
    });
    const died = worker.died.then((): never => {
      throw new EngineError("engine-died", "The geometry engine stopped. It was started again.");
    });
    try {
      return await Promise.race([worker.ready.then(() => work(worker.api)), cancelled, died]);
    } catch (cause) {
      if (cause instanceof Cancelled) {
        this.replace(worker);
        throw cause;
      }
      const lost = cause instanceof EngineError && cause.code === "engine-died";
      const fault = lost ? null : readEngineFault(cause);
      if (lost || fault?.fatal) {
        this.replace(worker);
        if (tries > 1 && !this.closed) return await this.attempt(work, signal, tries - 1);
      }
      throw fault ? new EngineError(fault.code, fault.message) : cause;
    } finally {
      if (cancel) signal?.removeEventListener("abort", cancel);
      died.catch(() => {});
      cancelled.catch(() => {});
      this.busy--;
      this.idle(this.options.quiet);
    }
  }

  /** Puts the reserve, or a fresh engine, in the place of one that is of no more use. */
  private replace(worker: EngineWorker = this.current): void {
    worker.kill();
    if (worker === this.reserve) this.reserve = null;
    if (worker !== this.current || this.closed) return;
    this.replaced++;
    this.current = this.reserve ?? this.spawn();
    this.reserve = null;
    this.idle();
  }

  /**
   * With nothing to do: get the reserve ready, and warm both. A later call takes over from an earlier one.
   * @param quiet ms to wait first.
   */
  private idle(quiet = 0): void {
    const turn = ++this.turn;
    const free = () => turn === this.turn && this.busy === 0 && !this.closed;
    const warmUp = async (worker: EngineWorker) => {
      // One small operation at a time, so that work that comes in waits for one at the most.
      while (this.options.warm && free() && !this.warm.has(worker)) {
        if (!(await worker.api.warm())) this.warm.add(worker);
      }
    };
    const { current } = this;
    current.ready
      .then(async () => {
        if (quiet > 0) await new Promise((resolve) => setTimeout(resolve, quiet));
        await warmUp(current);
        if (!this.options.spare || !free()) return;
        this.reserve ??= this.standBy();
        await this.reserve.ready;
        await warmUp(this.reserve);
      })
      .catch(() => {});
  }

  private standBy(): EngineWorker {
    const reserve = this.spawn();
    reserve.died.then(() => {
      if (this.reserve === reserve) this.reserve = null;
    });
    return reserve;
  }
}
