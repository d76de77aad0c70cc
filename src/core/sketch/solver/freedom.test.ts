import { describe, expect, test } from "vitest";
import { SketchMaker, slot, solved } from "../../testing/sketches";

/** How many ways each can move, counted by hand: unknowns less independent equations. */
describe("degrees of freedom", () => {
  const cases: [string, (d: SketchMaker) => void, number][] = [
    ["nothing", () => {}, 0],
    ["a point", (d) => d.point("p", 1, 2), 2],
    [
      "a fixed point",
      (d) => {
        d.point("p", 1, 2);
        d.holds("fixed", "p");
      },
      0,
    ],
    [
      "a point on the origin",
      (d) => {
        d.point("p", 1, 2);
        d.holds("coincident", "p", "origin");
      },
      0,
    ],
    [
      "a point on an axis",
      (d) => {
        d.point("p", 1, 2);
        d.holds("on", "p", "axis-x");
      },
      1,
    ],
    ["a line", (d) => d.line("l", [0, 0], [10, 3]), 4],
    [
      "a line of given length",
      (d) => {
        d.line("l", [0, 0], [10, 3]);
        d.size("distance", 12, "l");
      },
      3,
    ],
    [
      "a level line",
      (d) => {
        d.line("l", [0, 0], [10, 3]);
        d.holds("horizontal", "l");
      },
      3,
    ],
    [
      "a level line of given length from the origin",
      (d) => {
        d.line("l", [0, 0], [10, 3]);
        d.holds("horizontal", "l");
        d.size("distance", 12, "l");
        d.holds("coincident", "l_a", "origin");
      },
      0,
    ],
    [
      "two lines",
      (d) => {
        d.line("l", [0, 0], [10, 3]);
        d.line("m", [0, 5], [10, 9]);
      },
      8,
    ],
    [
      "two parallel lines",
      (d) => {
        d.line("l", [0, 0], [10, 3]);
        d.line("m", [0, 5], [10, 9]);
        d.holds("parallel", "l", "m");
      },
      7,
    ],
    [
      "two square lines of equal length",
      (d) => {
        d.line("l", [0, 0], [10, 3]);
        d.line("m", [0, 5], [-4, 19]);
        d.holds("perpendicular", "l", "m");
        d.holds("equal", "l", "m");
      },
      6,
    ],
    [
      "a corner",
      (d) => {
        d.line("l", [0, 0], [10, 3]);
        d.line("m", "l_b", [12, 15]);
      },
      6,
    ],
    ["a triangle", (d) => tri(d), 6],
    [
      "a triangle of given sides",
      (d) => {
        tri(d);
        d.size("distance", 10, "a");
        d.size("distance", 12, "b");
        d.size("distance", 9, "c");
      },
      3,
    ],
    [
      "a triangle of given sides, one corner held",
      (d) => {
        tri(d);
        d.size("distance", 10, "a");
        d.size("distance", 12, "b");
        d.size("distance", 9, "c");
        d.holds("fixed", "p1");
      },
      1,
    ],
    ["a rectangle by its constraints", (d) => rectangle(d), 4],
    [
      "a rectangle of given size",
      (d) => {
        rectangle(d);
        d.size("distance", 30, "s1");
        d.size("distance", 20, "s2");
      },
      2,
    ],
    [
      "a rectangle of given size about the origin",
      (d) => {
        rectangle(d);
        d.size("distance", 30, "s1");
        d.size("distance", 20, "s2");
        d.line("g", "q1", "q3");
        d.holds("midpoint", "origin", "g");
      },
      0,
    ],
    ["a circle", (d) => d.circle("k", [1, 2], 5), 3],
    [
      "a circle of given diameter",
      (d) => {
        d.circle("k", [1, 2], 5);
        d.size("diameter", 12, "k");
      },
      2,
    ],
    [
      "two circles about one centre",
      (d) => {
        d.circle("k", [1, 2], 5);
        d.circle("m", [2, 2], 8);
        d.holds("concentric", "k", "m");
      },
      4,
    ],
    [
      "two equal circles that touch",
      (d) => {
        d.circle("k", [0, 0], 5);
        d.circle("m", [11, 2], 5);
        d.holds("equal", "k", "m");
        d.holds("tangent", "k", "m");
      },
      4,
    ],
    ["an arc", (d) => d.arc("a", [0, 0], [5, 0], [0, 5]), 5],
    [
      "an arc of given radius",
      (d) => {
        d.arc("a", [0, 0], [5, 0], [0, 5]);
        d.size("radius", 6, "a");
      },
      4,
    ],
    [
      "a line that touches a circle",
      (d) => {
        d.circle("k", [0, 0], 5);
        d.line("l", [-10, 6], [10, 7]);
        d.holds("tangent", "l", "k");
      },
      6,
    ],
    [
      "a point on a circle",
      (d) => {
        d.circle("k", [0, 0], 5);
        d.point("p", 4, 4);
        d.holds("on", "p", "k");
      },
      4,
    ],
    [
      "two points the same about a line",
      (d) => {
        d.point("p", -4, 1);
        d.point("q", 5, 1);
        d.holds("symmetric", "p", "q", "axis-y");
      },
      2,
    ],
    ["an ellipse", (d) => d.ellipse("e", [0, 0], [20, 5], 8), 5],
    [
      "a point on an ellipse",
      (d) => {
        d.ellipse("e", [0, 0], [20, 0], 8);
        d.point("p", 3, 9);
        d.holds("on", "p", "e");
      },
      6,
    ],
    ["a slot, all given", (d) => Object.assign(d, slot()), 0],
    [
      "two lines at an angle from a corner",
      (d) => {
        d.line("l", [0, 0], [10, 3]);
        d.line("m", "l_a", [-2, 15]);
        d.size("angle", 80, "l", "m");
      },
      5,
    ],
    [
      "a point at given distances from both axes",
      (d) => {
        d.point("p", 4, 9);
        d.size("distance", 5, "p", "axis-x");
        d.size("distance", 7, "p", "axis-y");
      },
      0,
    ],
  ];
  function tri(d: SketchMaker): void {
    d.point("p1", 0, 0);
    d.point("p2", 10, 1);
    d.point("p3", 4, 8);
    d.line("a", "p1", "p2");
    d.line("b", "p2", "p3");
    d.line("c", "p3", "p1");
  }
  function rectangle(d: SketchMaker): void {
    const corners = [
      [-14, -9],
      [15, -11],
      [16, 10],
      [-15, 9],
    ] as [number, number][];
    for (const [i, [x, y]] of corners.entries()) d.point(`q${i + 1}`, x, y);
    for (let i = 1; i <= 4; i++) d.line(`s${i}`, `q${i}`, `q${(i % 4) + 1}`);
    d.holds("horizontal", "s1");
    d.holds("horizontal", "s3");
    d.holds("vertical", "s2");
    d.holds("vertical", "s4");
  }

  test("there are at least thirty", () => {
    expect(cases.length).toBeGreaterThanOrEqual(30);
  });

  test.each(cases)("%s", (_name, make, degrees) => {
    const d = new SketchMaker();
    make(d);
    const state = solved(d);
    expect(state.residual).toBeLessThan(1e-9);
    expect(state.degrees).toBe(degrees);
    expect(state.conflicts).toEqual([]);
    expect(state.loose.length > 0).toBe(degrees > 0);
  });

  test("what can still move is told by entity", () => {
    const d = new SketchMaker();
    rectangle(d);
    d.size("distance", 30, "s1");
    d.holds("coincident", "q1", "origin");
    const { loose } = solved(d);
    expect(loose.sort()).toEqual(["q3", "q4", "s2", "s3", "s4"]);
  });
});

