import { beforeAll, describe, expect, test } from "vitest";
import { allEdgeFacts } from "../../kernel";
import { loadNodeKernel } from "../../kernel/library/node";
import { buildSteps, relative } from "../../testing/harness";
import { sampled } from "../../testing/sample";
import { Random } from "../../testing/trust/random";

beforeAll(loadNodeKernel);

type Step = Record<string, unknown>;

/** A body's edges that are wanted, each by what it looks like. */
function edgesOf(steps: Step[], body: string, wanted: (edge: { at: readonly number[]; length: number }) => boolean) {
  const { bodies } = buildSteps(...steps);
  return allEdgeFacts(bodies[0]!.shape).flatMap((edge) =>
    edge && wanted(edge) ? [{ body, print: { kind: edge.kind, length: edge.length, at: edge.at } }] : [],
  );
}

function hollowed(steps: Step[], body: string, thickness: number, open: string[] = []) {
  const hollow = { id: "h", type: "shell", body: [body], thickness, open: open.map((face) => ({ body, face })) };
  const built = buildSteps(...steps, hollow);
  expect(built.step("h").error?.message ?? null).toBeNull();
  expect(built.reports).toMatchObject([{ closed: true, valid: true }]);
  return built.reports[0]!.volume!;
}

// A rounding that is smaller than the wall has no other side: behind it the other walls meet at a sharp edge, which lies as far from all of the
// skin as they do. So what is taken out is what it would be without the rounding (elementary geometry).
describe("walls that are thicker than roundings of the skin", () => {
  test.each(sampled([1, 2, 3, 4, 5, 6, 7, 8], 3))("a block rounded all round, scene %d", (seed) => {
    const random = new Random(seed);
    const size = [0, 1, 2].map(() => random.between(40, 70));
    const radius = random.between(2, 5);
    // As thick as the radius itself, too.
    const wall = seed % 3 === 0 ? radius : radius * random.between(1, 1.9);
    const block = { id: "b", type: "box", size };
    const steps = [block, { id: "f", type: "fillet", edges: edgesOf([block], "b:solid", () => true), radius }];
    const [solid] = buildSteps(...steps).reports;
    const room = size.reduce((product, one) => product * (one - 2 * wall), 1);
    expect(relative(hollowed(steps, "b:solid", wall), solid!.volume! - room)).toBeLessThan(1e-9);
    const [x, y, z] = size as [number, number, number];
    const open = (x - 2 * wall) * (y - 2 * wall) * (z - wall);
    expect(relative(hollowed(steps, "b:solid", wall, ["b:side:z+"]), solid!.volume! - open)).toBeLessThan(1e-9);
  });

  test("an angle, rounded at its corners and in its corner, which gets rounder by the wall", () => {
    const corners = [
      [0, 0],
      [80, 0],
      [80, 30],
      [30, 30],
      [30, 80],
      [0, 80],
    ];
    const sketch = {
      id: "sk",
      type: "sketch",
      on: "xy",
      entities: [
        ...corners.map(([x, y], i) => ({ id: `p${i}`, type: "point", x, y })),
        ...corners.map((_, i) => ({ id: `l${i}`, type: "line", from: `p${i}`, to: `p${(i + 1) % 6}` })),
      ],
    };
    const drawn = [sketch, { id: "e", type: "extrude", sketch: ["sk"], distance: 40 }];
    const edges = edgesOf(drawn, "e:solid", ({ at }) => Math.abs(at[2]! - 20) < 1);
    expect(edges).toHaveLength(6);
    const steps = [...drawn, { id: "f", type: "fillet", edges, radius: 3 }];
    const [solid] = buildSteps(...steps).reports;
    // The angle within walls of 5, and what the rounded corner of 3 and 5 fills of it.
    const within = 70 * 20 + 20 * 50 + (1 - Math.PI / 4) * 8 ** 2;
    expect(relative(hollowed(steps, "e:solid", 5), solid!.volume! - within * 30)).toBeLessThan(1e-9);
    expect(relative(hollowed(steps, "e:solid", 5, ["e:cap:end"]), solid!.volume! - within * 35)).toBeLessThan(1e-9);
  });

  test.each([4, 6, 9, 12])("a can with a foot rounded by 4, walls of %d", (wall) => {
    const can = { id: "c", type: "cylinder", diameter: 80, height: 60 };
    const foot = edgesOf([can], "c:solid", ({ at }) => Math.abs(at[2]!) < 1);
    const steps = [can, { id: "f", type: "fillet", edges: foot, radius: 4 }];
    const [solid] = buildSteps(...steps).reports;
    const room = Math.PI * (40 - wall) ** 2 * (60 - wall);
    expect(relative(hollowed(steps, "c:solid", wall, ["c:cap:end"]), solid!.volume! - room)).toBeLessThan(1e-9);
  });

  test("a mouth that the room would not reach is not left closed in silence", () => {
    const point = (id: string, x: number, y: number) => ({ id, type: "point", x, y });
    const corners = [
      point("a", 0, 0),
      point("b", 45, 0),
      point("c", 45, 70),
      point("d", 10, 97),
      point("e", 10, 120),
      point("f", 0, 120),
    ];
    const lines = corners.map(({ id }, i) => ({ id: `l${i}`, type: "line", from: id, to: corners[(i + 1) % 6]!.id }));
    const flask = [
      { id: "sk", type: "sketch", on: "zx", entities: [...corners, ...lines] },
      { id: "r", type: "revolve", sketch: ["sk"], axis: "line", line: "l5" },
    ];
    const neckWide = hollowed(flask, "r:solid", 5, ["r:side:l4"]);
    expect(neckWide).toBeGreaterThan(0);
    const mouth = { body: "r:solid", face: "r:side:l4" };
    const built = buildSteps(...flask, { id: "h", type: "shell", body: ["r:solid"], thickness: 12, open: [mouth] });
    expect(built.step("h").error).toMatchObject({ code: "shell-tight" });
  });

  test("a bar that is all used up is refused, with what fits", () => {
    const bar = { id: "c", type: "cylinder", diameter: 10, height: 60 };
    const built = buildSteps(bar, { id: "h", type: "shell", body: ["c:solid"], thickness: 6, open: [] });
    expect(built.step("h").error).toMatchObject({ code: "shell-tight", field: "thickness" });
    expect(built.step("h").error!.message).toMatch(/Up to 4\.99 mm fits|Up to 4\.9\d* mm fits/);
  });
});

