import { beforeAll, describe, expect, test } from "vitest";
import { allEdgeFacts, allFaceFacts, distanceToPoint } from "../../kernel";
import { loadNodeKernel } from "../../kernel/library/node";
import { buildSteps, relative, volumeOfStep } from "../../testing/harness";
import { SketchMaker } from "../../testing/sketches";

beforeAll(loadNodeKernel);

type Step = Record<string, unknown>;
type Corner = [number, number];
/** A sketch at a height, of one closed outline through corners; of a lone point for one. */
function at(height: number, ...corners: Corner[]): Step[] {
  const d = new SketchMaker();
  corners.forEach((corner, i) => {
    d.point(`p${i}`, ...corner);
  });
  if (corners.length > 1)
    corners.forEach((_, i) => {
      d.line(`l${i}`, `p${i}`, `p${(i + 1) % corners.length}`);
    });
  const id = `h${height}`;
  return [
    { id: `w${height}`, type: "workplane", base: "xy", offset: height },
    { id, type: "sketch", on: "workplane", plane: [`w${height}`], entities: d.entities },
  ];
}
const square = (half: number): Corner[] => [
  [-half, -half],
  [half, -half],
  [half, half],
  [-half, half],
];
function lofted(sections: Step[][], more: Step = {}, before: Step[] = []) {
  const names = sections.map((steps) => steps[1]!.id);
  return buildSteps(...before, ...sections.flat(), { id: "x", type: "loft", sections: names, ...more });
}
/** The prismatoid rule: a ruled body between parallel polygons holds h (A₁ + 4 Aₘ + A₂) / 6. */
const prismatoid = (h: number, a: number, m: number, b: number) => (h / 6) * (a + 4 * m + b);

describe("straight, by the prismatoid rule", () => {
  test("between squares, a frustum", () => {
    const built = lofted([at(0, ...square(20)), at(30, ...square(10))]);
    expect(built.step("x").error ?? null).toBeNull();
    expect(relative(volumeOfStep(built, "x"), prismatoid(30, 1600, 900, 400))).toBeLessThan(1e-9);
    expect(built.reports[0]).toMatchObject({ valid: true, closed: true, faces: 6 });
    expect(built.bodies[0]!.faces.toSorted()).toEqual([
      "x:cap:base",
      "x:cap:end",
      "x:side:h0:l0",
      "x:side:h0:l1",
      "x:side:h0:l2",
      "x:side:h0:l3",
    ]);
  });

  test.each(["solid", "sheet"])("flat sides are planes with straight edges, twisted ones are not: as a %s", (as) => {
    const kinds = (sections: Step[][]) => {
      const { shape, faces } = lofted(sections, { as }).bodies[0]!;
      const edges = allEdgeFacts(shape).filter((edge) => edge?.kind !== "line").length;
      const sides = allFaceFacts(shape).flatMap(({ kind }, f) => (faces[f]!.includes("side:") ? [kind] : []));
      return { sides: [...new Set(sides)], edges };
    };
    const turned = (angle: number, half: number): Corner[] =>
      square(half).map(([x, y]) => [
        x * Math.cos(angle) - y * Math.sin(angle),
        x * Math.sin(angle) + y * Math.cos(angle),
      ]);
    for (const angle of [0, 0.3, 1.1])
      expect(kinds([at(0, ...turned(angle, 20)), at(30, ...turned(angle, 7.3))])).toEqual({
        sides: ["plane"],
        edges: 0,
      });
    expect(kinds([at(0, ...square(20)), at(30, ...square(10)), at(45, ...square(12))]).sides).toEqual(["plane"]);
    expect(kinds([at(0, ...square(20)), at(30, [3, 4])]).sides).toEqual(["plane"]);
    expect(kinds([at(0, ...turned(0.2, 20)), at(30, ...square(10))]).sides).toEqual(["spline"]);
  });

  test("between a square and a turned one of another size, twisted sides and all", () => {
    const turned: Corner[] = [
      [0, -12],
      [12, 0],
      [0, 12],
      [-12, 0],
    ];
    const built = lofted([at(0, ...square(20)), at(30, ...turned)]);
    expect(built.step("x").error ?? null).toBeNull();
    // Half-way lies the octagon-free mean of matched corners: a square through their middles.
    const middle: Corner[] = square(20).map(([x, y], i): Corner => [(x + turned[i]![0]) / 2, (y + turned[i]![1]) / 2]);
    const area = (corners: Corner[]) =>
      Math.abs(
        corners.reduce((sum, [x, y], i) => {
          const [u, v] = corners[(i + 1) % corners.length]!;
          return sum + (x * v - u * y) / 2;
        }, 0),
      );
    expect(relative(volumeOfStep(built, "x"), prismatoid(30, 1600, area(middle), 288))).toBeLessThan(1e-6);
  });

  test("out to a point, a pyramid; through three, two frustums", () => {
    const pyramid = lofted([at(0, ...square(20)), at(30, [5, 5])]);
    expect(pyramid.step("x").error ?? null).toBeNull();
    expect(relative(volumeOfStep(pyramid, "x"), (1600 * 30) / 3)).toBeLessThan(1e-9);
    const three = lofted([at(0, ...square(20)), at(30, ...square(10)), at(40, ...square(20))]);
    expect(
      relative(volumeOfStep(three, "x"), prismatoid(30, 1600, 900, 400) + prismatoid(10, 400, 900, 1600)),
    ).toBeLessThan(1e-9);
  });

  test("from a triangle to a square: different numbers of corners", () => {
    const built = lofted([at(0, [-20, -15], [20, -15], [0, 20]), at(30, ...square(10))]);
    expect(built.step("x").error ?? null).toBeNull();
    expect(built.reports[0]).toMatchObject({ valid: true, closed: true, genus: 0 });
    // Whatever the matching, it lies between the two prisms and within their hull.
    const volume = volumeOfStep(built, "x");
    expect(volume).toBeGreaterThan(400 * 30);
    expect(volume).toBeLessThan(700 * 30);
  });
});

