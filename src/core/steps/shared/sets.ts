import * as z from "zod";
import type { Field, FieldCondition } from "../declare";

/** How many values there are of a kind, each but the first with things that have it. */
const SETS = ["one", "two", "three"] as const;
export type Sets = (typeof SETS)[number];

export const setsField = () => z.enum(SETS).default("one");

/** As many of a list as there are sets. */
export const firstSets = <T>(list: readonly T[], sets: Sets): T[] => list.slice(0, SETS.indexOf(sets) + 1);

/** How a form asks how many there are. */
export const setsChoice = (key: string, label: string, when?: FieldCondition[]): Field => ({
  key,
  kind: "choice",
  label,
  options: [
    { value: "one", label: "One" },
    { value: "two", label: "Two" },
    { value: "three", label: "Three" },
  ],
  ...(when ? { when } : {}),
});

/** While there are as many as a second, or a third. */
export const whenSet = (key: string, n: "2" | "3"): FieldCondition => ({
  key,
  is: n === "2" ? ["two", "three"] : ["three"],
});
