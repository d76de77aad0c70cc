import { beforeAll, expect, test } from "vitest";
import { emptyJob } from "../job";
import { loadNodeKernel } from "../kernel/library/node";
import { build } from "../testing/harness";
import { warmUp, warmUpSheet } from "./warm-up";

beforeAll(loadNodeKernel);

test("what is done to warm up is done: every step of it is built, and it runs to its end", () => {
  const job = emptyJob("warm-up");
  job.parts[0]!.steps = warmUpSheet(0);
  const built = build(job);
  expect(built.steps.map(({ state, error }) => [state, error?.message])).toEqual(
    job.parts[0]!.steps.map(() => ["good", undefined]),
  );
  // A turn for each step, one for the pieces, one for the meshes, two for a file.
  expect([...warmUp(1)]).toHaveLength(job.parts[0]!.steps.length + 4);
});
