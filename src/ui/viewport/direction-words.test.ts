import { expect, test } from "vitest";
import { framed } from "@/core/steps/shared/plane/planes";
import { directionName, directionWord } from "./direction-words";

test("directions along an axis have its name and a word; others are aslant", () => {
  expect(directionName([0, 0, 1])).toBe("Z, up");
  expect(directionName([-1, 0, 0])).toBe("−X, left");
  expect(directionWord([0, -1, 0])).toBe("front");
  expect(directionWord([0.6, 0.8, 0])).toBeNull();
  expect(directionName([0.6, 0.8, 0])).toBe("aslant");
});

test("a drawing on ZX runs to the left, as it is seen from behind: the drawing says so", () => {
  const { x } = framed([0, 0, 0], [0, 1, 0]);
  expect(directionName(x)).toBe("−X, left");
});
