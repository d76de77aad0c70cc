import { beforeAll, describe, expect, test } from "vitest";
import type { SketchItem } from "../../items";
import { loadNodeKernel } from "../../kernel/library/node";
import { givenEntities, profileOf } from "../../sketch";
import { buildSteps, relative, volumeOfStep } from "../../testing/harness";

beforeAll(loadNodeKernel);

type Step = Record<string, unknown>;
const block = (width: number): Step => ({ id: "a", type: "box", size: [width, 30, 20], anchor: "corner" });
const top = { body: "a:block", face: "a:side:z+" };
const sketchOf = (...steps: Step[]) => {
  const built = buildSteps(...steps);
  const item = built.bench.find(({ item: { kind } }) => kind === "sketch")?.item as SketchItem | undefined;
  return { built, item: item!, report: built.step("k") };
};
const line = (id: string) => [
  { id: `${id}a`, type: "point", x: 5, y: 5 },
  { id: `${id}b`, type: "point", x: 25, y: 9 },
  { id, type: "line", from: `${id}a`, to: `${id}b` },
];

describe("what bodies give to draw by", () => {
  test("the edges of a face help to draw, and make no outline unless asked to", () => {
    const values = { id: "k", type: "sketch", on: "face", face: [top], outlines: [top] };
    const { item } = sketchOf(block(40), values);
    expect(item.given.filter(({ type }) => type === "line")).toHaveLength(4);
    expect(profileOf(item.entities).regions).toEqual([]);
    const outlines = sketchOf(block(40), { ...values, asOutlines: true }).item;
    expect(profileOf(outlines.entities).regions.map(({ area }) => area)).toEqual([1200]);
  });

  test("what is drawn by them follows when the body changes, under the same ids", () => {
    const values = { id: "k", type: "sketch", on: "face", face: [top], outlines: [top] };
    const ids = sketchOf(block(40), values).item.given.map(({ id }) => id);
    // The side at x = 40 is the one whose middle is farthest to the right.
    const { given } = sketchOf(block(40), values).item;
    const points = new Map(given.flatMap((one) => (one.type === "point" ? [[one.id, one.x] as const] : [])));
    const right = given.find((one) => one.type === "line" && points.get(one.from) === 40 && points.get(one.to) === 40)!;
    const drawn = {
      ...values,
      entities: line("l"),
      constraints: [{ id: "k1", type: "on", of: ["lb", right.id] }],
    };
    for (const width of [40, 60, 25]) {
      const { item, report } = sketchOf(block(width), drawn);
      expect(report.state).toBe("good");
      expect(item.given.map(({ id }) => id)).toEqual(ids);
      expect(item.entities.find(({ id }) => id === "lb")).toMatchObject({ x: expect.closeTo(width, 9) });
    }
  });

  test("the section of a tube, drawn out, is the tube again", () => {
    const { built, item } = sketchOf(
      { id: "o", type: "cylinder", diameter: 30, height: 50 },
      { id: "i", type: "cylinder", diameter: 22, height: 50 },
      { id: "t", type: "seam", preset: "subtract", stock: ["o"], cutters: ["i"], keepCutters: false },
      { id: "w", type: "workplane", base: "xy", offset: 20 },
      { id: "k", type: "sketch", on: "workplane", plane: ["w"], sections: ["t"], asOutlines: true },
      { id: "x", type: "extrude", sketch: ["k"], distance: 7 },
    );
    expect(item.given.filter(({ type }) => type === "circle")).toHaveLength(2);
    expect(relative(volumeOfStep(built, "x"), Math.PI * (15 ** 2 - 11 ** 2) * 7)).toBeLessThan(1e-9);
  });

  test("a single edge; a plane that misses; an edge that is gone", () => {
    const edge = { body: "a:block", print: { at: [20, 0, 20] } };
    expect(sketchOf(block(40), { id: "k", type: "sketch", edges: [edge] }).item.given).toHaveLength(3);
    const missed = sketchOf(block(40), { id: "k", type: "sketch", on: "xy", sections: ["a"] });
    // The level plane only touches the underside of the block: its rim is still the section there.
    expect(missed.report.state).toBe("good");
    const above = sketchOf(
      block(40),
      { id: "w", type: "workplane", base: "xy", offset: 90 },
      { id: "k", type: "sketch", on: "workplane", plane: ["w"], sections: ["a"] },
    );
    expect(above.report.warnings.map(({ message }) => message)).toEqual([
      "The plane of the sketch does not cut Block.",
    ]);
    const gone = { body: "a:block", edge: "no such edge" };
    expect(sketchOf(block(40), { id: "k", type: "sketch", edges: [gone] }).report.error?.message).toContain(
      "Pick the edge again",
    );
  });
});