describe("said twice, or against itself", () => {
  const base = () => {
    const d = new SketchMaker();
    d.line("l", [0, 0], [10, 3]);
    d.line("m", [0, 5], [10, 9]);
    d.line("n", [0, 15], [10, 19]);
    return d;
  };

  test("repeated: the three parallels, and nothing else", () => {
    const d = base();
    d.size("distance", 30, "l");
    const among = [d.holds("parallel", "l", "m"), d.holds("parallel", "m", "n"), d.holds("parallel", "n", "l")];
    const { conflicts, met } = solved(d);
    expect(met).toBe(true);
    expect(conflicts).toHaveLength(1);
    expect(conflicts[0]).toMatchObject({ among, repeats: true });
    expect(conflicts[0]!.message).toContain("say the same thing twice");
  });

  test("contradicted: a triangle's sides and a fourth size that cannot be; the culprits are named", () => {
    const d = new SketchMaker();
    d.point("p1", 0, 0);
    d.point("p2", 10, 1);
    d.point("p3", 4, 8);
    d.line("a", "p1", "p2");
    d.line("b", "p2", "p3");
    d.line("c", "p3", "p1");
    d.point("far", 90, 90);
    d.size("distance", 7, "far", "origin");
    const sides = [d.size("distance", 10, "a"), d.size("distance", 12, "b"), d.size("distance", 9, "c")];
    const angle = d.size("angle", 30, "a", "b");
    const { conflicts, met } = solved(d);
    expect(met).toBe(false);
    expect(conflicts).toHaveLength(1);
    expect(conflicts[0]!.among).toEqual([...sides, angle].sort());
    expect(conflicts[0]!.message).toBe(
      "the dimension d2, the dimension d3, the dimension d4 and the dimension d5 cannot all hold. Take one out, or change a value.",
    );
  });

  test("level and upright at once", () => {
    const d = base();
    d.holds("fixed", "l_a");
    d.size("distance", 10, "l");
    const both = [d.holds("horizontal", "l"), d.holds("vertical", "l")];
    const { conflicts, met } = solved(d);
    expect(met).toBe(false);
    expect(conflicts[0]!.among).toEqual(expect.arrayContaining(both));
  });
});

