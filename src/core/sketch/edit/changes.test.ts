import { describe, expect, test } from "vitest";
import { SketchMaker } from "../../testing/sketches";
import { curvesOf, pointAt } from "../curves";
import type { Entity, Sketch } from "../entities";
import { profileOf } from "../item";
import { SketchFault, solveSketch } from "../solver";
import { copyOf, paste } from "./copy";
import { cutCorner, roundCorner } from "./corner";
import { mirror } from "./mirror";
import { offset } from "./offset";
import {
  arcAround,
  arcOnwards,
  arcThrough,
  centredRectangle,
  circleThrough,
  ellipseAbout,
  polygon,
  rectangle,
  slot,
} from "./shapes";
import { SketchEdit } from "./sketch-edit";
import { extend, trim } from "./trim";

const empty: Sketch = { entities: [], constraints: [], dimensions: [] };
const sizeOf = ({ value }: { value: unknown }) => Number(value);

/** Solves; what was drawn has to hold as drawn, with nothing said twice. */
function solved(sketch: Sketch, moves = 0) {
  const state = solveSketch(sketch, sizeOf);
  expect(state.conflicts).toEqual([]);
  expect(state.met).toBe(true);
  for (const entity of state.entities) {
    const before = sketch.entities.find(({ id }) => id === entity.id)!;
    if (entity.type === "point" && before.type === "point")
      expect(Math.hypot(entity.x - before.x, entity.y - before.y)).toBeLessThan(1e-6 + moves);
  }
  return { ...sketch, ...state };
}
const drawn = (draw: (edit: SketchEdit) => unknown) => {
  const edit = new SketchEdit(empty);
  expect(draw(edit)).not.toBeNull();
  return solved(edit.parts);
};
const areas = ({ entities }: { entities: Entity[] }) =>
  profileOf(entities)
    .regions.map(({ area }) => area)
    .sort((a, b) => a - b);
const holds = ({ constraints }: Sketch) => constraints.map(({ type }) => type).sort();

describe("shapes hold what makes them what they are, and nothing more", () => {
  test.each([
    ["a rectangle from corner to corner", (e: SketchEdit) => rectangle(e, [0, 0], [30, 20]), 4, 600],
    ["a rectangle about its centre", (e: SketchEdit) => centredRectangle(e, [5, 5], [20, 15]), 4, 600],
    ["a slot", (e: SketchEdit) => slot(e, [0, 0], [30, 0], 5), 5, 300 + 25 * Math.PI],
    ["a hexagon", (e: SketchEdit) => polygon(e, [0, 0], [10, 0], 6), 4, 150 * Math.sqrt(3)],
    ["a pentagon", (e: SketchEdit) => polygon(e, [3, 4], [3, 14], 5), 4, 250 * Math.sin((2 * Math.PI) / 5)],
    ["an ellipse", (e: SketchEdit) => ellipseAbout(e, [0, 0], [6, 8], [-4, 3]), 5, 50 * Math.PI],
    [
      "an ellipse by its short axis first",
      (e: SketchEdit) => ellipseAbout(e, [0, 0], [5, 0], [0, 10]),
      5,
      50 * Math.PI,
    ],
    [
      "a circle through three places",
      (e: SketchEdit) =>
        circleThrough(e, [
          [5, 0],
          [0, 5],
          [-3, -4],
        ]),
      3,
      25 * Math.PI,
    ],
  ] as const)("%s", (_name, draw, degrees, area) => {
    const sketch = drawn(draw);
    expect(sketch.degrees).toBe(degrees);
    expect(areas(sketch)).toHaveLength(1);
    expect(areas(sketch)[0]).toBeCloseTo(area, 9);
  });

  test("a circle through points of the drawing stays on them", () => {
    const sketch = drawn((e) => circleThrough(e, [e.point([5, 0]), e.point([0, 5]), e.point([-3, -4])]));
    expect(sketch.degrees).toBe(6);
    expect(holds(sketch)).toEqual(["on", "on", "on"]);
  });

  test.each([
    ["to the left", [0, 5], [5, 0], [-5, 0]],
    ["to the right", [0, -5], [-5, 0], [5, 0]],
  ] as const)("an arc through a third place, bulging %s", (_name, through, from, to) => {
    const sketch = drawn((e) => arcThrough(e, [5, 0], [-5, 0], through));
    const [curve] = curvesOf(sketch.entities);
    for (const k of [0, 1]) expect(pointAt(curve!, 0.5)[k]).toBeCloseTo(through[k]!, 9);
    expect(pointAt(curve!, 0)[0]).toBeCloseTo(from[0], 9);
    expect(pointAt(curve!, 1)[0]).toBeCloseTo(to[0], 9);
  });

  test("an arc round a centre goes the shorter way", () => {
    for (const [towards, sweep] of [
      [[0, 9], Math.PI / 2],
      [[0, -9], Math.PI / 2],
    ] as const) {
      const [curve] = curvesOf(drawn((e) => arcAround(e, [0, 0], [4, 0], towards)).entities);
      expect(curve!.shape).toMatchObject({ radius: 4 });
      expect((curve!.shape as { sweep: number }).sweep).toBeCloseTo(sweep, 12);
    }
  });

  test("an arc goes on from a line, tangent to it; straight on there is none", () => {
    const edit = new SketchEdit(empty);
    edit.line([0, 0], [10, 0]);
    expect(arcOnwards(edit, "p2", [20, 0])).toBeNull();
    const arc = arcOnwards(edit, "p2", [10, 8])!;
    const sketch = solved(edit.parts);
    expect(sketch.entities.find(({ id }) => id === arc)).toMatchObject({ from: "p2" });
    const curve = curvesOf(sketch.entities).find(({ id }) => id === arc)!;
    expect(curve.shape).toMatchObject({ radius: 4, centre: [10, 4] });
    expect(holds(sketch)).toEqual(["tangent"]);
  });

  test("what has no size is not drawn", () => {
    const edit = new SketchEdit(empty);
    expect(slot(edit, [1, 1], [1, 1], 3)).toBeNull();
    expect(polygon(edit, [1, 1], [1, 1], 5)).toBeNull();
    expect(
      circleThrough(edit, [
        [0, 0],
        [1, 1],
        [2, 2],
      ]),
    ).toBeNull();
    expect(arcThrough(edit, [0, 0], [2, 2], [1, 1])).toBeNull();
    expect(ellipseAbout(edit, [0, 0], [5, 0], [3, 0])).toBeNull();
    expect(edit.entities).toEqual([]);
  });
});

