import { describe, expect, test } from "vitest";
import { type Dimension, type Entity, placeOf, profileOf, type Sketch, SketchEdit, solveSketch } from "@/core/sketch";
import { gripOn } from "./dragging";
import { type HalfDrawn, pressed, preview, typed } from "./half-drawn";
import { snap } from "./snapping";
import { CHANGE_TOOLS } from "./tools/change-tools";
import { DRAW_TOOLS, type Sizes } from "./tools/draw-tools";
import { FIRST_SETTINGS, type Settings } from "./tools/settings";
import { snapWords, wordFor } from "./words";

const empty: Sketch = { entities: [], constraints: [], dimensions: [] };
const sizeOf = ({ value }: Dimension) => Number(value);
type At = readonly [number, number];

/** Clicks of one tool at places, mm, at ten pixels per millimetre. */
function clicks(name: string, places: readonly At[], sketch = empty, settings = FIRST_SETTINGS) {
  const tool = DRAW_TOOLS[name]!;
  let state: { sketch: Sketch; drawing: HalfDrawn | null } = { sketch, drawing: null };
  for (const place of places) {
    const stops = state.drawing?.stops ?? [];
    const hit = snap(state.sketch, place, stops.at(-1) ?? null, 10, false, tool.many ? stops : []);
    state = pressed(tool, state.sketch, state.drawing, hit, settings);
  }
  return state;
}
const areas = ({ entities }: { entities: Entity[] }) => profileOf(entities).regions.map(({ area }) => area);

describe("what the pointer means", () => {
  const sketch = new SketchEdit(empty);
  sketch.point([20, 10]);
  sketch.line([0, 40], [20, 60]);
  sketch.circle([60, 60], 10);
  sketch.line([-40, -30], [-20, -30]);

  test.each([
    ["a point near by", [20.4, 10.3], null, { place: "p1", rule: "point", line: null }],
    ["the origin", [0.2, -0.3], null, { place: "origin", rule: "point" }],
    ["nearly level", [40, 0.9], [12, 0], { place: [40, 0], rule: null, line: { type: "horizontal" } }],
    ["nearly upright", [12.4, 30], [12, 0], { place: [12, 30], line: { type: "vertical" } }],
    ["neither", [30, 22], [12, 0], { place: [30, 22], rule: null, line: null }],
    ["the middle of a line", [10.3, 50.2], null, { rule: "midpoint", with: "l1", at: [10, 50] }],
    ["on a circle", [70.4, 60], null, { rule: "on", with: "c1", at: [70, 60] }],
    ["level, on a circle", [70.2, 60.3], [90, 60], { rule: "on", with: "c1", line: { type: "horizontal" } }],
    ["along with another line", [50.2, 30], [30, 10], { rule: null, line: { type: "parallel", with: "l1" } }],
  ] as const)("%s", (_name, at, from, expected) => {
    expect(snap(sketch, at, from && { at: from, place: from }, 10, false)).toMatchObject(expected);
  });

  test("square to the line that ends there, and straight on from an arc", () => {
    const edit = new SketchEdit(sketch);
    const line = edit.line([100, 0], [110, 5]);
    const { to } = edit.find(line) as { to: string };
    expect(snap(edit, [105.1, 15], { at: [110, 5], place: to }, 10, false).line).toEqual({
      type: "perpendicular",
      with: line,
    });
    const arc = edit.arc([150, 0], [160, 0], [150 + Math.SQRT1_2 * 10, Math.SQRT1_2 * 10]);
    const end = (edit.find(arc) as { to: string }).to;
    const from = placeOf(edit, end);
    expect(snap(edit, [from[0] - 10, from[1] + 10.1], { at: from, place: end }, 10, false).line).toEqual({
      type: "tangent",
      with: arc,
    });
  });

  test("nothing is held while the key for that is down", () => {
    const from = { at: [0, 10], place: "origin" } as const;
    expect(snap(sketch, [20.1, 10.1], from, 10, true)).toEqual({
      place: [20.1, 10.1],
      at: [20.1, 10.1],
      rule: null,
      line: null,
    });
  });
});