describe("smooth, and as a sheet, and into others", () => {
  test("smooth through equal circles is their cylinder", () => {
    const circle = (height: number): Step[] => {
      const d = new SketchMaker();
      d.circle("c", [0, 0], 10);
      const [plane, sketch] = at(height, [0, 0]);
      return [plane!, { ...sketch, entities: d.entities }];
    };
    const built = lofted([circle(0), circle(20), circle(50)], { surface: "smooth" });
    expect(built.step("x").error ?? null).toBeNull();
    expect(relative(volumeOfStep(built, "x"), Math.PI * 100 * 50)).toBeLessThan(1e-6);
  });

  test("a sheet has no caps", () => {
    const built = lofted([at(0, ...square(20)), at(30, ...square(10))], { as: "sheet" });
    expect(built.bodies[0]!.kind).toBe("sheet");
    expect(relative(built.reports[0]!.area, 4 * ((40 + 20) / 2) * Math.hypot(30, 10))).toBeLessThan(1e-9);
  });

  test("cut out of a block", () => {
    const block = { id: "a", type: "box", size: [60, 60, 30] };
    const built = lofted([at(0, ...square(20)), at(30, ...square(10))], { into: "cut", targets: ["a"] }, [block]);
    expect(relative(volumeOfStep(built, "x"), 60 * 60 * 30 - prismatoid(30, 1600, 900, 400))).toBeLessThan(1e-9);
  });
});

test.each([
  ["one section", [at(0, ...square(20))], "needs two sections or more"],
  ["two points", [at(0, [0, 0]), at(10, [0, 0])], "between points alone"],
  ["a point amid", [at(0, ...square(9)), at(10, [0, 0]), at(20, ...square(9))], "can only stand at an end"],
] as [string, Step[][], string][])("%s: one sentence", (_name, sections, words) => {
  expect(lofted(sections).step("x").error?.message).toContain(words);
});

