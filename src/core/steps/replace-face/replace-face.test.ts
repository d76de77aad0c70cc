import { beforeAll, describe, expect, test } from "vitest";
import { facesOf, nearest } from "../../kernel";
import { loadNodeKernel } from "../../kernel/library/node";
import { buildSteps } from "../../testing/harness";

beforeAll(loadNodeKernel);

type Step = Record<string, unknown>;
const ref = (body: string, name: string) => [{ body, face: `${body}:${name}` }];
const replace = (more: Step): Step => ({ id: "o", type: "replace-face", face: ref("a", "side:x+"), ...more });
const block: Step = { id: "a", type: "box", size: [40, 30, 20] };
const built = (...steps: Step[]) => {
  const all = buildSteps(...steps);
  expect(all.step("o").error?.message).toBeUndefined();
  return { all, volume: all.reports.find(({ id }) => id.startsWith("a:"))!.volume! };
};

describe("to a plane: further out, further in, and through the face, which does both", () => {
  const plane = (more: Step): Step => ({ id: "p", type: "workplane", base: "yz", ...more });
  test.each([30, 20.001, 12, -19])("at x = %d", (offset) => {
    const { volume } = built(block, plane({ offset }), replace({ by: "workplane", plane: ["p"] }));
    expect(volume).toBeCloseTo((20 + offset) * 30 * 20, 6);
  });

  test("where it is already: nothing changes", () => {
    const { volume, all } = built(block, plane({ offset: 20 }), replace({ by: "workplane", plane: ["p"] }));
    expect(volume).toBeCloseTo(40 * 30 * 20, 6);
    expect(all.bodies[0]!.faces).toContain("a:side:x+");
  });

  test("leaning: what is gained on one side is lost on the other", () => {
    // Through the middle of the face, at 30 degrees: the mean length stays 40.
    const lean = plane({ base: "yz", offset: 20 });
    const turned = { id: "q", type: "move", bodies: ["p"], turn: 30, axis: "z", about: [20, 0, 0] };
    const { volume, all } = built(block, lean, turned, replace({ by: "workplane", plane: ["p"] }));
    expect(volume).toBeCloseTo(40 * 30 * 20, 6);
    expect(all.bodies[0]!.faces).toContain("a:side:x+");
    expect(all.bodies[0]!.faces).toHaveLength(6);
  });
});

describe("to a face of another body, run on along its own surface", () => {
  test("a beam to the outer wall of a vessel: it touches all over its end", () => {
    const vessel = { id: "v", type: "cylinder", diameter: 120, height: 30, at: [100, 0, 0] };
    const { volume, all } = built(block, vessel, replace({ onto: ref("v", "side") }));
    // 100 − √(60² − y²) from the middle, over y from −15 to 15.
    const [r, h] = [60, 15];
    const segment = h * Math.sqrt(r * r - h * h) + r * r * Math.asin(h / r);
    expect(volume).toBeCloseTo((20 * 30 + 100 * 30 - segment) * 20, 6);
    const body = all.bodies.find(({ id }) => id.startsWith("a:"))!;
    const end = facesOf(body.shape)[body.faces.indexOf("a:side:x+")]!;
    const wall = all.bodies.find(({ id }) => id.startsWith("v:"))!;
    expect(nearest(end, wall.shape)!.gap).toBeLessThan(1e-6);
  });

  test("to a ball's skin, from inside: its own body may be the other one's mate", () => {
    const ball = { id: "v", type: "sphere", diameter: 200 };
    const { volume } = built({ ...block, size: [40, 10, 10] }, ball, replace({ onto: ref("v", "skin"), flip: false }));
    // Ends on the sphere of radius 100, by integration over y and z to 1e-9.
    let sum = 0;
    const n = 400;
    for (let i = 0; i < n; i++)
      for (let j = 0; j < n; j++) {
        const [y, z] = [-5 + ((i + 0.5) * 10) / n, ((j + 0.5) * 10) / n];
        sum += Math.sqrt(1e4 - y * y - z * z) + 20;
      }
    expect(volume / (sum * (10 / n) ** 2)).toBeCloseTo(1, 6);
  });

  test("to another face of its own", () => {
    const step = { id: "b", type: "box", size: [10, 30, 40], at: [-15, 0, 0] };
    const union = { id: "u", type: "seam", preset: "union", stock: ["a", "b"] };
    const all = buildSteps(block, step, union, {
      ...replace({ onto: [{ body: "u", face: "b:side:z+" }] }),
      face: [{ body: "u", face: "a:side:z+" }],
    });
    expect(all.step("o").error?.message).toBeUndefined();
    expect(all.reports[0]!.volume).toBeCloseTo(40 * 30 * 40, 6);
  });

  test("a boss that stands on the face goes on: only what lies beside it is gained or lost", () => {
    const boss = { id: "b", type: "cylinder", diameter: 10, height: 40, at: [5, 0, 0] };
    const union = { id: "u", type: "seam", preset: "union", stock: ["a", "b"] };
    const top = (offset: number) =>
      buildSteps(
        block,
        boss,
        union,
        { id: "p", type: "workplane", base: "xy", offset },
        {
          ...replace({ by: "workplane", plane: ["p"] }),
          face: [{ body: "u", face: "a:side:z+" }],
        },
      );
    for (const at of [25, 12]) {
      const all = top(at);
      expect(all.step("o").error?.message).toBeUndefined();
      expect(all.reports[0]!.volume).toBeCloseTo(40 * 30 * at + Math.PI * 25 * (40 - at), 6);
    }
  });
});