describe("trim", () => {
  /** A line with two others crossing it. */
  const ladder = () => {
    const d = new SketchMaker();
    d.line("a", [0, 0], [30, 0]);
    d.line("b", [10, -5], [10, 5]);
    d.line("c", [20, -5], [20, 5]);
    return d;
  };

  test("an end goes back to where something crosses, and stays on it", () => {
    const after = solved(trim(ladder(), "a", [28, 0]));
    const line = after.entities.find(({ id }) => id === "a") as { to: string };
    expect(after.entities.find(({ id }) => id === line.to)).toMatchObject({ x: 20, y: 0 });
    expect(after.entities.some(({ id }) => id === "a_b")).toBe(false);
    expect(after.constraints).toEqual([expect.objectContaining({ type: "on", of: [line.to, "c"] })]);
  });

  test("out of the middle: two lines that stay in line", () => {
    const after = solved(trim(ladder(), "a", [15, 0]));
    expect(after.entities.filter(({ type }) => type === "line")).toHaveLength(4);
    expect(holds(after)).toEqual(["on", "on", "on", "on"]);
    // Six ways for two free lines and two for the one in two parts are as many as before: three lines.
    expect(after.degrees).toBe(12);
  });

  test("a circle between crossings becomes an arc under the same id; its dimension stays", () => {
    const d = new SketchMaker();
    d.circle("c", [0, 0], 10);
    d.line("l", [-20, 6], [20, 6]);
    d.size("radius", 10, "c");
    const after = solved(trim(d, "c", [0, 10]));
    expect(after.entities.find(({ id }) => id === "c")).toMatchObject({ type: "arc", centre: "c_c" });
    expect(after.dimensions).toHaveLength(1);
    // What stays is the larger part, under the line.
    const curve = curvesOf(after.entities).find(({ id }) => id === "c")!;
    expect(pointAt(curve, 0.5)[1]).toBeCloseTo(-10, 9);
  });

  test("an ellipse becomes part of one; its area with the chord by closed form", () => {
    const d = new SketchMaker();
    d.ellipse("e", [0, 0], [10, 0], 5);
    d.line("l", [-20, 0], [20, 0]);
    const after = solved(trim(d, "e", [0, 5]));
    expect(areas(after)[0]).toBeCloseTo((Math.PI * 10 * 5) / 2, 7);
  });

  test("an arc out of the middle keeps its centre and radius", () => {
    const d = new SketchMaker();
    d.arc("a", [0, 0], [10, 0], [-10, 0]);
    d.line("l", [-6, 0], [-6, 20]);
    d.line("m", [6, 0], [6, 20]);
    const after = solved(trim(d, "a", [0, 10]));
    expect(holds(after)).toEqual(["equal", "on", "on"]);
    expect(after.entities.filter(({ type }) => type === "arc")).toHaveLength(2);
  });

  test("what nothing crosses goes whole; a closed curve met once is refused; so is a spline", () => {
    const d = new SketchMaker();
    d.circle("c", [0, 0], 10);
    expect(trim(d, "c", [10, 0]).entities).toEqual([]);
    d.line("l", [0, 0], [20, 0]);
    expect(() => trim(d, "c", [0, 10])).toThrow("one place only");
    const spline = new SketchEdit(empty);
    spline.spline(
      [
        [0, 0],
        [5, 5],
        [10, 0],
      ],
      "through",
    );
    expect(() => trim(spline, "s1", [5, 5])).toThrow(SketchFault);
  });

  test("the length that a dimension held is no more; what is held elsewhere stays", () => {
    const d = ladder();
    d.size("distance", 30, "a");
    d.holds("horizontal", "a");
    const after = solved(trim(d, "a", [28, 0]));
    expect(after.dimensions).toEqual([]);
    expect(holds(after)).toEqual(["horizontal", "on"]);
  });
});

