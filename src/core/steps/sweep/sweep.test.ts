import { beforeAll, describe, expect, test } from "vitest";
import { loadNodeKernel } from "../../kernel/library/node";
import { buildSteps, relative, volumeOfStep } from "../../testing/harness";
import { SketchMaker } from "../../testing/sketches";

beforeAll(loadNodeKernel);

type Step = Record<string, unknown>;

/** A rectangle in the plane YZ, across a path that begins at the origin along X; u is Y, v is Z. */
function bar(w: number, h: number, u = 0, v = 0, hole = 0): Step {
  const draft = new SketchMaker();
  const at = [
    [u - w / 2, v - h / 2],
    [u + w / 2, v - h / 2],
    [u + w / 2, v + h / 2],
    [u - w / 2, v + h / 2],
  ] as const;
  for (const [i, [x, y]] of at.entries()) draft.point(`p${i}`, x, y);
  for (let i = 0; i < 4; i++) draft.line(`s${i}`, `p${i}`, `p${(i + 1) % 4}`);
  if (hole > 0) draft.circle("hole", [u, v], hole);
  return { id: "k", type: "sketch", on: "yz", entities: draft.entities };
}

function path(draw: (draft: SketchMaker) => void, more: Step = {}): Step {
  const draft = new SketchMaker();
  draw(draft);
  return { id: "p", type: "sketch", entities: draft.entities, ...more };
}

const straight = path((d) => d.line("l", [0, 0], [50, 0]));
const bend = path((d) => {
  d.line("l", [0, 0], [30, 0]);
  d.arc("b", [30, 20], "l_b", [50, 20]);
  d.line("m", "b_b", [50, 45]);
});

const swept = (section: Step, way: Step, more: Step = {}, ...before: Step[]) =>
  buildSteps(...before, section, way, { id: "x", type: "sweep", sketch: ["k"], path: ["p"], ...more });
const volume = (built: ReturnType<typeof buildSteps>) => {
  expect(built.step("x").error ?? null).toBeNull();
  expect(built.reports.at(-1)).toMatchObject({ valid: true, closed: true });
  return volumeOfStep(built, "x");
};

describe("by closed form", () => {
  test("straight, with a hole: a prism", () => {
    const built = swept(bar(10, 8, 0, 0, 2), straight);
    expect(relative(volume(built), (80 - 4 * Math.PI) * 50)).toBeLessThan(1e-9);
    expect(built.reports[0]).toMatchObject({ genus: 1 });
    expect(built.bodies[0]!.faces).toEqual(
      expect.arrayContaining(["x:side:s0:l", "x:inside:side:hole:l", "x:cap:base", "x:cap:end"]),
    );
  });

  test.each([0, 3, -4])("round a bend, beside the path by %d mm: the way of its centroid (Pappus)", (off) => {
    const length = 30 + 25 + (Math.PI / 2) * (20 - off);
    const built = swept(bar(6, 4, off), bend);
    expect(relative(volume(built), 24 * length)).toBeLessThan(1e-9);
    expect(built.bodies[0]!.faces.filter((name) => name.endsWith(":b"))).toHaveLength(4);
  });

  test("a mitred corner: section times the length of the path", () => {
    const elbow = path((d) => {
      d.line("l", [0, 0], [30, 0]);
      d.line("m", "l_b", [30, 40]);
    });
    expect(relative(volume(swept(bar(6, 4), elbow)), 24 * 70)).toBeLessThan(1e-9);
  });

  test("keeping its direction: area times the way across it", () => {
    // Of a shear: the section's area times what the path advances square to it, however it wanders.
    expect(
      relative(
        volume(
          swept(
            bar(6, 4),
            path((d) => d.line("l", [0, 0], [50, 20])),
            { stands: "same" },
          ),
        ),
        24 * 50,
      ),
    ).toBeLessThan(1e-9);
    const wave = path((d) => {
      d.line("l", [0, 0], [30, 12]);
      d.line("m", "l_b", [55, -8]);
    });
    expect(relative(volume(swept(bar(6, 4), wave, { stands: "same" })), 24 * 55)).toBeLessThan(1e-9);
  });

  test("closed: a ring of any section", () => {
    const ring = path((d) => d.circle("c", [-30, 0], 30));
    const built = swept({ ...bar(6, 4, 2), on: "zx" }, ring);
    expect(relative(volume(built), 2 * Math.PI * 28 * 24)).toBeLessThan(1e-9);
    expect(built.reports[0]).toMatchObject({ genus: 1 });
  });

  test.each([90, -200])("twisted by %d°: by Cavalieri no more and no less, and it says how exact it is", (twist) => {
    const built = swept(bar(10, 6), straight, { twist });
    expect(relative(volume(built), 60 * 50)).toBeLessThan(1e-6);
    expect(built.step("x").warnings[0]).toMatchObject({ code: "sweep-approximate" });
    expect(built.step("x").warnings[0]!.message).toMatch(/right to within 0\.0000\d+ mm/);
    // Turned by a right angle, its far end stands upright.
    if (twist === 90) {
      const { box } = built.reports[0]!;
      expect(box!.max[1]).toBeGreaterThan(5.5);
      expect(box!.max[2]).toBeGreaterThan(4.99);
    }
  });

  test("along edges of a body, in space", () => {
    const block: Step = { id: "a", type: "box", size: [40, 30, 20], anchor: "corner" };
    const edge = (a: string, b: string) => ({ body: "a", edge: `a:side:${a}|a:side:${b}` });
    const section = bar(2, 2);
    const built = buildSteps(block, section, {
      id: "x",
      type: "sweep",
      sketch: ["k"],
      along: "edges",
      edges: [edge("y-", "z-"), edge("x+", "z-"), edge("x+", "y+")],
    });
    expect(relative(volume(built), 4 * 90)).toBeLessThan(1e-9);
    const piped = buildSteps(block, {
      id: "x",
      type: "pipe",
      along: "edges",
      edges: [edge("y-", "z-"), edge("x+", "z-")],
      size: 3,
    });
    expect(relative(volume(piped), (Math.PI * 9 * 70) / 4)).toBeLessThan(1e-9);
  });

  test("as a sheet: the length of the curve times the path", () => {
    const line = new SketchMaker();
    line.line("s", [-3, 1], [4, 1]);
    const built = swept({ id: "k", type: "sketch", on: "yz", entities: line.entities }, straight, { as: "sheet" });
    expect(built.reports[0]).toMatchObject({ kind: "sheet" });
    expect(built.reports[0]!.area).toBeCloseTo(350, 6);
  });

  test("cut out of a block: a channel", () => {
    const block: Step = { id: "a", type: "box", size: [200, 200, 20], at: [50, 50, -20] };
    const built = swept(
      bar(6, 4),
      path((d) => d.line("l", [-60, 0], [160, 0])),
      { into: "cut", targets: ["a"] },
      block,
    );
    expect(relative(volume(built), 200 * 200 * 20 - 6 * 2 * 200)).toBeLessThan(1e-9);
  });
});

