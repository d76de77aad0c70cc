import { expect, test } from "vitest";
import { movedBy } from "@/core/place";
import { poseAt } from "./playing";

const straight = (x: number, y: number, z: number) => ({
  how: "straight" as const,
  by: [x, y, z] as [number, number, number],
  turn: 0,
  about: "z",
  through: [0, 0, 0] as [number, number, number],
});
const turn = (degrees: number, about = "z") => ({ ...straight(0, 0, 0), how: "turn" as const, turn: degrees, about });

test("each move is as much of the way; one after the other, from where the one before ends", () => {
  const moves = [straight(0, 0, -20), turn(90)];
  const at = (part: number) =>
    movedBy(poseAt(moves, part, () => null)!, [10, 0, 0]).map((value) => Math.round(value * 1e9) / 1e9);
  expect(at(0)).toEqual([10, 0, 0]);
  expect(at(0.25)).toEqual([10, 0, -10]);
  expect(at(0.5)).toEqual([10, 0, -20]);
  expect(at(1)).toEqual([0, 10, -20]);
});

test("about the axis of a face, where that is known", () => {
  const moves = [turn(180, "face")];
  expect(poseAt(moves, 1, () => null)).toBeNull();
  const pose = poseAt(moves, 1, () => ({ at: [5, 0, 0], axis: [0, 0, 1] }))!;
  expect(movedBy(pose, [0, 0, 3]).map(Math.round)).toEqual([10, 0, 3]);
});
