import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { Draft } from "../../testing/sketches";
import { cross2, curvesOf, distance2, length2, pointAt, slopeAt } from "../curves";
import { placeOf, SketchEdit } from "../edit/sketch-edit";
import type { Dimension, Entity, Sketch } from "../entities";
import { Drag, SketchFault, solveSketch } from ".";

const sizeOf = (dimension: Dimension) => Number(dimension.value);
const solved = (sketch: Sketch) => {
  const state = solveSketch(sketch, sizeOf);
  const byId = new Map(state.entities.map((entity) => [entity.id, entity] as const));
  const at = (id: string): [number, number] => {
    const point = byId.get(id) as Extract<Entity, { type: "point" }>;
    return [point.x, point.y];
  };
  const radius = (id: string) => (byId.get(id) as Extract<Entity, { type: "circle" }>).radius;
  return { ...state, at, radius };
};
const distance = (a: [number, number], b: [number, number]) => Math.hypot(a[0] - b[0], a[1] - b[1]);

/** A triangle of 3, 4 and 5 that does not move: right angle at the origin. */
function triangle(): Draft {
  const d = new Draft();
  d.point("A", 0, 0);
  d.point("B", 4, 0);
  d.point("C", 0, 3);
  for (const id of ["A", "B", "C"]) d.holds("fixed", id);
  d.line("AB", "A", "B");
  d.line("BC", "B", "C");
  d.line("CA", "C", "A");
  return d;
}

describe("a circle that touches three lines", () => {
  // Euclid IV.4 and the excircles: r = Δ/s, r_a = Δ/(s − a), with Δ = 6 and s = 6.
  test.each([
    ["inside", [1.2, 0.8], 1],
    ["beyond the side of 3", [-2.5, 1.5], 2],
    ["beyond the side of 4", [2.2, -2.6], 3],
    ["beyond the side of 5", [5, 5], 6],
  ] as [string, [number, number], number][])("started %s", (_where, start, radius) => {
    const d = triangle();
    d.circle("k", start, 0.7);
    for (const line of ["AB", "BC", "CA"]) d.holds("tangent", "k", line);
    const state = solved(d);
    expect(state.residual).toBeLessThan(1e-9);
    expect(state.radius("k")).toBeCloseTo(radius, 8);
    expect(state.degrees).toBe(0);
  });
});

/**
 * The circles that touch three others (Apollonius), by algebra: with signs s, (x − xᵢ)² + (y − yᵢ)² = (r + sᵢrᵢ)²;
 * differences are linear in x, y and r. (Coxeter, Introduction to Geometry, 2nd ed., 6.5 and ex.; derivation from memory.)
 */
function apollonius(circles: [number, number, number][], signs: number[]): [number, number, number][] {
  const [[x1, y1, r1], [x2, y2, r2], [x3, y3, r3]] = circles as [
    [number, number, number],
    [number, number, number],
    [number, number, number],
  ];
  const [s1, s2, s3] = signs as [number, number, number];
  const row = (x: number, y: number, r: number, s: number) => {
    // 2(x − x₁)X + 2(y − y₁)Y + 2(s r − s₁r₁)R = x² − x₁² + y² − y₁² − r² + r₁²
    return [
      2 * (x - x1),
      2 * (y - y1),
      2 * (s * r - s1 * r1),
      x * x - x1 * x1 + y * y - y1 * y1 - r * r + r1 * r1,
    ] as const;
  };
  const a = row(x2, y2, r2, s2);
  const b = row(x3, y3, r3, s3);
  const det = a[0] * b[1] - a[1] * b[0];
  // X = p + qR, Y = u + vR
  const p = (a[3] * b[1] - a[1] * b[3]) / det;
  const q = -(a[2] * b[1] - a[1] * b[2]) / det;
  const u = (a[0] * b[3] - a[3] * b[0]) / det;
  const v = -(a[0] * b[2] - a[2] * b[0]) / det;
  const A = q * q + v * v - 1;
  const B = 2 * (q * (p - x1) + v * (u - y1) - s1 * r1);
  const C = (p - x1) ** 2 + (u - y1) ** 2 - r1 * r1;
  const root = B * B - 4 * A * C;
  if (root < 0) return [];
  return [1, -1].map((k) => {
    const R = (-B + k * Math.sqrt(root)) / (2 * A);
    return [p + q * R, u + v * R, R] as [number, number, number];
  });
}