describe("extend", () => {
  test("a line to the next thing that lies ahead", () => {
    const d = new SketchMaker();
    d.line("a", [0, 0], [10, 0]);
    d.circle("c", [30, 0], 5);
    d.line("b", [50, -5], [50, 5]);
    const after = solved(extend(d, "a", [9, 0]));
    const line = after.entities.find(({ id }) => id === "a") as { to: string };
    expect(after.entities.find(({ id }) => id === line.to)).toMatchObject({ x: 25, y: 0 });
    expect(() => extend(d, "a", [1, 0])).toThrow("Nothing lies that way");
  });

  test("an arc round to a line that ends on it", () => {
    const d = new SketchMaker();
    d.arc("a", [0, 0], [10, 0], [0, 10]);
    d.line("l", [-15, 0], [-5, 0]);
    const after = solved(extend(d, "a", [0, 10]));
    const curve = curvesOf(after.entities).find(({ id }) => id === "a")!;
    expect((curve.shape as { sweep: number }).sweep).toBeCloseTo(Math.PI, 9);
  });

  test("a corner that others share stays where it is", () => {
    const d = new SketchMaker();
    d.line("a", [0, 0], [10, 0]);
    d.line("b", "a_b", [10, 10]);
    d.line("c", [20, -5], [20, 5]);
    const after = solved(extend(d, "a", [10, 0]));
    expect(after.entities.find(({ id }) => id === "a_b")).toMatchObject({ x: 10, y: 0 });
    expect(after.entities.find(({ id }) => id === "a")).not.toMatchObject({ to: "a_b" });
  });
});

