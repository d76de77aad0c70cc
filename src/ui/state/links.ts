import type { LinkReport } from "@/core/evaluate";

/** Whether what was brought in is not as it is there now. */
export const isBehind = ({ state }: LinkReport): boolean => state === "stale" || state === "gone" || state === null;