describe("a face with roundings beside it", () => {
  const round = { id: "f", type: "fillet", edges: [{ body: "a", edge: "a:side:x+|a:side:z+" }], radius: 2 };
  const top = (offset: number): Step[] => [
    block,
    round,
    { id: "p", type: "workplane", base: "xy", offset },
    replace({ face: ref("a", "side:z+"), by: "workplane", plane: ["p"] }),
  ];
  test("cut back past them, they go with what they hung on", () => {
    const { volume, all } = built(...top(15));
    expect(volume).toBeCloseTo(40 * 30 * 15, 6);
    expect(all.step("o").warnings.map(({ code }) => code)).toEqual(["faces-gone"]);
  });
  test("cut back into them, the rest of them stays", () => {
    // Below 19 a rounding of radius 2 about 18 has taken off, over its lower half of 1: 2 − ∫₀¹ √(4 − z²) dz = 2 − (√3/2 + π/3).
    const less = 30 * (2 - (Math.sqrt(3) / 2 + Math.PI / 3));
    expect(built(...top(19)).volume).toBeCloseTo(40 * 30 * 19 - less, 6);
  });
  test("round the foot of a boss, raised into it: what is left of it stands on the raised face", () => {
    const steps = (offset: number): Step[] => [
      block,
      { id: "b", type: "cylinder", diameter: 10, height: 40, at: [3, 0, 0] },
      { id: "u", type: "seam", preset: "union", stock: ["a", "b"] },
      { id: "g", type: "fillet", edges: [{ body: "u", edge: "a:side:z+|b:side" }], radius: 2 },
      { id: "p", type: "workplane", base: "xy", offset },
      { ...replace({ by: "workplane", plane: ["p"] }), face: [{ body: "u", face: "a:side:z+" }] },
    ];
    const all = buildSteps(...steps(21));
    expect(all.step("o").error?.message).toBeUndefined();
    // Of the rounding, from 21 to where it ends, at 22: its outer radius at z is 7 − √(4 − (22 − z)²).
    let ring = 0;
    const n = 20_000;
    for (let i = 0; i < n; i++) ring += Math.PI * ((7 - Math.sqrt(4 - ((i + 0.5) / n) ** 2)) ** 2 - 25) * (1 / n);
    expect(all.reports[0]!.volume).toBeCloseTo(40 * 30 * 21 + Math.PI * 25 * 19 + ring, 4);
    // Cut back under the rounding, which never meets it, nothing would bear the boss: it is not taken off with it.
    expect(buildSteps(...steps(15)).step("o").error!.code).toBe("replace-apart");
  });
  test("further out they never meet it, and that is told", () => {
    expect(buildSteps(...top(25)).step("o").error!.code).toBe("replace-open");
  });
});

describe("to a sheet as it lies", () => {
  const roof: Step[] = [
    { id: "k", type: "box", size: [200, 200, 10], at: [120, 0, -20] },
    { id: "e", type: "offset-sheet", faces: ref("k", "side:x-"), distance: 0, extend: 40 },
  ];
  test("it reaches all round, and stays, or goes with it", () => {
    for (const keep of [true, false]) {
      const { volume, all } = built(block, ...roof, replace({ by: "sheet", sheet: ["e"], keep }));
      expect(volume).toBeCloseTo(40 * 30 * 20, 6);
      expect(all.bodies.some(({ id }) => id.startsWith("e:"))).toBe(keep);
    }
  });

  test("one that ends too early is told, with the face", () => {
    const small = { id: "k", type: "box", size: [10, 10, 10], at: [40, 0, 5] };
    const sheet = { id: "e", type: "offset-sheet", faces: ref("k", "side:x-"), distance: 0, extend: 0 };
    const { error } = buildSteps(block, small, sheet, replace({ by: "sheet", sheet: ["e"] })).step("o");
    expect(error).toMatchObject({ code: "replace-short", field: "sheet", faces: [{ face: "a:side:x+" }] });
  });
});

describe("what cannot be is told", () => {
  const error = (...steps: Step[]) => buildSteps(block, ...steps).step("o").error!;
  test("square to it, by itself, past it, nothing left, nothing picked", () => {
    expect(
      error({ id: "p", type: "workplane", base: "xy", offset: 5 }, replace({ by: "workplane", plane: ["p"] })).code,
    ).toBe("replace-askew");
    expect(error(replace({ onto: ref("a", "side:x+") })).code).toBe("same-face");
    expect(error(replace({ onto: [] })).code).toBe("nothing-picked");
    expect(error(replace({ face: [], onto: ref("a", "side:x-") })).code).toBe("nothing-picked");
    const far = error(
      { id: "p", type: "workplane", base: "yz", offset: -25 },
      replace({ by: "workplane", plane: ["p"] }),
    );
    expect(far.code).toBe("replace-nothing");
  });

  test("a small ball that the faces beside run past", () => {
    const ball = { id: "v", type: "sphere", diameter: 8, at: [40, 0, 10] };
    expect(error(ball, replace({ onto: ref("v", "skin") })).code).toMatch(/^replace-(open|short)$/);
    expect(error(ball, replace({ onto: ref("v", "skin"), flip: true })).code).toBe("replace-nothing");
  });
});
