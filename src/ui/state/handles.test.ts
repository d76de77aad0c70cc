import { describe, expect, test } from "vitest";
import type { Job, Part } from "@/core/job";
import { ParameterScope } from "@/core/params";
import { jobOf } from "@/core/testing/harness";
import { draggedTo, handlesOf, stepFor, withDragged } from "./handles";
import { foundOf } from "./whereabouts";

const job: Job = jobOf([
  { id: "a", type: "box", size: [60, 40, 20] },
  { id: "w", type: "workplane", name: "Level", base: "xy", offset: 5 },
  { id: "v", type: "workplane", name: "Turned", base: "yz", offset: "3 + 4", flip: true },
  { id: "s", type: "seam", stock: ["a"], cutters: ["w", "v"] },
]);
const part = job.parts[0] as Part;
const SCOPE = new ParameterScope();
const plane = (step: string, name: string, normal: number[]) => ({
  id: `${step}:plane`,
  step,
  name,
  kind: "workplane",
  origin: [0, 0, 5],
  normal,
});
const before = [plane("w", "Level", [0, 0, 1]), plane("v", "Turned", [-1, 0, 0])];
const state = (step: string, dragged: unknown = null) =>
  ({
    editing: { step: part.steps.find(({ id }) => id === step)!, isNew: false },
    evaluation: { before, items: before, steps: [] },
    dragged,
  }) as never;
const handles = (step: string, dragged: unknown = null) =>
  handlesOf(state(step, dragged), part, foundOf(undefined), SCOPE);

describe("numbers that are dragged in the view", () => {
  test("of the planes that a seam cuts with: where, which way they grow, and what is a formula", () => {
    expect(handles("s")).toEqual([
      {
        step: "w",
        field: "offset",
        item: "w:plane",
        name: "Level",
        at: [0, 0, 5],
        way: [0, 0, 1],
        value: 5,
        formula: null,
      },
      // Turned round, its front looks against the way in which its offset grows.
      {
        step: "v",
        field: "offset",
        item: "v:plane",
        name: "Turned",
        at: [0, 0, 5],
        way: [1, -0, -0],
        value: 7,
        formula: "3 + 4",
      },
    ]);
    expect(handles("w").map(({ name }) => name)).toEqual(["Level"]);
    expect(handles("a")).toEqual([]);
  });

  test("while one is dragged it is what it is dragged to, in the job that is shown alone", () => {
    const dragged = { step: "w", set: { offset: 8.5 } };
    expect(handles("s", dragged)[0]).toMatchObject({ value: 8.5, formula: null });
    const shown = withDragged(job, "part", dragged);
    expect(shown.parts[0]!.steps[1]).toMatchObject({ offset: 8.5 });
    expect(job.parts[0]!.steps[1]).toMatchObject({ offset: 5 });
    expect(withDragged(job, "part", null)).toBe(job);
    expect(withDragged(job, "other", dragged).parts[0]!.steps[1]).toMatchObject({ offset: 5 });
  });

  test("in steps that can be seen, on their grid", () => {
    expect([0.02, 1, 4, 9, 50, 900].map(stepFor)).toEqual([100, 5, 1, 0.5, 0.1, 0.01]);
    expect(draggedTo(5, 1.26, 0.5)).toBe(6.5);
    expect(draggedTo(5.03, 0, 0.1)).toBe(5);
    expect(draggedTo(-0.2, 0.26, 0.05)).toBe(0.05);
  });
});