// A chamfer of a right angle that is c wide on both faces lies (2 − √2)·w nearer than w to where walls of w meet: from w = c / (2 − √2) on it has no other side.
describe("walls that use a chamfer up", () => {
  test.each([3.5, 6])("a block with one edge cut off by 2 mm, walls of %f mm", (wall) => {
    const block = { id: "b", type: "box", size: [50, 40, 30] };
    const edges = edgesOf([block], "b:solid", ({ length }) => length > 49).slice(0, 1);
    const steps = [block, { id: "f", type: "chamfer", edges, distance: 2 }];
    const [solid] = buildSteps(...steps).reports;
    const room = (50 - 2 * wall) * (40 - 2 * wall) * (30 - 2 * wall);
    expect(relative(hollowed(steps, "b:solid", wall), solid!.volume! - room)).toBeLessThan(1e-9);
  });

  test("a part of a ball whose rim is cut off: what is left within is a part of a smaller ball", () => {
    const ball = [
      { id: "e", type: "sphere", diameter: 50 },
      { id: "w", type: "workplane", base: "xy", offset: 5 },
      {
        id: "s",
        type: "seam",
        preset: "trim",
        stock: ["e:ball"],
        cutters: ["w:plane"],
        keepSide: { "w:plane": "back" },
      },
    ];
    const body = buildSteps(...ball).bodies[0]!.id;
    const edges = edgesOf(ball, body, ({ length }) => length > 100 && length < 155).slice(0, 1);
    const steps = [...ball, { id: "f", type: "chamfer", edges, distance: 2 }];
    const [solid] = buildSteps(...steps).reports;
    const height = 19 - 1;
    const room = (Math.PI * height ** 2 * (3 * 19 - height)) / 3;
    expect(relative(hollowed(steps, body, 6), solid!.volume! - room)).toBeLessThan(1e-9);
  });
});
