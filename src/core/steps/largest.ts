/**
 * The largest size up to one that is too large that still works, found by halving and rounded down to a hundredth; null
 * when not even a small one does. What is offered was tried.
 */
export function largestThat(fits: (size: number) => boolean, tooLarge: number): number | null {
  let [low, high] = [0, tooLarge];
  for (let round = 0; round < 10; round++) {
    const middle = (low + high) / 2;
    if (fits(middle)) low = middle;
    else high = middle;
  }
  const rounded = Math.floor(low * 100) / 100;
  return rounded > 0 && fits(rounded) ? rounded : null;
}
