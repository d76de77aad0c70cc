import { SeamError } from "../../errors";
import { type Pair, pairOf, verdictOf } from "../../fit/audit";
import type { Body } from "../../items/body";
import { KernelFault } from "../../kernel";
import type { AskedFit } from "../check-run";

/** What a wanted fit has come to. */
export interface FitReport {
  /** Its place in the job's list. */
  place: number;
  /** What the two bodies are called. */
  names: [string, string];
  /** Null where it cannot be told. */
  holds: boolean | null;
  words: string;
}

/** Holds bodies against every fit that is wanted of them. */
export const fitsOf = (fits: readonly AskedFit[]): FitReport[] =>
  fits.map((asked): FitReport => {
    const { place, wanted, ends } = asked;
    const names: [string, string] = [ends[0].name, ends[1].name];
    const [one, other] = ends.map(({ body }) => body);
    const pair = one && other ? triedPair(one, other) : null;
    const why = whyNot(asked) ?? (typeof pair === "string" ? pair : null);
    if (why !== null || !pair || typeof pair === "string") return { place, names, holds: null, words: why ?? "" };
    return { place, names, ...verdictOf(pair, wanted) };
  });

/** Why a fit cannot be held against anything; null where it can. */
export function whyNot({ ends, problem, wanted }: AskedFit): string | null {
  if (problem !== null) return problem;
  const gone = ends.filter(({ body }) => !body).map(({ name }) => name);
  if (gone.length > 0)
    return `not known: ${gone.join(" and ")} ${gone.length > 1 ? "are" : "is"} not there, or several bodies`;
  if (ends[0].body === ends[1].body) return "not known: both are one body now";
  return wanted.want === "press" && wanted.most < wanted.least
    ? "The most that it presses is less than the least."
    : null;
}

/** How two bodies lie, or why that cannot be told. */
export function triedPair(one: Body, other: Body): Pair | string {
  try {
    return pairOf(one, other);
  } catch (cause) {
    if (cause instanceof SeamError) return cause.message;
    if (cause instanceof KernelFault && !cause.fatal) return `not known: ${cause.message}`;
    throw cause;
  }
}