/** A sketch in a plane through Z at an angle, of a rectangle: u out from Z, v up. */
function standing(angle: number, near: number, far: number, low: number, high: number): Step[] {
  const d = new SketchMaker();
  const corners: Corner[] = [
    [near, low],
    [far, low],
    [far, high],
    [near, high],
  ];
  corners.forEach((corner, i) => {
    d.point(`p${i}`, ...corner);
  });
  corners.forEach((_, i) => {
    d.line(`l${i}`, `p${i}`, `p${(i + 1) % 4}`);
  });
  return [
    { id: `t${angle}`, type: "move", bodies: [`d${angle}`], turn: angle, axis: "z" },
    { id: `d${angle}`, type: "sketch", on: "zx", entities: d.entities },
  ];
}

describe("in a ring", () => {
  const ring = (count: number, more: Step) => {
    const sections = Array.from({ length: count }, (_, i) => standing((360 / count) * i, 20, 30, 0, 8));
    return buildSteps(...sections.map(([, sketch]) => sketch!), ...sections.map(([move]) => move!), {
      id: "x",
      type: "loft",
      ring: true,
      sections: sections.map(([, sketch]) => sketch!.id),
      ...more,
    });
  };

  test.each([6, 8])("%d sections, straight: the ring of a regular polygon", (count) => {
    const built = ring(count, {});
    expect(built.step("x").error ?? null).toBeNull();
    const area = (r: number) => (count / 2) * r * r * Math.sin((2 * Math.PI) / count);
    expect(relative(volumeOfStep(built, "x"), 8 * (area(30) - area(20)))).toBeLessThan(1e-9);
    expect(built.reports[0]).toMatchObject({ genus: 1, valid: true, closed: true });
    expect(built.bodies[0]!.faces.some((name) => name.startsWith("x:cap"))).toBe(false);
  });

  test("smooth it comes close to the round one", () => {
    const volume = volumeOfStep(ring(12, { surface: "smooth" }), "x");
    expect(relative(volume, 8 * Math.PI * (900 - 400))).toBeLessThan(1e-3);
  });

  test("two sections are none", () => {
    expect(ring(2, {}).step("x").error!.message).toMatch(/^A ring needs three sections or more/);
  });
});

describe("corners moved on", () => {
  const sections = () => [at(0, ...square(10)), at(20, ...square(10))];

  test("by one of four: the twisted body between, by the prismatoid rule", () => {
    const built = lofted(sections(), { starts: [0, 1] });
    expect(built.step("x").error ?? null).toBeNull();
    // Half-way each corner is midway between two of the square's: a square turned by 45°, of half the area.
    expect(relative(volumeOfStep(built, "x"), prismatoid(20, 400, 200, 400))).toBeLessThan(1e-9);
    expect(relative(volumeOfStep(lofted(sections(), { starts: [0, 0] }), "x"), 8000)).toBeLessThan(1e-9);
  });

  test("outlines of different numbers of curves have no such corners", () => {
    const triangle: Corner[] = [
      [-10, -10],
      [10, -10],
      [0, 10],
    ];
    const { error } = lofted([at(0, ...square(10)), at(20, ...triangle)], { starts: [0, 1] }).step("x");
    expect(error!.message).toMatch(/^Corners can be moved on where all outlines have the same number of curves/);
  });
});