describe("clicks", () => {
  test("a chain of lines closes where it began, level and upright held", () => {
    const places = [
      [5, 5],
      [25, 5.4],
      [25.3, 20],
      [5, 5],
    ] as const;
    const { sketch, drawing } = clicks("line", places);
    expect(drawing).toBeNull();
    expect(sketch.entities.map(({ type }) => type)).toEqual(["point", "point", "line", "point", "line", "line"]);
    expect(sketch.constraints.map(({ type }) => type)).toEqual(["horizontal", "vertical"]);
    expect(areas(sketch)).toEqual([150]);
  });

  test("a chain goes on until it is ended, with a round piece tangent to the last", () => {
    const first = clicks("line", [
      [5, 5],
      [25, 5],
    ]);
    expect(first.drawing).toMatchObject({ stops: [{ place: "p2" }], first: "p1" });
    const hit = snap(first.sketch, [25, 15], first.drawing!.stops[0]!, 10, false);
    const round = pressed(DRAW_TOOLS.onwards!, first.sketch, first.drawing, hit, FIRST_SETTINGS);
    expect(round.sketch.entities.at(-1)).toMatchObject({ type: "arc", from: "p2" });
    expect(round.sketch.constraints.map(({ type }) => type)).toEqual(["horizontal", "tangent"]);
    expect(round.drawing).toMatchObject({ stops: [{ at: [25, 15] }], first: "p1" });
  });

  test.each<[string, readonly At[], number, Partial<Settings>?]>([
    [
      "rectangle",
      [
        [0, 0],
        [30, 20],
      ],
      600,
    ],
    [
      "centred",
      [
        [0, 0],
        [15, 10],
      ],
      600,
    ],
    [
      "circle",
      [
        [40, 40],
        [43, 44],
      ],
      25 * Math.PI,
    ],
    [
      "circle3",
      [
        [5, 0],
        [0, 5],
        [-3, -4],
      ],
      25 * Math.PI,
    ],
    [
      "slot",
      [
        [2, 2],
        [32, 2],
        [12, 7],
      ],
      300 + 25 * Math.PI,
    ],
    [
      "polygon",
      [
        [2, 2],
        [12, 2],
      ],
      200,
      { sides: 4 },
    ],
    [
      "ellipse",
      [
        [2, 2],
        [12, 2],
        [5, 7],
      ],
      50 * Math.PI,
    ],
  ])("%s", (tool, places, area, settings) => {
    const { sketch, drawing } = clicks(tool, places, empty, { ...FIRST_SETTINGS, ...settings });
    expect(drawing).toBeNull();
    expect(areas(sketch)).toHaveLength(1);
    expect(areas(sketch)[0]).toBeCloseTo(area, 9);
    expect(solveSketch(sketch, sizeOf)).toMatchObject({ met: true, conflicts: [] });
  });

  test.each(["through", "control"] as const)(
    "a spline %s places ends with a second click there, or closes at the first",
    (form) => {
      const places = [
        [10, 10],
        [20, 18],
        [30, 10],
      ] as const;
      const open = clicks(form, [...places, [30.2, 10.1]]);
      expect(open.drawing).toBeNull();
      expect(open.sketch.entities.at(-1)).toMatchObject({
        type: "spline",
        form,
        closed: false,
        points: ["p1", "p2", "p3"],
      });
      expect(clicks(form, [...places, [10.3, 10]]).sketch.entities.at(-1)).toMatchObject({ closed: true });
    },
  );

  test("an arc, a point and words", () => {
    expect(
      clicks("arc", [
        [10, 10],
        [20, 10],
        [10, 30],
      ]).sketch.entities.at(-1),
    ).toMatchObject({ type: "arc" });
    expect(
      clicks("arc3", [
        [10, 10],
        [20, 10],
        [15, 13],
      ]).sketch.entities.at(-1),
    ).toMatchObject({ type: "arc" });
    expect(clicks("point", [[10, 10]]).sketch.entities).toHaveLength(1);
    const words = clicks(
      "text",
      [
        [10, 10],
        [40, 10],
      ],
      empty,
      { ...FIRST_SETTINGS, text: "Pier", height: 5 },
    );
    expect(words.sketch.entities.at(-1)).toMatchObject({ type: "text", text: "Pier", height: 5 });
    expect(words.sketch.entities).toHaveLength(3);
  });

  test("what is clicked on holds: a line that ends on a circle", () => {
    const circle = clicks("circle", [
      [40, 40],
      [50, 40],
    ]).sketch;
    const { sketch } = clicks(
      "line",
      [
        [10, 13],
        [33.2, 32.6],
      ],
      circle,
    );
    expect(sketch.constraints).toEqual([expect.objectContaining({ type: "on", of: ["p3", "c1"] })]);
  });

  test.each(["rectangle", "line", "circle", "polygon", "text"])(
    "%s: a second click in the same place draws nothing",
    (tool) => {
      expect(
        clicks(tool, [
          [30, 30],
          [30, 30],
        ]).sketch,
      ).toBe(empty);
    },
  );
});

