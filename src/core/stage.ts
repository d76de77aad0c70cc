/**
 * Where a long computation is, told while it runs: a person who waits sees that it goes on, and at what. It changes no
 * result; a computation that nobody listens to says nothing.
 */
let listener: ((words: string) => void) | null = null;

/** Tells what is being done now. @param words as they are shown: "Dividing, in another way". */
export function tellStage(words: string): void {
  listener?.(words);
}

/** Does some work, and hears what it tells meanwhile. */
export function hearingStages<T>(hear: ((words: string) => void) | null, work: () => T): T {
  const before = listener;
  listener = hear;
  try {
    return work();
  } finally {
    listener = before;
  }
}
