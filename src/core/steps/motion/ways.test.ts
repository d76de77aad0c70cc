import { describe, expect, test } from "vitest";
import { poseOnWay } from "../../motion/pose";
import { movedBy } from "../../place";
import { motion } from "./declare";
import { movesFrom, movesOfWay, type PlainMove } from "./ways";

const straight = (x: number, y: number, z: number): PlainMove => ({
  id: "s",
  how: "straight",
  by: [x, y, z],
  turn: 0,
  about: "z",
  through: [0, 0, 0],
});
const turn = (degrees: number, about: PlainMove["about"] = "z"): PlainMove => ({
  ...straight(0, 0, 0),
  how: "turn",
  turn: degrees,
  about,
});
const axis = () => ({ at: [5, 0, 0] as const, axis: [0, 0, 1] as const });
const rounded = (at: readonly number[]) => at.map((value) => Math.round(value * 1e9) / 1e9 + 0);

test("each move is as much of the way; one after the other, from where the one before ends", () => {
  const moves = movesFrom([straight(0, 0, -20), straight(0, 0, 0), turn(90)], axis);
  expect(moves).toHaveLength(2);
  const at = (part: number) => rounded(movedBy(poseOnWay(moves, part), [10, 0, 0]));
  expect(at(0)).toEqual([10, 0, 0]);
  expect(at(0.25)).toEqual([10, 0, -10]);
  expect(at(0.5)).toEqual([10, 0, -20]);
  expect(at(1)).toEqual([0, 10, -20]);
});

test("about the axis of a face", () => {
  const moves = movesFrom([turn(180, "face")], axis);
  expect(rounded(movedBy(poseOnWay(moves, 1), [0, 0, 3]))).toEqual([10, 0, 3]);
});

describe("ways that are asked for with fewer questions", () => {
  const ends = (values: object) => {
    const moves = movesFrom(movesOfWay(motion.schema.parse(values) as never), axis);
    // Where a point is after each of them.
    return moves.map((_, i) => rounded(movedBy(poseOnWay(moves, (i + 1) / moves.length), [15, 0, 0])));
  };

  test("a locking slot: in, round, and back the way it came", () => {
    const lock = { way: "lock", towards: "z", depth: -20, angle: 90, back: 4 };
    expect(ends(lock)).toEqual([
      [15, 0, -20],
      [5, 10, -20],
      [5, 10, -16],
    ]);
    // From below; without a way back.
    expect(ends({ ...lock, depth: 20 }).at(-1)).toEqual([5, 10, 16]);
    expect(ends({ ...lock, back: 0 })).toHaveLength(2);
  });

  test("a lever that swings to both ends, or from where it stands", () => {
    expect(ends({ way: "swing", from: -90, to: 90 })).toEqual([
      [5, -10, 0],
      [5, 10, 0],
    ]);
    expect(ends({ way: "swing", from: 0, to: 90 })).toEqual([[5, 10, 0]]);
    expect(ends({ way: "swing", from: -90, to: 0 })).toEqual([
      [5, -10, 0],
      [15, 0, 0],
    ]);
  });

  test("a drawer", () => {
    expect(ends({ way: "slide", towards: "y", depth: 30 })).toEqual([[15, 30, 0]]);
    expect(ends({ way: "slide", towards: "x", depth: 0 })).toEqual([]);
  });
});
