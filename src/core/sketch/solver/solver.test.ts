import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { SketchMaker, sizeOf, slot, solved } from "../../testing/sketches";
import { cross2, curvesOf, distance2, length2, pointAt, slopeAt } from "../curves";
import { placeOf, SketchEdit } from "../edit/sketch-edit";
import type { Entity } from "../entities";
import { Drag, SketchFault, solveSketch } from ".";

const distance = (a: [number, number], b: [number, number]) => Math.hypot(a[0] - b[0], a[1] - b[1]);

describe("order does not matter", () => {
  test("the same drawing from the same parts in any order", () => {
    const whole = slot();
    whole.dimensions.pop();
    whole.circle("k", [40, 30], 9);
    whole.holds("tangent", "k", "a2");
    whole.line("z", [60, 60], [80, 75]);
    whole.size("angle", 50, "z", "top");
    const expected = solved(whole);
    fc.assert(
      fc.property(
        fc.shuffledSubarray(whole.entities, { minLength: whole.entities.length }),
        fc.shuffledSubarray(whole.constraints, { minLength: whole.constraints.length }),
        fc.shuffledSubarray(whole.dimensions, { minLength: whole.dimensions.length }),
        (entities, constraints, dimensions) => {
          const state = solveSketch({ entities, constraints, dimensions }, sizeOf);
          expect(state.residual).toBeLessThan(1e-9);
          expect(state.degrees).toBe(expected.degrees);
          for (const entity of state.entities)
            if (entity.type === "point") {
              const [x, y] = expected.at(entity.id);
              expect([entity.x, entity.y]).toEqual([x, y]);
            }
        },
      ),
      { numRuns: 60, seed: 7 },
    );
  });
});

describe("dragging", () => {
  test("the held point goes where the pointer goes while it can, and everything still holds", () => {
    const d = new SketchMaker();
    d.line("l", [0, 0], [10, 0]);
    d.line("m", "l_b", [10, 10]);
    d.size("distance", 10, "l");
    d.size("distance", 10, "m");
    d.holds("coincident", "l_a", "origin");
    const drag = new Drag(d, sizeOf, ["m_b"]);
    for (let i = 0; i <= 20; i++) {
      const place: [number, number] = [10 - i * 0.5, 10 + i * 0.3];
      const entities = drag.to([place]);
      const points = new Map(
        entities
          .filter((entity) => entity.type === "point")
          .map((point) => [point.id, [point.x, point.y] as [number, number]] as const),
      );
      expect(distance(points.get("m_b")!, place)).toBeLessThan(1e-2);
      expect(distance(points.get("l_a")!, points.get("l_b")!)).toBeCloseTo(10, 8);
    }
    // Out of reach: it stays as near as the linkage goes, and holds.
    const far = drag.to([[100, 0]]);
    const end = far.find((entity) => entity.id === "m_b") as Extract<Entity, { type: "point" }>;
    expect(Math.hypot(end.x, end.y)).toBeLessThan(20 + 1e-6);
  });
});

describe("what does not fit together", () => {
  test.each([
    [
      "a parallel of points",
      (d: SketchMaker) => {
        d.point("p", 0, 0);
        d.point("q", 1, 1);
        d.holds("parallel", "p", "q");
      },
      "Parallel needs two lines; here are point and point.",
    ],
    [
      "a constraint on nothing",
      (d: SketchMaker) => d.holds("horizontal", "gone"),
      "There is no “gone” in this sketch.",
    ],
    [
      "a radius of a line",
      (d: SketchMaker) => {
        d.line("l", [0, 0], [1, 1]);
        d.size("radius", 3, "l");
      },
      "A radius needs one circle or arc.",
    ],
    [
      "an angle of one line",
      (d: SketchMaker) => {
        d.line("l", [0, 0], [1, 1]);
        d.size("angle", 3, "l");
      },
      "An angle needs two lines.",
    ],
  ])("%s", (_name, make, message) => {
    const d = new SketchMaker();
    make(d);
    expect(() => solved(d)).toThrow(new SketchFault(message));
  });

  test("nothing can be held to a line without length; by itself it stays as it is, finite", () => {
    const d = new SketchMaker();
    d.line("l", [3, 3], [3, 3]);
    d.line("m", [0, 0], [5, 1]);
    d.holds("coincident", "l_b", "m_a");
    for (const entity of solved(d).entities)
      if (entity.type === "point") expect(Number.isFinite(entity.x) && Number.isFinite(entity.y)).toBe(true);
    d.holds("parallel", "l", "m");
    expect(() => solved(d)).toThrow("“l” has no length, so nothing can be held to it.");
  });
});

