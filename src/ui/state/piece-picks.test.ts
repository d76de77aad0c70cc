import { expect, test } from "vitest";
import type { PieceView } from "@/engine/contract";
import { freeGroup, neighboursOf, pickedTo, toggled } from "./piece-picks";

test("a piece is picked and left again; what was picked before stays as it was", () => {
  const before = new Set(["a"]);
  const both = toggled(before, "b");
  expect([...both]).toEqual(["a", "b"]);
  expect([...toggled(both, "a")]).toEqual(["b"]);
  expect([...before]).toEqual(["a"]);
});

test("all between two pieces as the tray has them, in either direction", () => {
  const order = ["c", "a", "d", "b"];
  expect([...pickedTo(new Set(), order, "a", "b")].sort()).toEqual(["a", "b", "d"]);
  expect([...pickedTo(new Set(["x"]), order, "d", "c")].sort()).toEqual(["a", "c", "d", "x"]);
  // What was picked last may be out of the tray by now, or nothing may have been.
  expect([...pickedTo(new Set(), order, "gone", "d")]).toEqual(["d"]);
  expect([...pickedTo(new Set(), order, null, "d")]).toEqual(["d"]);
});

test("a group's name is one that no other has", () => {
  expect(freeGroup([])).toBe("Group 1");
  expect(freeGroup(["Group 2", "Group 1", "Plug"])).toBe("Group 3");
});

test("neighbours by key; of what is no piece there are none", () => {
  const pieces = [
    { key: "p", neighbours: [1, 2] },
    { key: "q", neighbours: [0] },
  ] as unknown as PieceView[];
  expect([...neighboursOf(pieces, "p")]).toEqual([1, 2]);
  expect([...neighboursOf(pieces, "q")]).toEqual([0]);
  for (const nothing of [neighboursOf(pieces, "r"), neighboursOf(pieces, null), neighboursOf(null, "p")])
    expect(nothing.size).toBe(0);
});