describe("square to its ends", () => {
  // Between lengths a and b a cubic that is level at both ends runs as a + (b − a)(3v² − 2v³).
  const blend = (a: number, b: number, h: number) => h * (a * a + a * (b - a) + (13 / 35) * (b - a) ** 2);
  const smooth = { surface: "smooth", squareStart: true, squareEnd: true };

  test("between equal squares: the prism", () => {
    const built = lofted([at(0, ...square(10)), at(30, ...square(10))], smooth);
    expect(built.step("x").error ?? null).toBeNull();
    expect(relative(volumeOfStep(built, "x"), 400 * 30)).toBeLessThan(1e-9);
    expect(built.bodies[0]!.faces.toSorted()).toEqual([
      "x:cap:base",
      "x:cap:end",
      ...[0, 1, 2, 3].map((i) => `x:side:h0:l${i}`),
    ]);
  });

  test("between squares of two sizes, and between circles: by integration", () => {
    // Handles of 30 mm over a height of 30 mm, so that the height runs evenly.
    const squares = lofted([at(0, ...square(20)), at(30, ...square(10))], { ...smooth, startReach: 30, endReach: 30 });
    expect(relative(volumeOfStep(squares, "x"), blend(40, 20, 30))).toBeLessThan(1e-9);
    const disc = (height: number, radius: number): Step[] => {
      const d = new SketchMaker();
      d.circle("c", [0, 0], radius);
      return [
        { id: `w${height}`, type: "workplane", base: "xy", offset: height },
        { id: `h${height}`, type: "sketch", on: "workplane", plane: [`w${height}`], entities: d.entities },
      ];
    };
    const discs = lofted([disc(0, 20), disc(30, 10)], { ...smooth, startReach: 30, endReach: 30 });
    expect(discs.step("x").error ?? null).toBeNull();
    expect(relative(volumeOfStep(discs, "x"), Math.PI * blend(20, 10, 30))).toBeLessThan(1e-8);
  });

  test("only one end; through three sections; as a sheet", () => {
    const one = lofted([at(0, ...square(20)), at(30, ...square(10))], { surface: "smooth", squareStart: true });
    expect(one.step("x").error ?? null).toBeNull();
    const three = lofted([at(0, ...square(10)), at(20, ...square(10)), at(40, ...square(10))], smooth);
    expect(relative(volumeOfStep(three, "x"), 400 * 40)).toBeLessThan(1e-9);
    const sheet = lofted([at(0, ...square(10)), at(30, ...square(10))], { ...smooth, as: "sheet" });
    expect(sheet.reports[0]!.area).toBeCloseTo(4 * 20 * 30, 6);
  });

  test("not to a point", () => {
    const { error } = lofted([at(0, ...square(10)), at(30, [0, 0])], smooth).step("x");
    expect(error!.message).toMatch(
      /^Square ends and guides need outlines with the same number of curves, and no points/,
    );
  });
});

describe("along guides", () => {
  const h = 30;
  const half = 10;
  /** An arc in the upright plane through the Z axis and a corner of the square, bulging outwards; u is out, v up. */
  const guide = (angle: number, bulge: number): Step[] => {
    const d = new SketchMaker();
    const out = half * Math.SQRT2;
    // The circle through both ends that reaches `bulge` further out half-way up.
    const radius = ((h / 2) ** 2 + bulge ** 2) / (2 * bulge);
    d.arc("g", [-(out + bulge - radius), h / 2], [-out, h], [-out, 0]);
    return [
      { id: `g${angle}`, type: "sketch", on: "zx", entities: d.entities },
      { id: `gt${angle}`, type: "move", bodies: [`g${angle}`], turn: angle, axis: "z" },
    ];
  };
  const through = (guides: Step[], more: Step = {}) =>
    lofted(
      [at(0, ...square(half)), at(h, ...square(half))],
      { surface: "smooth", guides: guides.filter(({ type }) => type === "sketch").map(({ id }) => id), ...more },
      guides,
    );

  test("four alike: at each height a square whose corners lie on them", () => {
    const bulge = 4;
    const built = through([45, 135, 225, 315].flatMap((angle) => guide(angle, bulge)));
    expect(built.step("x").error ?? null).toBeNull();
    // Half a square's diagonal d holds 2 d²; along the arc d = m + √(R² − z²) about the middle of its height.
    const radius = ((h / 2) ** 2 + bulge ** 2) / (2 * bulge);
    const m = half * Math.SQRT2 + bulge - radius;
    const a = h / 2;
    const root = (a * Math.sqrt(radius ** 2 - a ** 2) + radius ** 2 * Math.asin(a / radius)) / 2;
    const expected = 4 * (m * m * a + 2 * m * root + radius ** 2 * a - a ** 3 / 3);
    expect(relative(volumeOfStep(built, "x"), expected)).toBeLessThan(1e-6);
    expect(built.reports[0]).toMatchObject({ valid: true, closed: true });
  });

  test("one alone pulls out its corner only", () => {
    const built = through(guide(45, 4));
    expect(built.step("x").error ?? null).toBeNull();
    const { box } = built.reports[0]!;
    expect([box!.min[0], box!.min[1]].map((v) => Math.round(v * 1e4) / 1e4)).toEqual([-10, -10]);
    // It bulges by 4 along the diagonal.
    expect(Math.max(box!.max[0], box!.max[1])).toBeGreaterThan(10 + 4 / Math.SQRT2 - 0.01);
  });

  test("a guide that ends beside a corner", () => {
    const off = guide(50, 4);
    expect(through(off).step("x").error!.message).toMatch(
      /^Sketch \d* ?does not run from a corner|^Sketch does not run from a corner/,
    );
  });
});

