/** What a computation tells while it runs, to whoever had it done; with nobody listening it tells nobody. It changes no result. */
export interface Hearing<T> {
  tell(what: T): void;
  /** Does some work, and hears what it tells meanwhile: that alone, and nobody outside hears it. `null` hears nothing. */
  hearing<R>(hear: ((what: T) => void) | null, work: () => R): R;
}

export function hearing<T>(): Hearing<T> {
  let listener: ((what: T) => void) | null = null;
  return {
    tell: (what) => listener?.(what),
    hearing(hear, work) {
      const before = listener;
      listener = hear;
      try {
        return work();
      } finally {
        listener = before;
      }
    },
  };
}
