import { beforeAll, expect, test } from "vitest";
import { loadNodeKernel } from "../../kernel/library/node";
import { buildSteps } from "../../testing/harness";

beforeAll(loadNodeKernel);

// An ellipse bends most at its ends: by b² / a there, 8² / 20 = 3.2 mm. A parallel curve within it folds from there on.
test("an elliptical bar: past what its ends bend by it is told that it folds, where, and what was tried and fits", () => {
  const bar = [
    {
      id: "sk",
      type: "sketch",
      on: "xy",
      entities: [
        { id: "c", type: "point", x: 0, y: 0 },
        { id: "m", type: "point", x: 20, y: 0 },
        { id: "el", type: "ellipse", centre: "c", major: "m", minor: 8 },
      ],
    },
    { id: "e", type: "extrude", sketch: ["sk"], distance: 30 },
  ];
  const hollow = (thickness: number) => {
    const built = buildSteps(...bar, { id: "h", type: "shell", body: ["e:solid"], thickness });
    return { built, error: built.step("h").error as { message: string; at?: number[]; repair?: { set?: object } } };
  };
  const { error } = hollow(4);
  expect(error.message).toMatch(/A free face bends by as little as 3\.2 mm, and would fold\. Up to 3\.\d+ mm fits\./);
  expect(Math.abs(error.at![0]!)).toBeCloseTo(20, 5);
  const { thickness } = error.repair!.set as { thickness: number };
  expect(thickness).toBeLessThan(3.2);
  expect(thickness).toBeGreaterThan(3.1);
  const { built } = hollow(thickness);
  expect(built.step("h").error ?? null).toBeNull();
  expect(built.reports).toMatchObject([{ closed: true, valid: true }]);
});
