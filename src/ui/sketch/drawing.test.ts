import { describe, expect, test } from "vitest";
import { profileOf, type Sketch, SketchEdit, solveSketch } from "@/core/sketch";
import { type Drawing, drawTool, finish, pressed, type SketchTool } from "./drawing-tools";
import { snap } from "./snapping";

const empty: Sketch = { entities: [], constraints: [], dimensions: [] };
const sizeOf = ({ value }: { value: unknown }) => Number(value);

/** Clicks of one tool at places, mm, at ten pixels per millimetre. */
function clicks(tool: SketchTool, places: [number, number][], sketch = empty, free = false) {
  let state: { sketch: Sketch; drawing: Drawing | null } = { sketch, drawing: null };
  for (const place of places)
    state = pressed(
      tool,
      state.sketch,
      state.drawing,
      snap(state.sketch, place, state.drawing?.from.at ?? null, 10, free),
    );
  return state;
}

describe("what the pointer means", () => {
  const sketch = new SketchEdit(empty);
  sketch.point([20, 10]);

  test.each([
    ["a point near by", [20.4, 10.3], null, "p1", "point"],
    ["the origin", [0.2, -0.3], null, "origin", "point"],
    ["nearly level", [40, 0.9], [12, 0], [40, 0], "horizontal"],
    ["nearly upright", [12.4, 30], [12, 0], [12, 30], "vertical"],
    ["neither", [30, 30], [12, 0], [30, 30], null],
  ] as const)("%s", (_name, at, from, place, rule) => {
    expect(snap(sketch, at, from, 10, false)).toMatchObject({ place, rule });
  });

  test("nothing is held while the key for that is down", () => {
    expect(snap(sketch, [20.1, 10.1], [0, 10], 10, true)).toEqual({
      place: [20.1, 10.1],
      at: [20.1, 10.1],
      rule: null,
    });
  });
});

describe("clicks", () => {
  test("a chain of lines closes where it began, level and upright held", () => {
    const { sketch, drawing } = clicks("line", [
      [5, 5],
      [25, 5.4],
      [25.3, 20],
      [5, 5],
    ]);
    expect(drawing).toBeNull();
    expect(sketch.entities.map(({ type }) => type)).toEqual(["point", "point", "line", "point", "line", "line"]);
    expect(sketch.constraints.map(({ type }) => type)).toEqual(["horizontal", "vertical"]);
    expect(profileOf(sketch.entities).regions.map(({ area }) => area)).toEqual([150]);
  });

  test("a chain goes on until it is ended", () => {
    expect(
      clicks("line", [
        [5, 5],
        [25, 12],
      ]).drawing,
    ).toMatchObject({ from: { place: "p2" }, first: "p1" });
  });

  test("a rectangle and a circle; a second click in the same place draws nothing", () => {
    expect(
      profileOf(
        clicks("rectangle", [
          [0, 0],
          [30, 20],
        ]).sketch.entities,
      ).regions[0]!.area,
    ).toBe(600);
    expect(
      clicks("circle", [
        [40, 40],
        [43, 44],
      ]).sketch.entities.at(-1),
    ).toMatchObject({ type: "circle", radius: 5 });
    expect(
      clicks("rectangle", [
        [30, 30],
        [50, 30],
      ]).sketch,
    ).toBe(empty);
    expect(
      clicks("line", [
        [30, 30],
        [30, 30],
      ]).sketch,
    ).toBe(empty);
  });
});

describe("typed sizes stay as dimensions", () => {
  const from: Drawing = { from: { place: [3, 4], at: [3, 4] } };
  const after = (tool: SketchTool, sizes: Parameters<typeof finish>[3]) => {
    const { sketch } = finish(tool, empty, from, sizes);
    const state = solveSketch(sketch, sizeOf);
    expect(state).toMatchObject({ met: true, conflicts: [] });
    return { ...sketch, ...state };
  };

  test("a rectangle", () => {
    const drawn = after("rectangle", { width: 40, height: -25 });
    expect(drawn.dimensions.map(({ value }) => value)).toEqual([40, 25]);
    expect(drawn.degrees).toBe(2);
    expect(profileOf(drawn.entities).regions[0]!.area).toBeCloseTo(1000, 9);
  });

  test("a circle", () => {
    expect(after("circle", { diameter: 12.7 }).entities.at(-1)).toMatchObject({ radius: 6.35 });
  });

  test.each([
    [0, "horizontal"],
    [90, "vertical"],
    [180, "horizontal"],
    [30, null],
  ] as const)("a line at %d°", (angle, rule) => {
    const drawn = after("line", { length: 10, angle });
    expect(drawn.constraints.map(({ type }) => type)).toEqual(rule ? [rule] : []);
    expect(drawn.dimensions.map(({ type }) => type)).toEqual(rule ? ["distance"] : ["distance", "angle"]);
    const end = drawn.entities.find(({ id }) => id === "p2") as { x: number; y: number };
    expect(end.x).toBeCloseTo(3 + 10 * Math.cos((angle * Math.PI) / 180), 9);
    expect(end.y).toBeCloseTo(4 + 10 * Math.sin((angle * Math.PI) / 180), 9);
  });
});

test("what is shown before the click is what it draws", () => {
  const from: Drawing = { from: { place: [0, 0], at: [0, 0] } };
  expect(drawTool("line", from, { at: [3, 4] })).toEqual([
    [0, 0],
    [3, 4],
  ]);
  expect(drawTool("rectangle", from, { at: [3, 4] })).toHaveLength(5);
  for (const [x, y] of drawTool("circle", from, { at: [3, 4] })) expect(Math.hypot(x, y)).toBeCloseTo(5, 12);
});
