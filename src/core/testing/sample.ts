/** Whether all is tried, as `npm run proof` does: the test command tries a sample. */
export const WHOLE = process.env.PROOF_WHOLE === "1";

/** Every so many of a list, from its first; all of it in the long proof. */
export const sampled = <T>(list: readonly T[], every: number): T[] => list.filter((_, i) => WHOLE || i % every === 0);
