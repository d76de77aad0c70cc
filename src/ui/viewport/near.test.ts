import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { distanceToSegment, nearestSeen } from "./near";

const pixel = fc.record({
  x: fc.integer({ min: 0, max: 800 }),
  y: fc.integer({ min: 0, max: 600 }),
  depth: fc.integer({ min: -100, max: 100 }),
});

describe("how far a pixel lies from a segment", () => {
  test("no farther than from any of its points, and as far as from one of them", () => {
    fc.assert(
      fc.property(pixel, pixel, pixel, (at, a, b) => {
        const { away, depth } = distanceToSegment(at, a, b);
        const along = Array.from({ length: 201 }, (_, i) => i / 200).map((t) => ({
          away: Math.hypot(at.x - (a.x + t * (b.x - a.x)), at.y - (a.y + t * (b.y - a.y))),
        }));
        const least = Math.min(...along.map((one) => one.away));
        expect(away).toBeLessThanOrEqual(least + 1e-9);
        // Half a step of the samples beside it at most.
        expect(least - away).toBeLessThanOrEqual(Math.hypot(b.x - a.x, b.y - a.y) / 400 + 1e-9);
        expect(depth).toBeGreaterThanOrEqual(Math.min(a.depth, b.depth) - 1e-9);
        expect(depth).toBeLessThanOrEqual(Math.max(a.depth, b.depth) + 1e-9);
      }),
      { numRuns: 200, seed: 5 },
    );
  });

  test("a segment seen end-on is its point", () => {
    const spot = { x: 5, y: 5, depth: 3 };
    expect(distanceToSegment({ x: 8, y: 9 }, spot, spot)).toEqual({ away: 5, depth: 3 });
  });
});

describe("which of several a click means", () => {
  const at = (what: string, away: number, depth: number) => ({ what, away, depth });
  test("the nearest within reach; of those as near, the one in front", () => {
    expect(nearestSeen([at("far", 9, 0), at("near", 3, 0)], 10, Number.POSITIVE_INFINITY, 0)).toBe("near");
    expect(nearestSeen([at("behind", 3, 8), at("front", 4.5, 2)], 10, Number.POSITIVE_INFINITY, 0)).toBe("front");
    expect(nearestSeen([at("out", 11, 0)], 10, Number.POSITIVE_INFINITY, 0)).toBeNull();
  });

  test("nothing that lies behind the surface seen there, but for a hair", () => {
    expect(nearestSeen([at("hidden", 1, 20)], 10, 10, 1)).toBeNull();
    expect(nearestSeen([at("rim", 1, 10.5)], 10, 10, 1)).toBe("rim");
  });
});
