import { expect, test } from "vitest";
import type { StepReport } from "@/core/evaluate";
import { withSameReports } from "./same-reports";

const report = (id: string, more: Partial<StepReport> = {}): StepReport => ({
  id,
  type: "box",
  key: `k-${id}`,
  state: "good",
  warnings: [],
  made: [`${id}:block`],
  ms: 1,
  ...more,
});

test("a report that says the same is the same; one that says anything else is the new one", () => {
  const before = [report("a"), report("b"), report("c"), report("gone")];
  const now = [
    report("a", { ms: 7 }),
    report("b", { key: "other" }),
    report("c", { warnings: [{ code: "w", message: "Look" }] }),
    report("new"),
  ];
  const kept = withSameReports(now, before);
  expect(kept[0]).toBe(before[0]);
  expect(kept.slice(1)).toEqual(now.slice(1));
  expect(kept[1]).toBe(now[1]);
  expect(withSameReports(now)).toEqual(now);
});