describe("what cannot be", () => {
  test("a bend that is tighter than the section reaches inwards; on the outside it may", () => {
    const tight = (off: number) =>
      swept(
        bar(6, 4, off),
        path((d) => {
          d.line("l", [0, 0], [30, 0]);
          d.arc("b", [30, 5], "l_b", [35, 5]);
        }),
      ).step("x").error;
    expect(tight(3)?.message).toBe(
      "The bend “b” has a radius of 5 mm, and the section needs more than 6 mm there. Make it wider, or the section smaller.",
    );
    expect(tight(-3)).toBeUndefined();
  });

  test("a path that comes back into what was swept", () => {
    const back = path((d) => {
      d.line("l", [0, 0], [60, 0]);
      d.line("m", "l_b", [60, 30]);
      d.line("n", "m_b", [20, 30]);
      d.line("o", "n_b", [20, 2]);
    });
    const { error } = swept(bar(6, 6), back).step("x");
    expect(error!.message).toBe(
      "What is swept along this path runs into itself. Make the section smaller, the bends wider, or its turns less.",
    );
  });

  test("one free curve that comes back into what was swept along it: told by its one face", () => {
    const drawn = (points: [number, number][]): Step =>
      path((d) => {
        const ids = points.map(([x, y], i) => d.point(`q${i}`, x, y));
        d.entities.push({ id: "s", type: "spline", form: "through", closed: false, points: ids, construction: false });
      });
    const round: Step = path((d) => d.circle("c", [0, 0], 4), { id: "k", on: "yz" });
    const loop: [number, number][] = [
      [0, 0],
      [40, 0],
      [60, 14],
      [60, 44],
      [40, 58],
      [16, 44],
      [16, 14],
    ];
    expect(swept(round, drawn([...loop, [34, 4]])).step("x").error!.message).toMatch(
      /^What is swept along this path runs into itself\./,
    );
    const open = swept(round, drawn(loop));
    expect(open.step("x").error ?? null).toBeNull();
    expect(open.reports.at(-1)).toMatchObject({ valid: true, closed: true });
  });

  test("a path that crosses itself", () => {
    const loop = path((d) => {
      d.line("l", [0, 0], [60, 0]);
      d.line("m", "l_b", [60, 30]);
      d.line("n", "m_b", [20, -30]);
    });
    expect(swept(bar(2, 2), loop).step("x").error!.message).toContain("is not one path: it branches, crosses itself");
  });

  test.each([
    [
      "a section along the path",
      { on: "zx" },
      {},
      "The path runs within the plane of Sketch, so it sweeps no room. Draw the section across the path.",
    ],
    ["no path", {}, { path: [] }, "Pick the sketch or the curve of the path."],
    ["no edges", {}, { along: "edges" }, "Pick the edges of the path."],
  ])("%s", (_name, section, more, message) => {
    expect(swept({ ...bar(6, 4), ...section }, straight, more).step("x").error!.message).toBe(message);
  });

  test("edges that are no path", () => {
    const block: Step = { id: "a", type: "box", size: [40, 30, 20] };
    const edges = ["a:side:x+|a:side:z-", "a:side:x-|a:side:z-"].map((edge) => ({ body: "a", edge }));
    const { error } = buildSteps(block, { id: "x", type: "pipe", along: "edges", edges, size: 3 }).step("x");
    expect(error!.message).toBe("The picked edges of Block are not one path: they branch, or leave a gap.");
  });
});
