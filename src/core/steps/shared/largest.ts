import { tellStage } from "../../stage";
import { formatLength } from "../../units";

/** How many sizes up to which it may work are tried. */
const LIKELY = 2;

/**
 * The largest size up to one that is too large that still works, found by halving and rounded down to a hundredth; null
 * when not even a small one does. What is offered was tried.
 * @param rounds how often it is halved: fewer where each trial takes long, and then less than the largest is found.
 * @param likely sizes up to which it may work, as the radii of what bends: tried first, from the largest down.
 */
export function largestThat(
  fits: (size: number) => boolean,
  tooLarge: number,
  rounds = 10,
  likely: readonly number[] = [],
): number | null {
  let [low, high] = [0, tooLarge];
  const sizes = likely.map((size) => Math.ceil(size * 100 - 1) / 100).filter((size) => size > 0 && size < tooLarge);
  for (const size of [...new Set(sizes)].sort((a, b) => b - a).slice(0, LIKELY)) {
    tellStage(`looking for the largest that fits (${formatLength(size)})`);
    if (fits(size)) {
      low = size;
      break;
    }
    high = size;
  }
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

/**
 * What is said beside a trouble of what would fit.
 * @param fits as it was found; null where nothing does. @param isSought whether it was looked for: with free faces each trial takes seconds.
 */
export function withWhatFits(sentence: string, fits: number | null, isSought: boolean): string {
  if (fits !== null) return `${sentence} Up to ${formatLength(fits)} fits.`;
  if (isSought) return sentence;
  return `${sentence} It has free faces, so that it takes long to try: what would fit was not looked for. Take less.`;
}
