import { measureBetween, measureThing } from "@/core/check";
import type { Operation } from "./operation";
import { thingOf } from "./thing-of";

/** Measures one thing, or two and how they lie to each other: exactly. */
export const measure: Operation<"measure"> = async (workshop, { job, part, first, second }) => {
  const { bench } = await workshop.build({ job, part, known: [] });
  const one = thingOf(bench, first);
  if (!second) return { first: measureThing(one) };
  const two = thingOf(bench, second);
  return { first: measureThing(one), second: measureThing(two), between: measureBetween(one, two) };
};