describe("typed sizes stay as dimensions", () => {
  const from: HalfDrawn = { stops: [{ place: [3, 4], at: [3, 4] }] };
  const after = (tool: string, sizes: Sizes) => {
    const { sketch } = typed(DRAW_TOOLS[tool]!, empty, from, sizes, FIRST_SETTINGS);
    const state = solveSketch(sketch, sizeOf);
    expect(state).toMatchObject({ met: true, conflicts: [] });
    return { ...sketch, ...state };
  };

  test.each<[string, Sizes, number[], number, number]>([
    ["rectangle", { width: 40, height: -25 }, [40, 25], 2, 1000],
    ["centred", { width: 40, height: 25 }, [40, 25], 2, 1000],
    ["circle", { diameter: 12.7 }, [12.7], 2, Math.PI * 6.35 ** 2],
    ["slot", { length: 30, angle: 0, width: 10 }, [30, 5], 2, 300 + 25 * Math.PI],
    ["polygon", { diameter: 20, angle: 0 }, [20], 3, 150 * Math.sqrt(3)],
  ])("%s", (tool, sizes, values, degrees, area) => {
    const drawn = after(tool, sizes);
    expect(drawn.dimensions.map(({ value }) => value)).toEqual(values);
    expect(drawn.degrees).toBe(degrees);
    expect(areas(drawn)[0]).toBeCloseTo(area, 9);
  });

  test("an arc by its radius, where it begins, and how far it turns, either way", () => {
    for (const turn of [90, -90]) {
      const drawn = after("arc", { radius: 10, angle: 0, turn });
      expect(drawn.dimensions.map(({ type }) => type)).toEqual(["radius"]);
      const ends = drawn.entities.filter(({ type }) => type === "point").map(({ id }) => placeOf(drawn, id));
      expect(ends.map(([, y]) => Math.round(y * 1e6) / 1e6).sort((a, b) => a - b)).toEqual(
        turn > 0 ? [4, 4, 14] : [-6, 4, 4],
      );
    }
  });

  test.each([
    [0, "horizontal"],
    [90, "vertical"],
    [180, "horizontal"],
    [30, null],
  ] as const)("a line at %d°", (angle, rule) => {
    const drawn = after("line", { length: 10, angle });
    expect(drawn.constraints.map(({ type }) => type)).toEqual(rule ? [rule] : []);
    expect(drawn.dimensions.map(({ type }) => type).sort()).toEqual(rule ? ["distance"] : ["angle", "distance"]);
    const end = drawn.entities.find(({ id }) => id === "p2") as { x: number; y: number };
    expect(end.x).toBeCloseTo(3 + 10 * Math.cos((angle * Math.PI) / 180), 9);
    expect(end.y).toBeCloseTo(4 + 10 * Math.sin((angle * Math.PI) / 180), 9);
  });
});