describe("splines, parts of ellipses, letters, and what is given", () => {
  const spline = (form: "through" | "control") => {
    const edit = new SketchEdit({ entities: [], constraints: [], dimensions: [] });
    edit.spline(
      [
        [0, 0],
        [10, 8],
        [20, -4],
        [30, 5],
      ],
      form,
    );
    return edit;
  };

  test.each(["through", "control"] as const)("a point on a spline %s its points", (form) => {
    const edit = spline(form);
    const point = edit.point([14, 4]);
    edit.hold("on", [point, "s1"]);
    const state = solveSketch(edit.parts, () => 0);
    expect(state).toMatchObject({ met: true, degrees: 9, conflicts: [] });
    const [curve] = curvesOf(state.entities);
    const at = placeOf(state, point);
    const nearest = Math.min(...Array.from({ length: 4001 }, (_, i) => distance2(pointAt(curve!, i / 4000), at)));
    expect(nearest).toBeLessThan(0.01);
  });

  test.each(["through", "control"] as const)("a line goes on from a spline %s its points without a kink", (form) => {
    const edit = spline(form);
    const line = edit.line(edit.entities.filter(({ type }) => type === "point").at(-1)!.id, [45, 2]);
    edit.hold("tangent", ["s1", line]);
    const state = solveSketch(edit.parts, () => 0);
    expect(state).toMatchObject({ met: true, degrees: 9, conflicts: [] });
    const [a, b] = curvesOf(state.entities);
    const [u, v] = [slopeAt(a!, 1), slopeAt(b!, 0)];
    expect(Math.abs(cross2(u, v)) / (length2(u) * length2(v))).toBeLessThan(1e-9);
  });

  test("a spline and a line that do not meet at an end cannot be tangent", () => {
    const edit = spline("through");
    const line = edit.line([50, 0], [60, 0]);
    edit.hold("tangent", ["s1", line]);
    expect(() => solveSketch(edit.parts, () => 0)).toThrow("join its end");
  });

  test("the ends of part of an ellipse stay on it: x²/a² + y²/b² = 1", () => {
    const d = new SketchMaker();
    d.ellipse("e", [0, 0], [10, 0], 4);
    const ends = [d.point("a", 6, 3), d.point("b", -7, 3)];
    const [from, to] = ends as [string, string];
    const entities = d.entities.map((one) => (one.type === "ellipse" ? { ...one, from, to } : one));
    for (const id of ["e_c", "e_m"]) d.holds("fixed", id);
    const state = solveSketch({ ...d, entities }, () => 0);
    expect(state.degrees).toBe(3);
    const { minor } = state.entities.find(({ id }) => id === "e") as { minor: number };
    for (const id of ends) {
      const [x, y] = placeOf(state, id);
      expect((x / 10) ** 2 + (y / minor) ** 2).toBeCloseTo(1, 9);
    }
  });

  test("the height of a text by a dimension; letters that the font has not are refused by name", () => {
    const edit = new SketchEdit({ entities: [], constraints: [], dimensions: [] });
    const text = edit.text([0, 0], [30, 0], "Pier 7", 5);
    edit.size("distance", [text], 12);
    const state = solveSketch(edit.parts, ({ value }) => Number(value));
    expect(state.degrees).toBe(4);
    expect(state.entities.find(({ id }) => id === text)).toMatchObject({ height: 12 });
    const other = new SketchEdit(edit.parts);
    other.text([0, 20], [30, 20], "天文 ok", 5);
    expect(() => solveSketch(other.parts, () => 12)).toThrow("The lettering has no “天”, “文”.");
  });

  test("what is given does not move, and everything can be held to it", () => {
    const given = new SketchMaker();
    given.line("g", [0, 0], [40, 0]);
    given.circle("h", [20, 20], 6);
    const edit = new SketchEdit({ entities: [], constraints: [], dimensions: [], given: given.entities });
    const line = edit.line([3, 5], [35, 11]);
    edit.hold("parallel", [line, "g"]);
    edit.hold("tangent", [line, "h"]);
    edit.hold("coincident", [(edit.find(line) as { from: string }).from, "g_a"]);
    const state = solveSketch(edit.parts, () => 0);
    expect(state.met).toBe(false);
    edit.remove(["k3"]);
    const free = solveSketch(edit.parts, () => 0);
    expect(free).toMatchObject({ met: true, degrees: 2, conflicts: [] });
    expect(placeOf(free, "p1")[1]).toBeCloseTo(14, 9);
    expect(free.entities.map(({ id }) => id)).toEqual(["p1", "p2", line]);
  });

  test("drawings side by side are solved apart: two thousand arcs in little more time than one by one", () => {
    const d = new SketchMaker();
    for (let i = 0; i < 2000; i++) d.arc(`a${i}`, [i * 30, 0], [i * 30 + 10, 0], [i * 30, 9]);
    const state = solveSketch(d, () => 0);
    expect(state).toMatchObject({ met: true, degrees: 2000 * 5, conflicts: [] });
  });
});
