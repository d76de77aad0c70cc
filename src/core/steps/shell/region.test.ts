import { beforeAll, expect, test } from "vitest";
import { allFaceFacts, freeShape, ownHandle, volumeOf } from "../../kernel";
import { loadNodeKernel } from "../../kernel/library/node";
import { buildSteps } from "../../testing/harness";
import type { StepContext } from "../evaluation";
import { withWallsMoved } from "./region";

beforeAll(loadNodeKernel);

test("two parts of one wall, of which the one goes with the other when that is moved", () => {
  const built = buildSteps(
    { id: "a", type: "box", size: [40, 20, 30] },
    { id: "b", type: "box", size: [20, 20, 35] },
    { id: "u", type: "seam", preset: "union", stock: ["a", "b"] },
  );
  const body = built.bodies.at(-1)!;
  const tops = allFaceFacts(body.shape).map(({ kind, direction, centre }) =>
    kind === "plane" && direction![2] > 0.5 && centre[2] > 0 ? centre[2] : null,
  );
  const height = Math.max(...tops.map((z) => z ?? 0));
  let shoulders = 0;
  const faces = body.faces.map((name, place) => {
    if (tops[place] === null) return name;
    return tops[place] === height ? "top" : `top~${++shoulders}`;
  });
  expect(shoulders).toBe(2);
  const before = volumeOf(body.shape);
  const region = { ...body, shape: ownHandle(body.shape), faces };
  const made = withWallsMoved(region, [{ wall: "top", by: 10 }], { step: "s" } as StepContext);
  // The first is a shoulder: all that lies above where it goes is gone, the others with it. They are not moved once more.
  expect(faces.find((name) => name.startsWith("top"))).toBe("top~1");
  expect(before - volumeOf(made.shape)).toBeCloseTo(20 * 20 * 15 + 20 * 20 * 10, 6);
  freeShape(made.shape);
});
