/** Ratios taken in one run: absolute times say more about the machine than about the program. */
export const median = (values: number[]) => [...values].sort((a, b) => a - b)[Math.floor(values.length / 2)]!;

export const time = (work: () => void) => {
  const start = performance.now();
  work();
  return performance.now() - start;
};

export const show = (what: string, ratio: number, goal: string) =>
  console.log(`${what.padEnd(64)} ${ratio.toFixed(3).padStart(8)}   goal ${goal}`);
