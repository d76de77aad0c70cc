import { beforeAll, describe, expect, test } from "vitest";
import { loadNodeKernel } from "../kernel/library/node";
import { build, jobOf } from "../testing/harness";
import { dependants, whyNotMoved } from "./dependants";

beforeAll(loadNodeKernel);

const edge = (at: number[]) => ({ body: "a:block", print: { at } });
const steps = [
  { id: "a", type: "box", size: [40, 30, 20], anchor: "corner" },
  { id: "b", type: "cylinder", diameter: 8, height: 60, at: [20, 15, -10] },
  { id: "f", type: "fillet", edges: [edge([20, 0, 20])], radius: 3 },
  { id: "g", type: "chamfer", edges: [edge([20, 30, 20])], distance: 2 },
  { id: "s", type: "seam", preset: "subtract", stock: ["a:block"], cutters: ["b"] },
  { id: "w", type: "workplane", base: "xy" },
  { id: "t", type: "seam", preset: "split", stock: ["s"], cutters: ["w"] },
];
const job = jobOf(steps);
const needed = (id: string) => dependants(job.parts[0]!.steps, build(job).steps, id).map((step) => step.id);

describe("what depends on a step", () => {
  test.each([
    ["a", ["f", "g", "s", "t"]],
    ["b", ["s", "t"]],
    // Each change of a body under its id is needed by what comes after it, and not by what came before.
    ["f", ["g", "s", "t"]],
    ["g", ["s", "t"]],
    ["w", ["t"]],
    ["t", []],
  ])("%s is needed by %j", (id, expected) => {
    expect(needed(id)).toEqual(expected);
  });

  test("also where a step could not be built", () => {
    const broken = jobOf(steps.map((step) => (step.id === "f" ? { ...step, radius: 500 } : step)));
    expect(dependants(broken.parts[0]!.steps, build(broken).steps, "a").map(({ id }) => id)).toEqual([
      "f",
      "g",
      "s",
      "t",
    ]);
  });
});

describe("where a step can be moved to", () => {
  const order = job.parts[0]!.steps;
  const why = (id: string, to: number) => {
    const found = whyNotMoved(order, id, to);
    return found && [found.needs.id, found.needed.id];
  };

  test.each([
    ["f", 0, ["f", "a"]],
    ["a", 3, ["f", "a"]],
    ["w", 6, ["t", "w"]],
    ["t", 4, ["t", "s"]],
  ])("%s cannot stand at %d: it is told which needs which", (id, to, expected) => {
    expect(why(id, to)).toEqual(expected);
  });

  test.each([
    ["f", 3],
    ["b", 0],
    ["w", 0],
    ["g", 2],
    ["t", 6],
    ["none", 2],
  ])("%s can stand at %d", (id, to) => {
    expect(why(id, to)).toBeNull();
  });
});
