import { beforeAll, expect, test } from "vitest";
import { loadNodeKernel } from "../../kernel/library/node";
import { buildSteps } from "../../testing/harness";

beforeAll(loadNodeKernel);

const planes = (count: number, width: number) =>
  ["xy", "yz", "zx"].flatMap((base) =>
    Array.from({ length: count }, (_, i) => ({
      id: `${base}${i}`,
      type: "workplane",
      base,
      offset: -width / 2 + (width * (i + 0.5)) / count,
    })),
  );
const cut = (count: number) => ({
  id: "s",
  type: "seam",
  stock: ["b"],
  cutters: planes(count, 1).map(({ id }) => id),
});

// Trying it would take longer than a test may.
test("ten thousand pieces are refused with how many they would be, before it is tried", () => {
  const block = { id: "b", type: "box", name: "Block", size: [40, 40, 40], anchor: "centre" };
  const { state, error } = buildSteps(block, ...planes(21, 38), cut(21)).step("s");
  expect([state, error?.code]).toEqual(["failed", "too-many-pieces"]);
  expect(error!.message).toBe(
    "These 63 planes would divide Block into about 11,000 pieces; 5,000 are the most that can be worked with. Leave some of them out, or divide in several steps.",
  );
});

test("as many planes that make few pieces are not: side by side, or across a thin bar that fills little of its box", () => {
  const bar = { id: "b", type: "box", size: [40, 4, 4], anchor: "centre" };
  const side = Array.from({ length: 35 }, (_, i) => ({ id: `p${i}`, type: "workplane", base: "yz", offset: -17 + i }));
  const split = { id: "s", type: "seam", stock: ["b"], cutters: side.map(({ id }) => id) };
  const built = buildSteps(bar, ...side, split);
  expect(built.step("s").state).toBe("good");
  expect(built.reports.filter(({ id }) => id.startsWith("s:")).length).toBe(36);
});