describe("corners", () => {
  const square = () => {
    const edit = new SketchEdit(empty);
    rectangle(edit, [0, 0], [40, 30]);
    edit.size("distance", ["l1"], 40);
    edit.size("distance", ["l2"], 30);
    return edit.parts;
  };

  test("rounded: r² − πr²/4 is gone, the sizes are still of the whole sides", () => {
    const after = solved(roundCorner(square(), "p3", 8));
    expect(areas(after)[0]).toBeCloseTo(1200 - (64 - 16 * Math.PI), 9);
    expect(after.degrees).toBe(2);
    expect(after.dimensions.map(({ type }) => type)).toEqual(["distance", "distance", "radius"]);
    const wider = { ...after, dimensions: after.dimensions.map((one, i) => (i === 0 ? { ...one, value: 60 } : one)) };
    expect(areas(solved(wider as Sketch, 30))[0]).toBeCloseTo(1800 - (64 - 16 * Math.PI), 6);
  });

  test("all four, one after the other", () => {
    const after = solved(["p1", "p2", "p3", "p4"].reduce((sketch, point) => roundCorner(sketch, point, 5), square()));
    expect(areas(after)[0]).toBeCloseTo(1200 - 4 * (25 - (25 * Math.PI) / 4), 9);
    expect(after.degrees).toBe(2);
  });

  test("cut off: d²/2 is gone", () => {
    const after = solved(cutCorner(square(), "p1", 6));
    expect(areas(after)[0]).toBeCloseTo(1200 - 18, 9);
    expect(after.degrees).toBe(2);
  });

  test("between a line and an arc", () => {
    const d = new SketchMaker();
    d.arc("a", [0, 0], [10, 0], [0, 10]);
    d.line("l", "a_b", [0, -10]);
    const after = solved(roundCorner(d, "a_b", 2));
    const arc = after.entities.find(({ id, type }) => type === "arc" && id !== "a") as { centre: string };
    const centre = after.entities.find(({ id }) => id === arc.centre) as { x: number; y: number };
    // Inside a circle of 10 and beside its radius: 2 from the line, 8 from the centre.
    expect(Math.hypot(centre.x, centre.y)).toBeCloseTo(8, 9);
    expect(centre.x).toBeCloseTo(2, 9);
  });

  test("what does not fit is refused with the reason", () => {
    expect(() => roundCorner(square(), "p3", 31)).toThrow("too large");
    expect(() => cutCorner(square(), "p3", 30)).toThrow("too short");
    const d = new SketchMaker();
    d.line("a", [0, 0], [10, 0]);
    d.line("b", "a_b", [20, 0]);
    expect(() => roundCorner(d, "a_b", 1)).toThrow("no corner");
    expect(() => roundCorner(d, "a_a", 1)).toThrow("exactly two");
  });
});

describe("mirror", () => {
  test("half an outline becomes a whole one, and follows when it is changed", () => {
    const d = new SketchMaker();
    d.point("p", 0, 0);
    d.line("a", "p", [20, 0]);
    d.line("b", "a_b", [15, 10]);
    d.line("c", "b_b", d.point("top", 0, 12));
    d.holds("on", "p", "axis-y");
    d.holds("on", "top", "axis-y");
    const after = solved(mirror(d, ["a", "b", "c"], "axis-y"));
    expect(areas(after)).toHaveLength(1);
    const half = 0.5 * (20 * 10 - 15 * 0 + 15 * 12 - 0 * 10);
    expect(areas(after)[0]).toBeCloseTo(2 * half, 9);
    expect(after.degrees).toBe(solveSketch(d, sizeOf).degrees);
  });

  test("circles, arcs, splines and letters", () => {
    const edit = new SketchEdit(empty);
    edit.circle([10, 0], 3);
    edit.arc([20, 0], [25, 0], [20, 5]);
    edit.spline(
      [
        [30, 0],
        [35, 5],
        [40, 0],
      ],
      "through",
    );
    edit.text([50, 0], [60, 0], "R", 10);
    const before = solveSketch(edit.parts, sizeOf).degrees;
    const after = solved(mirror(edit.parts, ["c1", "a1", "s1", "t1"], "axis-y"));
    // The height of the second text is its own.
    expect(after.degrees).toBe(before + 1);
    const [original, image] = ["a1", "a2"].map((id) => curvesOf(after.entities).find((curve) => curve.id === id)!);
    expect(pointAt(image!, 0.5)[0]).toBeCloseTo(-pointAt(original!, 0.5)[0], 9);
    expect(pointAt(image!, 0.5)[1]).toBeCloseTo(pointAt(original!, 0.5)[1], 9);
    const text = (id: string) => curvesOf(after.entities).filter(({ entity }) => entity === id);
    text("t1").forEach((curve, i) => {
      const [p, q] = [pointAt(curve, 0.3), pointAt(text("t2")[i]!, 0.3)];
      expect(q[0]).toBeCloseTo(-p[0], 9);
      expect(q[1]).toBeCloseTo(p[1], 9);
    });
  });

  test("without a line, or with nothing picked, it says what to pick", () => {
    const d = new SketchMaker();
    d.circle("c", [10, 0], 3);
    expect(() => mirror(d, ["c"], "c")).toThrow("Pick a line");
    expect(() => mirror(d, [], "axis-x")).toThrow("Pick what");
  });
});

