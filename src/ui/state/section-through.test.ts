import { expect, test } from "vitest";
import type { BodyView } from "@/engine/contract";
import { sectionThrough } from "./section-through";

const box = (min: number[], max: number[]) => ({ measures: { box: { min, max } } }) as unknown as BodyView;
const bodies = [box([0, 0, 0], [10, 20, 30]), box([5, 5, 5], [20, 20, 40])];

test("a section runs along the way from the one to the other, through the middle between them", () => {
  // Along X: it may be across Y or Z.
  expect(
    sectionThrough(
      [
        [4, 10, 8],
        [6, 10, 8],
      ],
      null,
      bodies,
    ),
  ).toEqual({ axis: "y", at: 0.5, mm: 10, flip: true });
  expect(
    sectionThrough(
      [
        [4, 9, 8],
        [4, 11, 8],
      ],
      null,
      bodies,
    ),
  ).toMatchObject({ axis: "x", at: 0.2, mm: 4, flip: false });
});

test("where they meet, along the way that the face looks", () => {
  const at = [1, 2, 3];
  expect(sectionThrough([at, at], [0, 1, 0], bodies).axis).toBe("x");
  expect(sectionThrough([at, at], null, bodies).axis).toBe("y");
});

test("nothing to measure it by: in the middle", () => {
  expect(
    sectionThrough(
      [
        [0, 0, 0],
        [0, 0, 1],
      ],
      null,
      [],
    ).at,
  ).toBe(0.5);
});