describe("along guides through several sections", () => {
  /** Draws in the upright plane through the Z axis, u outwards and v up, and turns it into the plane of a corner. */
  const upright = (name: string, angle: number, draw: (d: SketchMaker) => void): Step[] => {
    const d = new SketchMaker();
    draw(d);
    return [
      { id: name, type: "sketch", on: "zx", entities: d.entities },
      { id: `t${name}`, type: "move", bodies: [name], turn: angle, axis: "z" },
    ];
  };
  const corners = [45, 135, 225, 315];
  const atAll = (name: string, draw: (d: SketchMaker) => void) =>
    corners.flatMap((angle) => upright(`${name}${angle}`, angle, draw));
  // A circle of radius 50 about a point on the plane of Z = 20, 20 mm beyond the axis: how far out it is at a height.
  const [R, middle, beyond] = [50, 20, 20];
  const out = (z: number) => Math.sqrt(R * R - (z - middle) ** 2) - beyond;
  const half = (z: number) => out(z) / Math.SQRT2;
  const arc = (id: string, from: number, to: number) => (d: SketchMaker) =>
    void d.arc(id, [beyond, middle], [-out(to), to], [-out(from), from]);
  /** What squares with their corners on the circle hold between two heights: 2 out² each. */
  const held = (from: number, to: number) => {
    const upTo = (z: number) => {
      const y = z - middle;
      const root = (y * Math.sqrt(R * R - y * y) + R * R * Math.asin(y / R)) / 2;
      return 2 * (R * R * y - y ** 3 / 3 - 2 * beyond * root + beyond * beyond * y);
    };
    return upTo(to) - upTo(from);
  };
  const heights = [0, 15, 45];
  const sections = heights.map((z) => at(z, ...square(half(z))));
  const through = (guides: Step[], more: Step = {}, of = sections) =>
    lofted(
      of,
      { surface: "smooth", guides: guides.filter(({ type }) => type === "sketch").map(({ id }) => id), ...more },
      guides,
    );

  test("one arc along each corner, past a section that is nearer to the first", () => {
    const built = through(atAll("g", arc("g", 0, 45)));
    expect(built.step("x").error ?? null).toBeNull();
    expect(relative(volumeOfStep(built, "x"), held(0, 45))).toBeLessThan(1e-6);
    expect(built.reports[0]).toMatchObject({ valid: true, closed: true, faces: 6 });
  });

  test("the same arc in two sketches, joined at the section: no crease, the same body", () => {
    const built = through([...atAll("a", arc("g", 0, 15)), ...atAll("b", arc("g", 15, 45))]);
    expect(built.step("x").error ?? null).toBeNull();
    expect(relative(volumeOfStep(built, "x"), held(0, 45))).toBeLessThan(1e-6);
    expect(built.reports[0]).toMatchObject({ valid: true, faces: 6 });
  });

  test("straight lines that turn a corner at the section: two frustums, each side in two faces", () => {
    const [a, b, c] = heights.map(half) as [number, number, number];
    const built = through(
      atAll("g", (d) => {
        d.line("l0", [-out(0), 0], [-out(15), 15]);
        d.line("l1", "l0_b", [-out(45), 45]);
      }),
    );
    expect(built.step("x").error ?? null).toBeNull();
    const frustum = (h: number, p: number, q: number) => prismatoid(h, 4 * p * p, (p + q) ** 2, 4 * q * q);
    expect(relative(volumeOfStep(built, "x"), frustum(15, a, b) + frustum(30, b, c))).toBeLessThan(1e-9);
    expect(built.reports[0]).toMatchObject({ valid: true, closed: true, faces: 10 });
    expect(built.bodies[0]!.faces.filter((name) => name.startsWith("x:side:h15:"))).toHaveLength(4);
  });

  test("a spline along one corner is met; the corner opposite stays free", () => {
    const points = [0, 8, 15, 30, 45].map((z): Corner => [-out(z) - (z === 8 || z === 30 ? 2 : 0), z]);
    const guides = upright("g", 45, (d) => {
      const ids = points.map(([u, v], i) => d.point(`q${i}`, u, v));
      d.entities.push({ id: "s", type: "spline", form: "through", closed: false, points: ids, construction: false });
    });
    const built = through(guides);
    expect(built.step("x").error ?? null).toBeNull();
    const side = built.bodies.find(({ id }) => id.startsWith("x:"))!.shape;
    const gapAt = ([u, z]: Corner, sign: 1 | -1) => {
      const across = (sign * -u) / Math.SQRT2;
      return distanceToPoint(side, [across, across, z])!.gap;
    };
    // A turn about Z by 45° brings what is drawn at −u to one corner; the one opposite bulges less, between its sections.
    const guided = gapAt(points[1]!, 1) < gapAt(points[1]!, -1) ? 1 : -1;
    for (const place of points) expect(gapAt(place, guided)).toBeLessThan(1e-6);
    expect(gapAt(points[1]!, guided === 1 ? -1 : 1)).toBeGreaterThan(0.5);
  });

  test("what cannot be followed says where", () => {
    const message = (guides: Step[], of = sections) => through(guides, {}, of).step("x").error!.message;
    expect(message(upright("g", 45, arc("g", 0, 15)))).toMatch(
      /^Nothing guides the corner of .* from section 2 to section 3\./,
    );
    expect(message(upright("g", 45, (d) => d.line("l", [-out(0), 0], [-out(45), 45])))).toContain(
      "passes section 2 beside its corner.",
    );
    expect(
      message(
        upright("g", 45, (d) => {
          d.line("l0", [-out(0), 0], [-20, 5]);
          d.line("l1", "l0_b", [-out(15), 15]);
          d.line("l2", "l1_b", [-out(45), 45]);
        }),
      ),
    ).toContain("has a joint between sections 1 and 2.");
    expect(message([...upright("a", 45, arc("g", 0, 45)), ...upright("b", 45, arc("g", 0, 45))])).toContain(
      "runs along a corner that another guide runs along already.",
    );
    expect(
      message(
        upright("g", 45, (d) => {
          d.line("l0", [-out(0), 0], [-out(15), 15]);
          d.line("l1", "l0_b", [-out(45), 45]);
          d.line("l2", "l0_b", [-40, 20]);
        }),
      ),
    ).toContain("branches: a guide is one curve, or several in a row.");
  });
});