describe("a circle that touches three circles", () => {
  const given: [number, number, number][] = [
    [0, 0, 10],
    [50, 5, 14],
    [20, 45, 8],
  ];
  const solutions: { circle: [number, number, number]; signs: number[] }[] = [];
  for (const s1 of [1, -1])
    for (const s2 of [1, -1])
      for (const s3 of [1, -1])
        for (const circle of apollonius(given, [s1, s2, s3]))
          if (circle[2] > 0) solutions.push({ circle, signs: [s1, s2, s3] });

  test("there are eight", () => {
    expect(solutions).toHaveLength(8);
  });

  test.each(solutions.map(({ circle, signs }) => [signs.join(","), circle] as const))(
    "signs %s, started near it",
    (_signs, [x, y, r]) => {
      const d = new Draft();
      given.forEach(([cx, cy, radius], i) => {
        d.circle(`g${i}`, [cx, cy], radius);
        d.holds("fixed", `g${i}`);
      });
      d.circle("k", [x + 0.06 * r, y - 0.05 * r], r * 0.95);
      for (const i of [0, 1, 2]) d.holds("tangent", "k", `g${i}`);
      const state = solved(d);
      expect(state.residual).toBeLessThan(1e-9);
      expect(state.at("k_c")[0]).toBeCloseTo(x, 6);
      expect(state.at("k_c")[1]).toBeCloseTo(y, 6);
      expect(state.radius("k")).toBeCloseTo(r, 6);
      expect(state.degrees).toBe(0);
    },
  );
});

describe("figures", () => {
  test("a regular pentagon from equal sides and two angles: its circumradius is side / (2 sin 36°)", () => {
    const d = new Draft();
    for (let i = 0; i < 5; i++) d.point(`p${i}`, 30 * Math.cos(1.3 * i) + i, 25 * Math.sin(1.2 * i));
    for (let i = 0; i < 5; i++) d.line(`l${i}`, `p${i}`, `p${(i + 1) % 5}`);
    for (let i = 1; i < 5; i++) d.holds("equal", "l0", `l${i}`);
    d.size("angle", 72, "l0", "l1");
    d.size("angle", 72, "l1", "l2");
    d.size("distance", 20, "l0");
    d.holds("coincident", "p0", "origin");
    d.holds("horizontal", "l0");
    const state = solved(d);
    expect(state.residual).toBeLessThan(1e-9);
    expect(state.degrees).toBe(0);
    const points = [0, 1, 2, 3, 4].map((i) => state.at(`p${i}`));
    const centre = [0, 1].map((k) => points.reduce((sum, p) => sum + p[k]!, 0) / 5) as [number, number];
    for (const p of points) expect(distance(p, centre)).toBeCloseTo(20 / (2 * Math.sin(Math.PI / 5)), 8);
  });

  test("a four-bar linkage through its range: Freudenstein's equation holds", () => {
    // K₁cos ψ − K₂cos φ + K₃ = cos(φ − ψ), K₁ = d/a, K₂ = d/c, K₃ = (a² − b² + c² + d²)/(2ac). (Freudenstein 1955.)
    const [a, b, c, g] = [20, 60, 45, 55] as const;
    let last: Sketch | null = null;
    for (let degrees = 20; degrees <= 340; degrees += 5) {
      const d = new Draft();
      d.point("O", 0, 0);
      d.point("Q", g, 0);
      d.holds("fixed", "O");
      d.holds("fixed", "Q");
      const before = (id: string, x: number, y: number): [number, number] => {
        const old = last?.entities.find((entity) => entity.id === id) as Extract<Entity, { type: "point" }> | undefined;
        return old ? [old.x, old.y] : [x, y];
      };
      d.point("A", ...before("A", 18, 8));
      d.point("B", ...before("B", 60, 45));
      d.line("crank", "O", "A");
      d.line("coupler", "A", "B");
      d.line("rocker", "Q", "B");
      d.size("distance", a, "crank");
      d.size("distance", b, "coupler");
      d.size("distance", c, "rocker");
      d.size("angle", degrees, "axis-x", "crank");
      const state = solved(d);
      expect(state.residual).toBeLessThan(1e-9);
      expect(state.degrees).toBe(0);
      const [bx, by] = state.at("B");
      const phi = (degrees * Math.PI) / 180;
      const psi = Math.atan2(by, bx - g);
      const k3 = (a * a - b * b + c * c + g * g) / (2 * a * c);
      expect((g / a) * Math.cos(psi) - (g / c) * Math.cos(phi) + k3).toBeCloseTo(Math.cos(phi - psi), 8);
      last = { ...d, entities: state.entities };
    }
  });

  test("a slot with round ends from tangents: its length is what is asked", () => {
    const d = slot();
    const state = solved(d);
    expect(state.residual).toBeLessThan(1e-9);
    expect(state.degrees).toBe(0);
    expect(distance(state.at("a1_c"), state.at("a2_c"))).toBeCloseTo(30, 9);
    expect(distance(state.at("a1_c"), state.at("P"))).toBeCloseTo(6, 9);
  });

  test("a line that touches an ellipse: a²m² + b² = c² for y = mx + c", () => {
    const d = new Draft();
    d.ellipse("e", [0, 0], [50, 0], 30);
    d.holds("fixed", "e");
    d.line("t", [-60, 20], [60, 70]);
    d.holds("tangent", "t", "e");
    d.holds("fixed", "t_a");
    const state = solved(d);
    expect(state.residual).toBeLessThan(1e-9);
    const [[x1, y1], [x2, y2]] = [state.at("t_a"), state.at("t_b")];
    const m = (y2 - y1) / (x2 - x1);
    const c = y1 - m * x1;
    expect(2500 * m * m + 900).toBeCloseTo(c * c, 6);
  });
});