describe("tangents where curves meet", () => {
  // There the distance to the line has no slope along it: said that way, the tangent would seem to be said twice.
  test("a slot that stands exactly where it should: every way to move is held, nothing is said twice", () => {
    const state = solved(Object.assign(slot(), { entities: solved(slot()).entities }));
    expect(state).toMatchObject({ degrees: 0, conflicts: [], met: true });
  });

  test("ends held together, and an end held on the other curve", () => {
    const d = new SketchMaker();
    d.line("l", [0, 5], [20, 5]);
    d.arc("a", [20, 0], [20, -5], [20, 5]);
    d.holds("coincident", "l_b", "a_b");
    d.holds("tangent", "l", "a");
    const free = solved(d);
    expect(free).toMatchObject({ degrees: 9 - 2 - 1, conflicts: [], met: true });
    const on = new SketchMaker();
    on.circle("k", [0, 0], 5);
    on.line("m", [0, 5], [30, 5]);
    on.holds("on", "m_a", "k");
    on.holds("tangent", "m", "k");
    expect(solved(on)).toMatchObject({ degrees: 7 - 2, conflicts: [], met: true });
  });

  test("two arcs that run on into each other", () => {
    const d = new SketchMaker();
    d.arc("a", [0, 0], [10, 0], [0, 10]);
    d.arc("b", [0, 14.5], "a_b", [-4, 15]);
    d.holds("tangent", "a", "b");
    const state = solved(d);
    expect(state).toMatchObject({ conflicts: [], met: true });
    const [p, q, end] = [state.at("a_c"), state.at("b_c"), state.at("a_b")];
    expect((p[0] - end[0]) * (q[1] - end[1]) - (p[1] - end[1]) * (q[0] - end[0])).toBeCloseTo(0, 8);
  });
});
