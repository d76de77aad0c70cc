import { beforeAll, describe, expect, test } from "vitest";
import type { Body } from "../items";
import { unsoundness, type Vec3, volumeOf } from "../kernel";
import { loadNodeKernel } from "../kernel/library/node";
import { buildSteps } from "../testing/harness";
import { type Move, sweptRoom } from ".";

beforeAll(loadNodeKernel);

const Z: Vec3 = [0, 0, 1];
const turn = (degrees: number, at: Vec3 = [0, 0, 0], axis: Vec3 = Z): Move => ({
  kind: "turn",
  at,
  axis,
  angle: (degrees * Math.PI) / 180,
});
const straight = (...by: [number, number, number]): Move => ({ kind: "straight", by });
const bodyOf = (step: Record<string, unknown>): Body => buildSteps({ id: "a", ...step }).bodies[0]!;
const bar = () => bodyOf({ type: "box", size: [20, 20, 60], anchor: "base" });
const volume = (body: Body, ...moves: Move[]) => {
  const swept = sweptRoom(body, moves);
  if ("why" in swept) throw new Error(`${swept.why} ${swept.places}`);
  expect(unsoundness(swept.shape, "solid")).toBeNull();
  return volumeOf(swept.shape);
};

/** Closed forms of solids, from memory; each is checked to a millionth. */
describe("the room that a body passes through, by closed form", () => {
  test.each<[string, () => Body, Move[], number]>([
    ["a square bar in a full turn about its axis", bar, [turn(360)], Math.PI * 200 * 60],
    [
      "the same about a parallel axis: an annulus",
      bar,
      [turn(360, [30, 0, 0])],
      Math.PI * (40 ** 2 + 10 ** 2 - 20 ** 2) * 60,
    ],
    [
      "a ball straight: a capsule",
      () => bodyOf({ type: "sphere", diameter: 20 }),
      [straight(30, 0, 40)],
      Math.PI * 100 * 50 + (4 / 3) * Math.PI * 1000,
    ],
    [
      "a ball round: part of a ring with ball ends",
      () => bodyOf({ type: "sphere", diameter: 20, at: [40, 0, 0] }),
      [turn(120)],
      Math.PI * 100 * 40 * ((2 * Math.PI) / 3) + (4 / 3) * Math.PI * 1000,
    ],
    [
      "a cylinder sideways: a stadium",
      () => bodyOf({ type: "cylinder", diameter: 20, height: 30 }),
      [straight(50, 0, 0)],
      (Math.PI * 100 + 20 * 50) * 30,
    ],
    [
      "a cylinder along itself: longer",
      () => bodyOf({ type: "cylinder", diameter: 20, height: 30 }),
      [straight(0, 0, 12)],
      Math.PI * 100 * 42,
    ],
    [
      "a box along a diagonal: a prism over what is seen of it",
      () => bodyOf({ type: "box", size: [10, 20, 30] }),
      [straight(7, -11, 13)],
      6000 + 7 * 600 + 11 * 300 + 13 * 200,
    ],
    [
      "forth, and back: no more than forth",
      () => bodyOf({ type: "box", size: [10, 20, 30] }),
      [straight(7, 0, 0), straight(-7, 0, 0)],
      17 * 600,
    ],
    [
      "more than all round, and then straight from where that ends",
      () => bodyOf({ type: "box", size: [20, 10, 30], anchor: "base" }),
      [turn(450), straight(0, 40, 0)],
      // The ring, and what the bar, which lies along Y by then, draws beyond it: 10 wide, from the ring to Y 50.
      (Math.PI * 125 + 10 * 50 - (5 * 10 + 125 * Math.asin(5 / Math.sqrt(125)))) * 30,
    ],
    [
      "a square bar all round about its corner",
      () => bodyOf({ type: "box", size: [20, 20, 60], anchor: "corner" }),
      [turn(360)],
      Math.PI * 800 * 60,
    ],
    [
      "a square bar a quarter of a turn about its corner",
      () => bodyOf({ type: "box", size: [20, 20, 60], anchor: "corner" }),
      [turn(90)],
      (400 * 2 + (Math.PI / 4) * 800 - 400) * 60,
    ],
  ])("%s", (_, body, moves, expected) => {
    expect(Math.abs(volume(body(), ...moves) / expected - 1)).toBeLessThan(1e-6);
  });
});
