import { beforeAll, expect, test } from "vitest";
import { loadNodeKernel } from "../../kernel/library/node";
import { buildSteps } from "../../testing/harness";

beforeAll(loadNodeKernel);

const steps = [
  { id: "a", type: "box", size: [10, 10, 10] },
  { id: "b", type: "box", size: [5, 5, 5], at: [40, 0, 0] },
  { id: "p", type: "workplane" },
  { id: "c", type: "curve" },
];

test("what is removed is on the bench no more, of whatever kind; the rest is as it was", () => {
  const { bench, step } = buildSteps(...steps, { id: "r", type: "remove", bodies: ["b", "p:plane", "c"] });
  expect(step("r")).toMatchObject({ state: "good", made: [] });
  expect(bench.map(({ item }) => item.id)).toEqual(["a:block"]);
});

test("what picks it after that is told which step took it; a step left out, it is there again", () => {
  const later = { id: "m", type: "move", bodies: ["b:block"], by: [1, 0, 0] };
  const gone = buildSteps(...steps, { id: "r", type: "remove", bodies: ["b"] }, later);
  expect(gone.step("m").error!.message).toBe("Block 2 was used up by step 5. Pick what that step made.");
  const back = buildSteps(...steps, { id: "r", type: "remove", bodies: ["b"], suppressed: true }, later);
  expect(back.step("m").state).toBe("good");
});

test("nothing picked, or nothing there, is told", () => {
  expect(buildSteps({ id: "r", type: "remove" }).step("r").error!.message).toBe("Pick what is taken off the bench.");
  expect(buildSteps({ id: "r", type: "remove", bodies: ["x:block"] }).step("r").error!.message).toMatch(
    /not made by any/,
  );
});
