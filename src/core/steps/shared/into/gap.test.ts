import { beforeAll, describe, expect, test } from "vitest";
import { loadNodeKernel } from "../../../kernel/library/node";
import { buildSteps } from "../../../testing/harness";

beforeAll(loadNodeKernel);

type Step = Record<string, unknown>;
const block: Step = { id: "b", type: "box", size: [80, 60, 20], at: [0, 0, -20] };
const WHOLE = 80 * 60 * 20;
const circle: Step = {
  id: "k",
  type: "sketch",
  on: "xy",
  entities: [
    { id: "c", type: "point", x: 15, y: 0 },
    { id: "r", type: "circle", centre: "c", radius: 5 },
  ],
};
const cut = (more: Step): Step => ({
  id: "e",
  type: "extrude",
  sketch: ["k"],
  into: "cut",
  targets: ["b"],
  distance: 8,
  flip: true,
  ...more,
});
const hole = (radius: number, depth: number) => Math.PI * radius ** 2 * depth;
const volumeOf = (...steps: Step[]) => {
  const built = buildSteps(...steps);
  for (const { error } of built.steps) expect(error?.message).toBeUndefined();
  return { built, volume: built.reports[0]!.volume! };
};

describe("a drawn cut with a gap", () => {
  test.each([0.25, -0.02, "10 thou"])(
    "of %s: wider all round, and deeper; the least distance is told as measured",
    (gap) => {
      const mm = gap === "10 thou" ? 0.254 : Number(gap);
      const { built, volume } = volumeOf(block, circle, cut({ intoGap: gap }));
      // Below 0 the mouth stays open: what begins in the skin begins there still.
      expect(volume / (WHOLE - hole(5 + mm, 8 + mm))).toBeCloseTo(1, 9);
      expect(built.bodies[0]!.faces).toHaveLength(8);
      const [told] = built.step("e").told!;
      expect(told!.message).toBe(
        mm > 0 ? `What cuts keeps off Block by ${mm} mm at least.` : "What cuts touches Block, or presses into it.",
      );
    },
  );

  test("mirrored as a step, the copy keeps it; joined on, there is none", () => {
    const mirror = { id: "m", type: "mirror", what: "steps", steps: ["e"], about: "yz" };
    const { volume } = volumeOf(block, circle, cut({ intoGap: 0.5 }), mirror);
    expect(volume / (WHOLE - 2 * hole(5.5, 8.5))).toBeCloseTo(1, 9);
    const joined = volumeOf(block, circle, cut({ into: "join", flip: false, intoGap: 0.5 }));
    expect(joined.volume / (WHOLE + hole(5, 8))).toBeCloseTo(1, 9);
    expect(joined.built.step("e").told).toBeUndefined();
  });

  test("one that uses up a radius is refused with its field", () => {
    const { error } = buildSteps(block, circle, cut({ intoGap: -5 })).step("e");
    expect(error).toMatchObject({ field: "intoGap" });
    expect(error!.code).toMatch(/^gap-(ends|nothing)$/);
  });
});
