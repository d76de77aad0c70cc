import { afterAll, expect, test } from "vitest";
import { jobOf } from "@/core/testing/harness";
import { EngineHost } from "../host";
import { ReportRefused, report } from "./reports";
import { spawnNodeEngine } from "./spawn";

const engines = new EngineHost(spawnNodeEngine, { warm: false, heapLimit: 900 * 1024 * 1024, spare: false });
afterAll(() => engines.close());

const quick = { job: jobOf([{ id: "a", type: "box", size: [1, 2, 3] }]), part: "part", known: [] };
/** Many cuts of one block: more than a report has time for here. */
const slow = {
  job: jobOf([
    { id: "a", type: "box", size: [400, 400, 20] },
    ...Array.from({ length: 240 }, (_, i) => ({
      id: `c${i}`,
      type: "cylinder",
      diameter: 9,
      height: 60,
      at: [(i % 16) * 22 - 160, Math.floor(i / 16) * 22 - 160, -10],
    })),
    {
      id: "s",
      type: "seam",
      preset: "subtract",
      stock: ["a"],
      cutters: Array.from({ length: 240 }, (_, i) => `c${i}`),
    },
  ]),
  part: "part",
  known: [],
};
const limits = { most: 2, time: 60_000 };
const never = new AbortController().signal;
const refusal = async (work: Promise<unknown>) => {
  const cause = await work.then(
    () => null,
    (error: unknown) => error,
  );
  expect(cause).toBeInstanceOf(ReportRefused);
  return (cause as ReportRefused).code;
};

test("a few at once, each with its end; what was left alone is stopped, and the next one is made", async () => {
  expect((await report(engines, quick, never, limits)).items).toHaveLength(1);

  const [leaving, first] = [new AbortController(), new AbortController()];
  const running = report(engines, slow, first.signal, limits);
  const second = report(engines, quick, leaving.signal, limits);
  // Two are asked for: a third is told to come again, and costs nothing.
  expect(await refusal(report(engines, quick, never, limits))).toBe("busy");
  leaving.abort();
  setTimeout(() => first.abort(), 300);
  expect(await refusal(running)).toBe("left");
  expect(await refusal(second)).toBe("left");

  expect(await refusal(report(engines, slow, never, { most: 2, time: 300 }))).toBe("too-long");
  expect((await report(engines, quick, never, limits)).items).toHaveLength(1);
});
