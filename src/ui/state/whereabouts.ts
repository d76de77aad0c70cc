import type { Meanings, Whereabouts } from "@/core/evaluate";
import type { CornerRef, EdgeRef, FaceRef } from "@/core/references";
import type { Evaluation } from "@/engine/contract";

type PickedRef = FaceRef | EdgeRef | CornerRef;

/** What the engine made of the references that a step keeps: the page finds nothing by itself. */
export interface Found {
  /** A reference as it would be written today, whether it was guessed, and the faces that its rule brings along, by name; null where it is lost. Itself while that is not known. */
  part<T extends PickedRef>(ref: T): { now: T; guessed: boolean; all?: readonly string[] } | null;
  /** Items as they are called today: a body lives on in another, a piece is found by what it is known by. */
  items(refs: readonly string[]): string[];
}

const keyOf = (ref: PickedRef) => JSON.stringify(ref);

export function foundOf(meanings: Meanings | undefined, noted: readonly Whereabouts[] = []): Found {
  const places = new Map([...(meanings?.picked ?? []), ...noted].map((one) => [keyOf(one.ref), one] as const));
  return {
    part<T extends PickedRef>(ref: T) {
      const known = places.get(keyOf(ref));
      if (!known) return { now: ref, guessed: false };
      return known.now && { now: known.now as T, guessed: known.guessed, ...(known.all ? { all: known.all } : {}) };
    },
    items: (refs) => [
      ...new Set(
        refs.flatMap((ref) => {
          const now = meanings?.items[ref] ?? [];
          // One that means nothing now stays as it is: it may mean something again.
          return now.length > 0 ? now : [ref];
        }),
      ),
    ],
  };
}

/** What is known of the references of the open step and of notes. */
export const foundIn = (evaluation: Evaluation | null): Found => foundOf(evaluation?.meanings, evaluation?.noted);
