import { tellStage } from "../../stage";

/**
 * The largest size up to one that is too large that still works, found by halving and rounded down to a hundredth; null
 * when not even a small one does. What is offered was tried.
 * @param rounds how often it is halved: fewer where each trial takes long, and then less than the largest is found.
 */
export function largestThat(fits: (size: number) => boolean, tooLarge: number, rounds = 10): number | null {
  let [low, high] = [0, tooLarge];
  for (let round = 0; round < rounds; round++) {
    // Tried as it will be offered.
    const middle = Math.floor(((low + high) / 2) * 100) / 100;
    if (middle <= low) break;
    tellStage(`looking for the largest that fits (${round + 1} of ${rounds})`);
    if (fits(middle)) low = middle;
    else high = middle;
  }
  return low > 0 ? low : null;
}
