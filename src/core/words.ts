/** A number of things in words: `1 step`, `3 steps`. */
export const counted = (count: number, one: string, many = `${one}s`): string => `${count} ${count === 1 ? one : many}`;
