import { expect, test } from "vitest";
import { Digest } from "./digest";

const of = (...values: number[]) => new Digest().list(values).value;

test("equal numbers give equal text; another number, order or sign gives another", () => {
  expect(of(1, 2.5, -3)).toBe(of(1, 2.5, -3));
  expect(of(0)).toBe(of(-0));
  const others = [of(1, 2.5, 3), of(2.5, 1, -3), of(1, 2.5), of(1, 2.5, -3, 0), of(1, 2.5, -3 + 1e-15), of()];
  expect(new Set([...others, of(1, 2.5, -3)]).size).toBe(others.length + 1);
});

test("two hundred thousand places on a grid are told apart", () => {
  const seen = new Set<string>();
  for (let x = 0; x < 200; x++)
    for (let y = 0; y < 100; y++) for (let z = 0; z < 10; z++) seen.add(of(x * 0.1, y * 0.1, z * 0.1));
  expect(seen.size).toBe(200_000);
});
