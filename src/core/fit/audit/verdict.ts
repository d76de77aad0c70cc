import type { Resolved } from "../../params";
import { formatLength, formatVolume } from "../../units";
import type { Pair } from "./pair";
import type { WantedFit } from "./wanted";

/** Whether a pair is as it is wanted, and why not, in words. */
export interface Verdict {
  holds: boolean;
  words: string;
}

/** What is asked of a pair, mm. */
export type Wanted = Pick<Resolved<WantedFit>, "want" | "least" | "most">;

/** mm: a distance that is asked for exactly may be measured so much less. */
const AS_GOOD = 1e-6;

/** Holds how two bodies lie against how they are wanted. */
export function verdictOf(pair: Pair, { want, least, most }: Wanted): Verdict {
  const { state, gap, contact, overlap } = pair;
  const is = stateWords(pair);
  switch (want) {
    case "gap":
      return gap >= least - AS_GOOD && state !== "overlap" && (state === "apart" || least === 0)
        ? { holds: true, words: `at least ${formatLength(least)}` }
        : { holds: false, words: `at least ${formatLength(least)} wanted: ${is}` };
    case "touch":
      return state === "touch" && contact! > 0
        ? { holds: true, words: "touching" }
        : { holds: false, words: `to touch in a face: ${is}` };
    case "press": {
      const words = `${formatLength(least)} to ${formatLength(most)} of press`;
      const depth = overlap?.depth ?? 0;
      return overlap && depth >= least - AS_GOOD && depth <= most + AS_GOOD
        ? { holds: true, words }
        : { holds: false, words: `${words} wanted: ${overlap ? `${formatLength(depth)} deep` : is}` };
    }
  }
}

/** How two bodies lie to each other, in words. */
export function stateWords({ state, skin, gap, contact, overlap }: Pair): string {
  switch (state) {
    case "apart":
      return `${formatLength(gap)} apart`;
    case "touch":
      if (contact! > 0) return "touching";
      return skin ? "meeting along a line" : "touching along an edge or in a point";
    case "overlap":
      return `sharing ${formatVolume(overlap!.volume)}`;
  }
}
