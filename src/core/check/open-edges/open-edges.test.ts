import { beforeAll, describe, expect, test } from "vitest";
import { loadNodeKernel } from "../../kernel/library/node";
import { checked } from "../../testing/checks";
import { buildSteps } from "../../testing/harness";

beforeAll(loadNodeKernel);

const block = { id: "a", type: "box", size: [40, 30, 20] };
const face = (name: string, body = "a:block") => ({ body, face: `a:side:${name}` });

describe("open edges of all bodies", () => {
  test("closed bodies have none", () => {
    const result = checked(buildSteps(block, { id: "b", type: "sphere", diameter: 10, at: [80, 0, 0] }), "open-edges");
    expect(result).toMatchObject({ summary: "All 2 bodies are closed.", good: true, found: [], lit: [] });
  });

  test("of sheets: how many, and how long in all, by hand; lit in the view", () => {
    const built = buildSteps(
      block,
      { id: "top", type: "offset-sheet", faces: [face("z+")] },
      { id: "angle", type: "offset-sheet", faces: [face("x+"), face("y+")] },
    );
    const result = checked(built, "open-edges");
    // 40 × 30: 140 round it. Two sides of 30 and 40 by 20: 2 × (30 + 40) + 2 × 20 round them.
    expect(result.found.map(({ cells, bad }) => [...cells, bad])).toEqual([
      [expect.any(String), "4", { length: expect.closeTo(140, 6) }, false],
      [expect.any(String), "6", { length: expect.closeTo(180, 6) }, false],
    ]);
    expect(result.summary).toBe("10 open edges of 2 bodies, all sheets.");
    expect(result.lit.map(({ edges }) => edges.length)).toEqual([4, 6]);
  });

  test("a ring of a sheet: two circles", () => {
    const built = buildSteps(
      { id: "a", type: "cylinder", diameter: 20, height: 30 },
      { id: "skin", type: "offset-sheet", faces: [{ body: "a:cylinder", face: "a:side" }] },
    );
    const [found] = checked(built, "open-edges").found;
    expect(found!.cells.slice(1)).toEqual(["2", { length: expect.closeTo(2 * Math.PI * 20, 6) }]);
  });

  test("what is no check, and values that are none, are told", () => {
    const built = buildSteps(block);
    expect(() => checked(built, "weight")).toThrow(/“weight” is no check/);
    expect(() => checked(built, "draft", { along: "up" })).toThrow(/^Drawn out along: /);
  });
});
