import { describe, expect, test } from "vitest";
import type { Evaluation, ItemView } from "@/engine/contract";
import { meant, toggleItem, unmeant } from "./refs";
import { benchKnown, pickable } from "./workspace-store";

const items = [
  { id: "a:block", step: "a" },
  { id: "s:c~1", step: "s" },
  { id: "s:c~2", step: "s" },
];

describe("what a field holds, and what a click makes of it", () => {
  test("a step's id stands for all that it made, and a click takes one of them out", () => {
    expect(meant(["s"], items)).toEqual(["s:c~1", "s:c~2"]);
    expect(toggleItem(["s"], "s:c~1", items)).toEqual(["s:c~2"]);
  });

  test("what is not there now stays through any click", () => {
    const value = ["gone:block", "a"];
    expect(unmeant(value, items)).toEqual(["gone:block"]);
    expect(toggleItem(value, "s:c~1", items)).toEqual(["gone:block", "a:block", "s:c~1"]);
    expect(toggleItem(value, "a:block", items)).toEqual(["gone:block"]);
    expect(toggleItem(value, "s:c~1", items, 1)).toEqual(["s:c~1"]);
  });
});

describe("a form waits until it is known what lies before its step", () => {
  const after = { items: [{ id: "s:c~1" }] as ItemView[] } as Evaluation;
  const withBefore = { ...after, before: [{ id: "a:block" }] as ItemView[] } as Evaluation;
  const editing = { step: { id: "s", type: "seam", suppressed: false }, isNew: false };

  test.each([
    ["nothing is known", { editing, evaluation: null, evaluatedFor: null }, false, []],
    ["just opened: what is shown is what comes after", { editing, evaluation: after, evaluatedFor: null }, false, []],
    ["another step was open", { editing, evaluation: withBefore, evaluatedFor: "t" }, false, []],
    ["known", { editing, evaluation: withBefore, evaluatedFor: "s" }, true, ["a:block"]],
    [
      "a new step begins with what is shown",
      { editing: { ...editing, isNew: true }, evaluation: after, evaluatedFor: null },
      true,
      ["s:c~1"],
    ],
    ["none is open", { editing: null, evaluation: after, evaluatedFor: null }, true, ["s:c~1"]],
  ] as const)("%s", (_name, state, known, ids) => {
    expect(benchKnown(state as never)).toBe(known);
    expect(pickable(state as never).map(({ id }) => id)).toEqual(ids);
  });
});
