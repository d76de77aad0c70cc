import { describe, expect, test } from "vitest";
import type { Job, Part } from "@/core/job";
import { ParameterScope } from "@/core/params";
import { jobOf } from "@/core/testing/harness";
import { type Dragged, draggedTo, handlesOf, inUnit, mayBe, stepFor, withDragged, withNumber } from "./handles";
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
const state = (step: string) =>
  ({
    editing: { step: part.steps.find(({ id }) => id === step)!, isNew: false },
    evaluation: { before, items: before, steps: [] },
  }) as never;
const handles = (step: string, dragged: Dragged | null = null) =>
  handlesOf(state(step), withDragged(job, "part", dragged), "part", foundOf(undefined));

describe("numbers that are dragged in the view", () => {
  test("of the planes that a seam cuts with: where, which way they grow, and what is a formula", () => {
    expect(handles("s")).toEqual([
      {
        step: "w",
        field: "offset",
        kind: "length",
        label: "offset",
        rate: 1,
        rim: "w:plane",
        name: "Level",
        at: [0, 0, 5],
        way: [0, 0, 1],
        value: 5,
        formula: null,
        parameter: null,
      },
      // Turned round, its front looks against the way in which its offset grows.
      {
        step: "v",
        field: "offset",
        kind: "length",
        label: "offset",
        rate: 1,
        rim: "v:plane",
        name: "Turned",
        at: [0, 0, 5],
        way: [1, -0, -0],
        value: 7,
        formula: "3 + 4",
        parameter: null,
      },
    ]);
    expect(handles("w").map(({ name }) => name)).toEqual(["Level"]);
    expect(handles("a")).toEqual([]);
  });

  test("of the open step: sizes of one list each by itself; what a seam cuts with, only where it is", () => {
    const box = { min: [-30, -20, 0], max: [30, 20, 20] };
    const bar = { id: "c:cylinder", step: "c", name: "Bar", kind: "solid", faces: [], measures: { box } };
    const block = { ...bar, id: "a:block", step: "a", name: "Block" };
    const steps = jobOf([
      { id: "a", type: "box", size: ["2 1/4 in", "2 * 20", "20 mm"] },
      { id: "c", type: "cylinder", diameter: 12, height: 30 },
      { id: "s", type: "seam", stock: ["a"], cutters: ["c"] },
    ]);
    const own = steps.parts[0] as Part;
    const of = (step: string) =>
      handlesOf(
        {
          editing: { step: own.steps.find(({ id }) => id === step)!, isNew: false },
          evaluation: { items: [block, bar], before: [block, bar], steps: [] },
        } as never,
        steps,
        "part",
        foundOf(undefined),
      );
    expect(of("a").map(({ label, value, formula }) => [label, value, formula])).toEqual([
      ["size X", 57.15, null],
      ["size Y", 40, "2 * 20"],
      ["size Z", 20, null],
      ["place X", 0, null],
      ["place Y", 0, null],
      ["place Z", 0, null],
    ]);
    expect(of("c").map(({ label }) => label)).toEqual(["diameter", "height", "place X", "place Y", "place Z"]);
    expect(of("s").map(({ name, label }) => `${name} ${label}`)).toEqual(["Bar place X", "Bar place Y", "Bar place Z"]);
  });

  test("a parameter by itself is dragged as what it is, in its own unit; one that is a formula is not", () => {
    const level = (offset: string, formula: number | string, unit = "mm") => {
      const given = jobOf(
        [
          { id: "w", type: "workplane", name: "Level", base: "xy", offset },
          { id: "a", type: "box" },
          { id: "s", type: "seam", stock: ["a"], cutters: ["w"] },
        ],
        { parameters: [{ name: "level", unit, formula }] },
      );
      const open = { step: given.parts[0]!.steps[2]!, isNew: false };
      const shown = (dragged: Dragged | null) =>
        handlesOf(
          { editing: open, evaluation: { items: before, before, steps: [] } } as never,
          withDragged(given, "part", dragged),
          "part",
          foundOf(undefined),
        )[0]!;
      return shown;
    };
    const parameter = { owner: "job", name: "level", unit: "mm" } as const;
    expect(level("level", 12)(null)).toMatchObject({ value: 12, formula: null, parameter });
    expect(level("level", 12)({ parameter, value: 14 })).toMatchObject({ value: 14, parameter });
    const inches = level("level", 0.5, "in")(null);
    expect(inches).toMatchObject({ value: 12.7, parameter: { unit: "in" } });
    expect(inUnit(inches.parameter!, 25.4)).toBe(1);
    expect(level("level", "3 * 4")(null)).toMatchObject({ value: 12, formula: "level", parameter: null });
    expect(level("level + 1 mm", 12)(null)).toMatchObject({ value: 13, formula: "level + 1 mm", parameter: null });
  });

  test("one of a list is set by itself, and none to what it may not be", () => {
    const block = job.parts[0]!.steps[0]!;
    expect(withNumber(block, { field: "size", index: 1 }, 55)).toEqual({ size: [60, 55, 20] });
    expect(mayBe(block, { field: "size", index: 1 }, 55, SCOPE)).toBe(true);
    expect(mayBe(block, { field: "size", index: 1 }, -1, SCOPE)).toBe(false);
    expect(mayBe(block, { field: "at", index: 1 }, -1, SCOPE)).toBe(true);
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
    expect([0.02, 1, 4, 9, 50, 900].map((perMm) => stepFor(perMm))).toEqual([100, 5, 1, 0.5, 0.1, 0.01]);
    expect([0.1, 1, 10, 90].map((perDegree) => stepFor(perDegree, "angle"))).toEqual([15, 5, 0.5, 0.1]);
    expect(draggedTo(5, 1.26, 0.5)).toBe(6.5);
    expect(draggedTo(5.03, 0, 0.1)).toBe(5);
    expect(draggedTo(-0.2, 0.26, 0.05)).toBe(0.05);
  });
});
