import { describe, expect, test } from "vitest";
import type { ItemView, PieceView } from "@/engine/contract";
import { conditionsOf, EVERY, filterWords, inOrder, isEvery, isShown, kept, like, readRule } from "./piece-filter";
import { foundOf } from "./whereabouts";

const piece = (index: number, sides: Record<string, string>, volume: number, stock = "b:block") =>
  ({ index, key: `p${index}`, stock: [stock], sides, measures: { volume, area: 1 } }) as unknown as PieceView;
const pieces = [
  piece(0, { "w:plane": "front", ball: "in" }, 40),
  piece(1, { "w:plane": "front", ball: "out" }, 900),
  piece(2, { "w:plane": "back", ball: "out" }, 300),
  piece(3, { "w:plane": "back", ball: "out" }, 300, "c:block"),
];
const items = new Map<string, ItemView>(
  [
    { id: "b:block", name: "Block", kind: "solid" },
    { id: "c:block", name: "Bar", kind: "solid" },
    { id: "w:plane", name: "Level", kind: "workplane" },
    { id: "ball", name: "Ball", kind: "solid" },
  ].map((item) => [item.id, item as unknown as ItemView]),
);
const shown = (filter: Parameters<typeof isShown>[0]) =>
  pieces.filter((one) => isShown(filter, one)).map(({ index }) => index);

describe("which pieces are shown", () => {
  test("by side, by stock, by size, by all of it at once", () => {
    expect(shown(EVERY)).toEqual([0, 1, 2, 3]);
    expect(isEvery(EVERY)).toBe(true);
    expect(shown({ sides: { "w:plane": "back" } })).toEqual([2, 3]);
    expect(shown({ sides: { "w:plane": "front", ball: "out" } })).toEqual([1]);
    expect(shown({ stock: "c:block", sides: {} })).toEqual([3]);
    // What is exactly as large counts as at least that, and not as under it.
    expect(shown({ sides: {}, atLeast: 300 })).toEqual([1, 2, 3]);
    expect(shown({ sides: {}, under: 300 })).toEqual([0]);
    expect(isEvery({ sides: {}, under: 300 })).toBe(false);
  });

  test("all like one: of its stock, on its sides", () => expect(shown(like(pieces[2]!))).toEqual([2]));

  test("in order of size, those of one size by their numbers", () => {
    expect(inOrder(pieces, "largest").map(({ index }) => index)).toEqual([1, 2, 3, 0]);
    expect(inOrder(pieces, "smallest").map(({ index }) => index)).toEqual([0, 2, 3, 1]);
    expect(inOrder(pieces, "number")).toEqual(pieces);
  });
});

test("what can be asked for is what tells the pieces apart, in words", () => {
  expect(conditionsOf(pieces, items).map(({ label }) => label)).toEqual([
    "of Block",
    "in front of Level",
    "inside Ball",
    "outside Ball",
    "behind Level",
    "of Bar",
  ]);
  expect(conditionsOf(pieces.slice(3), items)).toEqual([]);
  const words = filterWords({ stock: "c:block", sides: { ball: "in" }, atLeast: 20, under: 500 }, items, "mm", false);
  expect(words).toBe("of Bar, inside Ball, 20 mm³ or more, under 500 mm³");
  expect(filterWords(EVERY, items, "mm", false)).toBe("all pieces");
});

test("a rule is kept with the names that the step lists, and read back as what they mean", () => {
  const found = foundOf({ items: { w: ["w:plane"], many: ["ball", "b:block"] }, picked: [] } as never);
  const filter = { stock: "b:block", sides: { "w:plane": "back", ball: "in" } as const };
  const where = kept(filter, ["many", "w"], found);
  // A name that means several things would say more than was asked for.
  expect(where).toEqual({ stock: "b:block", sides: { w: "back", ball: "in" } });
  expect(readRule({ where, fate: "scrap" }, found)).toEqual({ where: filter, fate: "scrap" });
});
