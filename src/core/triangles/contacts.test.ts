import { beforeAll, describe, expect, test } from "vitest";
import { makeBox, makeCylinder, type Shape, tessellate } from "../kernel";
import { loadNodeKernel } from "../kernel/library/node";
import type { Move } from "../motion";
import { buildSteps } from "../testing/harness";
import { contactsOnWay } from "./contacts";
import { loadNodeTriangles } from "./node";
import type { Skin } from "./skin";

beforeAll(async () => {
  await loadNodeKernel();
  await loadNodeTriangles();
  block = box([0, 0, 0], [10, 10, 10]);
  wall = { id: "wall", skin: box([50, -20, -20], [10, 60, 60]) };
});

const WITHIN = 0.01;
const skin = (shape: Shape) => tessellate(shape, { linear: 0.005, angular: 0.1 });
const box = (min: [number, number, number], size: [number, number, number]) => skin(makeBox(min, size));
const straight = (x: number, y = 0, z = 0): Move => ({ kind: "straight", by: [x, y, z] });
let block: Skin;
let wall: { id: string; skin: Skin };

describe("what a solid is in on its way", () => {
  test("from where it comes in to where it comes out; nothing beside the way", () => {
    const beside = { id: "beside", skin: box([50, 30, 0], [10, 10, 10]) };
    const found = contactsOnWay(block, [straight(100)], [beside, wall], WITHIN)!;
    expect(found).toMatchObject([{ id: "wall" }]);
    const [{ from, to, at }] = found as [(typeof found)[0]];
    // In once it has gone 40, out again after 60: to a hair more than the skins may be off.
    expect(Math.abs(from - 0.4)).toBeLessThan(1e-3);
    expect(Math.abs(to - 0.6)).toBeLessThan(1e-3);
    expect(at[0]).toBeGreaterThan(50);
    expect(at[0]).toBeLessThan(60);
    expect(at[1]).toBeCloseTo(5, 6);
  });

  test("of a chain of moves each is as much of the way; there and back it is in twice", () => {
    const found = contactsOnWay(block, [straight(0, 0, 5), straight(45), straight(-45)], [wall], WITHIN)!;
    expect(found).toHaveLength(1);
    // In by 5 at the turning point: in the last ninth of the second move, and in the first of the third.
    expect(Math.abs(found[0]!.from - (1 + 40 / 45) / 3)).toBeLessThan(1e-3);
    expect(Math.abs(found[0]!.to - (2 + 5 / 45) / 3)).toBeLessThan(1e-3);
    const twice = contactsOnWay(block, [straight(100), straight(-100)], [wall], WITHIN)!;
    expect(twice).toHaveLength(2);
  });

  test("a lever that is turned against a stop: at the angle of its edge", () => {
    const lever = box([0, -2, 0], [40, 4, 5]);
    const turn: Move = { kind: "turn", at: [0, 0, 0], axis: [0, 0, 1], angle: Math.PI };
    const stop = { id: "stop", skin: box([-5, 20, 0], [10, 10, 5]) };
    const [found] = contactsOnWay(lever, [turn], [stop], WITHIN)! as unknown as [{ from: number }];
    // Its upper edge, 2 from the axis' line, meets the corner at (5, 20).
    const angle = Math.atan2(20, 5) - Math.asin(2 / Math.hypot(5, 20));
    expect(Math.abs(found.from - angle / Math.PI)).toBeLessThan(1e-3);
  });

  test("it may begin and end in something; what lies on it flush is not touched", () => {
    const pin = skin(makeCylinder([0, 0, 0], [0, 0, 1], 5, 20));
    const plate = { id: "plate", skin: box([-20, -20, 0], [40, 40, 5]) };
    expect(contactsOnWay(pin, [straight(0, 0, 2)], [plate], WITHIN)).toMatchObject([{ from: 0, to: 1 }]);
    const floor = { id: "floor", skin: box([-20, -20, -5], [60, 40, 5]) };
    expect(contactsOnWay(pin, [straight(10)], [floor], WITHIN)).toEqual([]);
  });

  test("a pin that turns in a bore of its own size is not in what it lies in, whatever corners its triangles have", async () => {
    const bored = buildSteps(
      { id: "a", type: "box", size: [40, 40, 10] },
      { id: "b", type: "cylinder", diameter: 20, height: 10 },
      { id: "c", type: "seam", preset: "subtract", stock: ["a"], cutters: ["b"], keepCutters: false },
    ).bodies[0]!;
    const rough = { linear: 0.1, angular: 0.3 };
    const plate = { id: "plate", skin: tessellate(bored.shape, rough) };
    const pin = tessellate(makeCylinder([0, 0, 0], [0, 0, 1], 10, 10), rough);
    const turn: Move = { kind: "turn", at: [0, 0, 0], axis: [0, 0, 1], angle: 2 };
    expect(contactsOnWay(pin, [turn], [plate], 0.2)).toEqual([]);
    // One that is thicker by more than that all round is.
    const thick = tessellate(makeCylinder([0, 0, 0], [0, 0, 1], 10.5, 10), rough);
    expect(contactsOnWay(thick, [turn], [plate], 0.2)).toMatchObject([{ from: 0, to: 1 }]);
  });

  test("what is not closed cannot be told", () => {
    const open = { ...wall.skin, indices: wall.skin.indices.slice(3) };
    expect(contactsOnWay(block, [straight(1)], [{ id: "open", skin: open }], WITHIN)).toBeNull();
  });
});