describe("what is shown before the click is what it draws", () => {
  const hover = (at: At) => ({ place: at, at, rule: null, line: null });

  test.each(["line", "rectangle", "circle", "polygon", "text"])("%s", (name) => {
    const tool = DRAW_TOOLS[name]!;
    const drawing: HalfDrawn = { stops: [{ place: [0, 5], at: [0, 5] }] };
    const shown = preview(tool, empty, drawing, hover([13, 24]), FIRST_SETTINGS);
    const { sketch } = pressed(tool, empty, drawing, hover([13, 24]), FIRST_SETTINGS);
    expect(shown.length).toBeGreaterThan(0);
    expect(new Set(shown.map(({ entity }) => entity))).toEqual(
      new Set(sketch.entities.filter(({ type }) => type !== "point").map(({ id }) => id)),
    );
  });

  test("while too few places are clicked, the way between them", () => {
    const drawing: HalfDrawn = { stops: [{ place: [0, 5], at: [0, 5] }] };
    expect(preview(DRAW_TOOLS.slot!, empty, drawing, hover([30, 5]), FIRST_SETTINGS)).toHaveLength(1);
  });
});

describe("in words", () => {
  const edit = new SketchEdit(empty);
  const line = edit.line([0, 0], [10, 0]);
  const sketch = { given: edit.entities };

  test("what was not drawn is called by what it is", () => {
    expect(wordFor(sketch, line)).toBe("an edge of a body");
    expect(wordFor(sketch, "p1")).toBe("a corner of a body");
    expect(wordFor(sketch, "axis-x")).toBe("the X axis");
    expect(wordFor({}, "l7")).toBe("l7");
  });

  test("a place and the way to it", () => {
    const base = { place: [0, 0] as const, at: [0, 0] as const };
    expect(snapWords(sketch, { ...base, rule: "on", with: line, line: { type: "horizontal" } })).toBe(
      "level, on an edge of a body",
    );
    expect(snapWords({}, { ...base, rule: null, line: { type: "tangent", with: "a1" } })).toBe("tangent to a1");
    expect(snapWords({}, { ...base, rule: null, line: null })).toBe("");
  });
});

describe("what a press takes hold of", () => {
  const edit = new SketchEdit(empty);
  edit.line("origin", [20, 0]);
  edit.circle([40, 0], 5);
  edit.arc([60, 0], [70, 0], [60, 10]);
  const grip = (id: string, from: At) => gripOn(edit, edit.find(id)!, from)!;

  test("a point by itself; a circle by its rim; a curve by its points, but not by the origin", () => {
    expect(grip("p1", [20, 0]).to([25, 3])).toEqual([[25, 3]]);
    expect(grip("c1", [45, 0]).to([40, 8])).toEqual([8]);
    expect(grip("l1", [10, 0])).toMatchObject({ held: ["p1"] });
    expect(grip("l1", [10, 0]).to([12, 5])).toEqual([[22, 5]]);
    expect(grip("a1", [67, 7]).held).toHaveLength(3);
  });

  test("what bodies give does not move", () => {
    const given = new SketchEdit({ ...empty, given: edit.entities });
    expect(gripOn(given, given.find("l1")!, [0, 0])).toBeNull();
  });
});

describe("changing tools say what to click", () => {
  const drawn = clicks("rectangle", [
    [0, 0],
    [30, 20],
  ]).sketch;
  const nothing = { at: [100, 100] as const, point: null, curve: null };

  test.each([
    ["trim", "Click on a curve"],
    ["extend", "Click on a curve"],
    ["round", "Click on a corner"],
    ["cut", "Click on a corner"],
    ["mirror", "Click on a curve"],
    ["offset", "Pick the lines"],
  ])("%s", (name, words) => {
    expect(() => CHANGE_TOOLS[name]!.apply(drawn, nothing, [], FIRST_SETTINGS)).toThrow(words);
  });

  test("round takes its radius from the setting", () => {
    const target = { at: [30, 20] as const, point: "p2", curve: "l1" };
    const after = CHANGE_TOOLS.round!.apply(drawn, target, [], { ...FIRST_SETTINGS, radius: 4 });
    expect(after.dimensions).toEqual([expect.objectContaining({ type: "radius", value: 4 })]);
  });
});
