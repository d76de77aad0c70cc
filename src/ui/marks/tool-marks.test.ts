import { expect, test } from "vitest";
import { STAGE_LIST, TOOLS } from "../workspace/tools";
import { hasToolMark, toolOf } from "./tool-marks";

test("every tool has a mark of its own, and stands in one group of its stage", () => {
  expect(TOOLS.filter(({ id }) => !hasToolMark(id)).map(({ id }) => id)).toEqual([]);
  const shown = STAGE_LIST.flatMap(({ groups }) => groups.flatMap(({ tools }) => tools.map(({ id }) => id)));
  expect([...shown].sort()).toEqual(TOOLS.map(({ id }) => id).sort());
});

test("a step's mark is its tool's; of a seam its preset's", () => {
  expect(toolOf({ type: "box" })).toBe("box");
  expect(toolOf({ type: "seam", preset: "trim" })).toBe("seam-trim");
});