test("a given curve keeps its shape as entities: an arc with its ends", () => {
  const curve = { kind: "arc" as const, centre: [1, 2] as const, radius: 5, start: 0, sweep: Math.PI / 2 };
  const made = givenEntities("g", { exact: true, curve }, true);
  expect(made.map(({ id, type }) => `${id} ${type}`)).toEqual(["g_c point", "g_a point", "g_b point", "g arc"]);
  expect(made[1]).toMatchObject({ x: 6, y: 2 });
  expect(made[2]).toMatchObject({ x: expect.closeTo(1, 12), y: 7 });
});

describe("drawings that are not as they should be", () => {
  const corner = (id: string, x: number, y: number) => ({ id, type: "point", x, y });
  const between = (id: string, from: string, to: string) => ({ id, type: "line", from, to });

  test("a line without length draws nothing and is told; nothing can be held to it", () => {
    const entities = [corner("a", 5, 5), corner("b", 5, 5), between("l", "a", "b")];
    const { report } = sketchOf({ id: "k", type: "sketch", entities });
    expect(report.warnings.map(({ message }) => message)).toEqual([
      "“l” has no length, so it draws nothing. Pull its ends apart, or take it out.",
    ]);
    for (const rule of [
      { constraints: [{ id: "k1", type: "horizontal", of: ["l"] }] },
      { dimensions: [{ id: "d1", type: "distance", of: ["l"], value: 10 }] },
      { constraints: [{ id: "k1", type: "parallel", of: ["l", "axis-x"] }] },
    ])
      expect(sketchOf({ id: "k", type: "sketch", entities, ...rule }).report.error?.message).toBe(
        "“l” has no length, so nothing can be held to it. Pull its ends apart, or take it out.",
      );
  });

  test("points in one place join what ends in them, held together or not", () => {
    const entities = [
      corner("a", 0, 0),
      corner("b", 30, 0),
      corner("b2", 30, 0),
      corner("c", 30, 20),
      corner("a2", 0, 0),
      between("l", "a", "b"),
      between("m", "b2", "c"),
      between("n", "c", "a2"),
    ];
    const held = [{ id: "k1", type: "coincident", of: ["b", "b2"] }];
    for (const constraints of [[], held]) {
      const { item, report } = sketchOf({ id: "k", type: "sketch", entities, constraints });
      expect(report.state).toBe("good");
      expect(profileOf(item.entities).regions.map(({ area }) => area)).toEqual([300]);
    }
    const twice = [...held, { id: "k2", type: "coincident", of: ["b2", "b"] }];
    expect(sketchOf({ id: "k", type: "sketch", entities, constraints: twice }).report.warnings[0]!.message).toContain(
      "say the same thing twice",
    );
  });

  test("an outline that crosses itself is the two that it encloses", () => {
    const entities = [
      corner("a", 0, 0),
      corner("b", 20, 20),
      corner("c", 20, 0),
      corner("d", 0, 20),
      between("l", "a", "b"),
      between("m", "b", "c"),
      between("n", "c", "d"),
      between("o", "d", "a"),
    ];
    const { built } = sketchOf(
      { id: "k", type: "sketch", entities },
      { id: "x", type: "extrude", sketch: ["k"], distance: 5 },
    );
    expect(built.bodies).toHaveLength(2);
    for (const { volume, valid } of built.reports) {
      expect(volume).toBeCloseTo(500, 9);
      expect(valid).toBe(true);
    }
  });

  test("an open outline says where it is open", () => {
    const entities = [
      corner("a", 0, 0),
      corner("b", 20, 20),
      corner("c", 20, 0),
      between("l", "a", "b"),
      between("m", "b", "c"),
    ];
    const { built } = sketchOf(
      { id: "k", type: "sketch", on: "yz", entities },
      { id: "x", type: "extrude", sketch: ["k"], distance: 5 },
    );
    const { error } = built.step("x");
    expect(error?.message).toContain("encloses nothing");
    expect(error?.message).toMatch(/It is open at .*, where “[lm]” ends/);
    expect(error?.at?.[0]).toBeCloseTo(0, 9);
  });
});
