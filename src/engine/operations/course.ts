import { gapCourse } from "@/core/check";
import type { Operation } from "./operation";
import { thingOf } from "./thing-of";

/** How the gap between two things runs along one of them. */
export const course: Operation<"course"> = async (workshop, { job, part, first, second }) => {
  const { bench } = await workshop.build({ job, part, known: [] });
  return gapCourse(thingOf(bench, first), thingOf(bench, second));
};