describe("from flat faces", () => {
  const block = { id: "a", type: "box", size: [40, 40, 10] };
  const roof = { id: "b", type: "box", size: [20, 20, 10], at: [0, 0, 40] };
  const between = {
    id: "x",
    type: "loft",
    fromFace: [{ body: "a", face: "a:side:z+" }],
    toFace: [{ body: "b", face: "b:side:z-" }],
  };

  test("between two blocks, joined on to both: one body, by the prismatoid rule", () => {
    const built = buildSteps(block, roof, { ...between, into: "join", targets: ["a", "b"] });
    expect(built.step("x").error ?? null).toBeNull();
    expect(built.reports).toHaveLength(1);
    const volume = 40 * 40 * 10 + 20 * 20 * 10 + prismatoid(30, 1600, 900, 400);
    expect(relative(built.reports[0]!.volume!, volume)).toBeLessThan(1e-9);
  });

  test("from a face out to a sketch above; its names stay when the block grows", () => {
    const names = (size: number[]) => {
      const built = buildSteps({ ...block, size }, ...at(40, ...square(10)), {
        ...between,
        toFace: [],
        sections: ["h40"],
      });
      expect(built.step("x").error ?? null).toBeNull();
      return built.bodies.find(({ id }) => id.startsWith("x:"))!.faces.toSorted();
    };
    expect(names([60, 50, 20])).toEqual(names([40, 40, 10]));
  });
});