describe("offset", () => {
  const shape = (draw: (edit: SketchEdit) => unknown) => drawn(draw);

  test.each([
    ["outwards", [100, 100], 36 * 26],
    ["inwards", [15, 10], 24 * 14],
  ] as const)("a rectangle %s", (_name, near, area) => {
    const before = shape((e) => rectangle(e, [0, 0], [30, 20]));
    const after = solved(offset(before, ["l1", "l2", "l3", "l4"], 3, near));
    const [inner, outer] = [Math.min(600, area), Math.max(600, area)];
    expect(areas(after).map((value) => Math.round(value * 1e6) / 1e6)).toEqual(
      [outer - inner, inner].sort((a, b) => a - b),
    );
    // It follows in size and place.
    expect(after.degrees).toBe(4);
    expect(after.dimensions).toEqual([expect.objectContaining({ type: "offset", value: 3 })]);
  });

  test("its one dimension drives all sides", () => {
    const before = shape((e) => {
      rectangle(e, [0, 0], [30, 20]);
      e.size("distance", ["l1"], 30);
      e.size("distance", ["l2"], 20);
    });
    const after = offset(before, ["l1", "l2", "l3", "l4"], 3, [100, 100]);
    const dimensions = after.dimensions.map((one) => (one.type === "offset" ? { ...one, value: 5 } : one));
    const state = solved({ ...after, dimensions } as Sketch, 5);
    expect(areas(state).reduce((sum, area) => sum + area, 0)).toBeCloseTo(40 * 30, 6);
  });

  test("a slot, a circle, and round a whole outline with a bend", () => {
    const before = shape((e) => slot(e, [0, 0], [30, 0], 5));
    const after = solved(offset(before, ["l1", "a1", "l2", "a2"], 2, [0, 20]));
    expect(areas(after).reduce((sum, area) => sum + area, 0)).toBeCloseTo(30 * 14 + 49 * Math.PI, 9);
    expect(after.degrees).toBe(5);
    const circle = shape((e) => e.circle([0, 0], 10));
    const ring = solved(offset(circle, ["c1"], 4, [1, 0]));
    expect(areas(ring)[0]).toBeCloseTo(36 * Math.PI, 9);
    expect(ring.degrees).toBe(3);
  });

  test("an open chain, square at its ends", () => {
    const d = new SketchMaker();
    d.line("a", [0, 0], [20, 0]);
    d.line("b", "a_b", [20, 15]);
    const after = solved(offset(d, ["a", "b"], 2, [10, 5]));
    expect(after.degrees).toBe(6);
    const lines = after.entities.filter(({ type, construction }) => type === "line" && !construction);
    expect(lines).toHaveLength(4);
  });

  test("what would vanish, or cannot be exact, is refused", () => {
    const before = shape((e) => rectangle(e, [0, 0], [30, 20]));
    expect(() => offset(before, ["l1", "l2", "l3", "l4"], 11, [15, 10])).toThrow("Offset by less");
    const circle = shape((e) => e.circle([0, 0], 10));
    expect(() => offset(circle, ["c1"], 10, [0, 1])).toThrow("Offset by less");
    const ellipse = shape((e) => e.ellipse([0, 0], [10, 0], 5));
    expect(() => offset(ellipse, ["e1"], 1, [0, 0])).toThrow("exactly");
    expect(() => offset(ellipse, [], 1, [0, 0])).toThrow("Pick");
  });
});

describe("copy", () => {
  test("with what is held between the copied parts, under ids of its own; twice", () => {
    const before = drawn((e) => {
      rectangle(e, "origin", [30, 20]);
      e.size("distance", ["l1"], 30);
      e.circle([50, 50], 2);
    });
    const clip = copyOf(before, ["l1", "l2", "l3", "l4"]);
    const once = paste(before, clip, [100, 0]);
    const twice = paste(once.sketch, clip, [0, 100]);
    const after = solved(twice.sketch);
    expect(new Set(after.entities.map(({ id }) => id)).size).toBe(after.entities.length);
    expect(areas(after).map((area) => Math.round(area))).toEqual([13, 600, 600, 600]);
    expect(after.dimensions).toHaveLength(3);
    expect(once.pasted).toHaveLength(7);
  });

  test("into an empty sketch", () => {
    const before = drawn((e) => slot(e, [0, 0], [30, 0], 5));
    const after = solved(paste(empty, copyOf(before, ["l1", "a1", "l2", "a2"]), [0, 0]).sketch);
    expect(areas(after)[0]).toBeCloseTo(300 + 25 * Math.PI, 9);
    expect(after.degrees).toBe(5);
  });
});
