import { expect, test } from "vitest";
import { STANDARD_MATERIALS } from "@/core/job";
import { hatchLines, hatchOf } from "./hatch";

test("metals, plastics, rubbers, wood and plaster are ruled each in a way of its own; what is not known as metal", () => {
  const of = (names: string[]) => new Set(names.map(hatchOf));
  expect([...of(["Steel", "Brass", "Aluminium", "Unobtainium"])]).toEqual(["metal"]);
  expect(hatchOf(undefined)).toBe("metal");
  expect([...of(["PLA", "petg", "Nylon"])]).toEqual(["plastic"]);
  expect(of(STANDARD_MATERIALS.map(({ name }) => name)).size).toBe(5);
});

test("neighbours of one material are ruled in opposite ways, and no two hatches alike", () => {
  const hatches = ["metal", "plastic", "rubber", "wood", "plaster"] as const;
  for (const hatch of hatches) expect(hatchLines(hatch, true)).not.toBe(hatchLines(hatch, false));
  expect(new Set(hatches.map((hatch) => hatchLines(hatch, false))).size).toBe(5);
});
