import { describe, expect, test } from "vitest";
import { SketchMaker, slot, solved } from "../../testing/sketches";
import type { Entity, Sketch } from "../entities";

const distance = (a: [number, number], b: [number, number]) => Math.hypot(a[0] - b[0], a[1] - b[1]);

function triangle(): SketchMaker {
  const d = new SketchMaker();
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
      const d = new SketchMaker();
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
    const d = new SketchMaker();
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
      const d = new SketchMaker();
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
    const d = new SketchMaker();
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