function slot(): Draft {
  const d = new Draft();
  d.point("P", 2, 6);
  d.point("Q", 31, 5);
  d.point("R", 28, -7);
  d.point("S", -1, -5);
  d.line("top", "P", "Q");
  d.line("bottom", "R", "S");
  d.arc("a1", [1, 1], "P", "S");
  d.arc("a2", [29, -1], "R", "Q");
  for (const [line, arc] of [
    ["top", "a1"],
    ["top", "a2"],
    ["bottom", "a1"],
    ["bottom", "a2"],
  ] as const)
    d.holds("tangent", line, arc);
  d.holds("equal", "a1", "a2");
  d.holds("coincident", "a1_c", "origin");
  d.holds("horizontal", "a1_c", "a2_c");
  d.size("distance", 30, "a1_c", "a2_c");
  d.size("radius", 6, "a1");
  return d;
}

/** How many ways each can move, counted by hand: unknowns less independent equations. */
describe("degrees of freedom", () => {
  const cases: [string, (d: Draft) => void, number][] = [
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
  function tri(d: Draft): void {
    d.point("p1", 0, 0);
    d.point("p2", 10, 1);
    d.point("p3", 4, 8);
    d.line("a", "p1", "p2");
    d.line("b", "p2", "p3");
    d.line("c", "p3", "p1");
  }
  function rectangle(d: Draft): void {
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
    const d = new Draft();
    make(d);
    const state = solved(d);
    expect(state.residual).toBeLessThan(1e-9);
    expect(state.degrees).toBe(degrees);
    expect(state.conflicts).toEqual([]);
    expect(state.loose.length > 0).toBe(degrees > 0);
  });

  test("what can still move is told by entity", () => {
    const d = new Draft();
    rectangle(d);
    d.size("distance", 30, "s1");
    d.holds("coincident", "q1", "origin");
    const { loose } = solved(d);
    expect(loose.sort()).toEqual(["q3", "q4", "s2", "s3", "s4"]);
  });
});

describe("said twice, or against itself", () => {
  const base = () => {
    const d = new Draft();
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
    const d = new Draft();
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
    const d = new Draft();
    d.line("l", [0, 5], [20, 5]);
    d.arc("a", [20, 0], [20, -5], [20, 5]);
    d.holds("coincident", "l_b", "a_b");
    d.holds("tangent", "l", "a");
    const free = solved(d);
    expect(free).toMatchObject({ degrees: 9 - 2 - 1, conflicts: [], met: true });
    const on = new Draft();
    on.circle("k", [0, 0], 5);
    on.line("m", [0, 5], [30, 5]);
    on.holds("on", "m_a", "k");
    on.holds("tangent", "m", "k");
    expect(solved(on)).toMatchObject({ degrees: 7 - 2, conflicts: [], met: true });
  });

  test("two arcs that run on into each other", () => {
    const d = new Draft();
    d.arc("a", [0, 0], [10, 0], [0, 10]);
    d.arc("b", [0, 14.5], "a_b", [-4, 15]);
    d.holds("tangent", "a", "b");
    const state = solved(d);
    expect(state).toMatchObject({ conflicts: [], met: true });
    const [p, q, end] = [state.at("a_c"), state.at("b_c"), state.at("a_b")];
    expect((p[0] - end[0]) * (q[1] - end[1]) - (p[1] - end[1]) * (q[0] - end[0])).toBeCloseTo(0, 8);
  });
});

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
    const d = new Draft();
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
      (d: Draft) => {
        d.point("p", 0, 0);
        d.point("q", 1, 1);
        d.holds("parallel", "p", "q");
      },
      "Parallel needs two lines; here are point and point.",
    ],
    ["a constraint on nothing", (d: Draft) => d.holds("horizontal", "gone"), "There is no “gone” in this sketch."],
    [
      "a radius of a line",
      (d: Draft) => {
        d.line("l", [0, 0], [1, 1]);
        d.size("radius", 3, "l");
      },
      "A radius needs one circle or arc.",
    ],
    [
      "an angle of one line",
      (d: Draft) => {
        d.line("l", [0, 0], [1, 1]);
        d.size("angle", 3, "l");
      },
      "An angle needs two lines.",
    ],
  ])("%s", (_name, make, message) => {
    const d = new Draft();
    make(d);
    expect(() => solved(d)).toThrow(new SketchFault(message));
  });

  test("nothing can be held to a line without length; by itself it stays as it is, finite", () => {
    const d = new Draft();
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
    const d = new Draft();
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
    const given = new Draft();
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
    const d = new Draft();
    for (let i = 0; i < 2000; i++) d.arc(`a${i}`, [i * 30, 0], [i * 30 + 10, 0], [i * 30, 9]);
    const state = solveSketch(d, () => 0);
    expect(state).toMatchObject({ met: true, degrees: 2000 * 5, conflicts: [] });
  });
});
