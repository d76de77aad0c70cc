import { beforeAll, describe, expect, test } from "vitest";
import type { Body } from "../items";
import { allFaceFacts, roundOf } from "../kernel";
import { loadNodeKernel } from "../kernel/library/node";
import type { FaceRule } from "../references";
import { buildSteps } from "../testing/harness";
import { facesWith } from "./faces-with";

beforeAll(loadNodeKernel);

type Step = Record<string, unknown>;
const plate: Step = { id: "a", type: "box", size: [100, 60, 20] };
const subtract = (id: string, stock: string, ...cutters: string[]): Step => ({
  id,
  type: "seam",
  preset: "subtract",
  stock: [stock],
  cutters,
});

/** The body of these steps that the first of them lives on in, and the names of what a rule brings along with a face of it. */
function along(
  steps: Step[],
  face: (name: string, body: Body, place: number) => boolean,
  rule: FaceRule,
): string[] | null {
  const built = buildSteps(...steps);
  for (const { error } of built.steps) expect(error?.message).toBeUndefined();
  const body = built.bodies.reduce((one, other) => (other.faces.length > one.faces.length ? other : one));
  const place = body.faces.findIndex((name, at) => face(name, body, at));
  expect(place).toBeGreaterThanOrEqual(0);
  const found = facesWith(body, place, rule);
  expect(found?.[0] ?? place).toBe(place);
  expect(new Set(found).size).toBe(found?.length ?? 0);
  return found?.map((at) => body.faces[at]!).sort() ?? null;
}
const named = (name: string) => (other: string) => other === name;

// Pocket 40 × 24 × 8 from the top, its upright corners rounded by 4, floor by 2, rim by 1.
const pocket: Step[] = [plate, { id: "p", type: "box", size: [40, 24, 20], at: [-20, 0, 12] }, subtract("s", "a", "p")];
const walls = ["p:side:x+", "p:side:x-", "p:side:y+", "p:side:y-"];
const upright = (x: string, y: string) => ({ body: "s", edge: `p:side:x${x}|p:side:y${y}` });
const corners: Step = {
  id: "f",
  type: "fillet",
  edges: [upright("+", "+"), upright("+", "-"), upright("-", "+"), upright("-", "-")],
  radius: 4,
};
const floor: Step = { id: "g", type: "fillet", edges: [{ body: "s", edge: "p:side:x+|p:side:z-" }], radius: 2 };
const rim: Step = { id: "h", type: "fillet", edges: [{ body: "s", edge: "a:side:z+|p:side:x+" }], radius: 1 };

describe("a pocket: its floor and its walls, from any of them", () => {
  test.each([...walls, "p:side:z-"])("with sharp corners, from %s", (from) => {
    expect(along(pocket, named(from), "pocket")).toEqual([...walls, "p:side:z-"].sort());
  });

  test("with roundings of its corners and its floor, and not that of its rim, which runs smoothly on", () => {
    const steps = [...pocket, corners, floor, rim];
    // 4 walls, 4 upright corners, the floor, and 8 parts of the rounding between.
    for (const from of ["p:side:x+", "p:side:z-", "p:side:y-"]) {
      const found = along(steps, named(from), "pocket")!;
      expect(found).toHaveLength(17);
      expect(found.some((name) => name.startsWith("h:") || name.startsWith("a:"))).toBe(false);
    }
    // What runs smoothly on goes over the rim, and all round.
    expect(along(steps, named("p:side:x+"), "smooth")!.some((name) => name.startsWith("h:"))).toBe(true);
  });

  test("a bore: its wall and, where it ends within, its floor", () => {
    const bore = { id: "c", type: "cylinder", diameter: 10, height: 40, at: [20, 0, 12] };
    expect(along([plate, bore, subtract("s", "a", "c")], named("c:side"), "pocket")).toEqual(["c:cap:base", "c:side"]);
    const through = { ...bore, at: [20, 0, -10] };
    expect(along([plate, through, subtract("s", "a", "c")], named("c:side"), "pocket")).toEqual(["c:side"]);
  });
});

describe("a boss: its top and its walls, down to where it stands", () => {
  const boss: Step[] = [
    plate,
    { id: "b", type: "box", size: [20, 16, 30], at: [20, 0, 10] },
    { id: "u", type: "seam", preset: "union", stock: ["a", "b"] },
  ];
  const sides = ["b:side:x+", "b:side:x-", "b:side:y+", "b:side:y-"];
  test.each([...sides, "b:side:z+"])("from %s", (from) => {
    expect(along(boss, named(from), "boss")).toEqual([...sides, "b:side:z+"].sort());
  });

  test("with the rounding of its top, and not that of its foot", () => {
    const pin: Step = { id: "b", type: "cylinder", diameter: 16, height: 30, at: [20, 0, 10] };
    const top = { id: "f", type: "fillet", edges: [{ body: "u", edge: "b:cap:end|b:side" }], radius: 2 };
    const foot = { id: "g", type: "fillet", edges: [{ body: "u", edge: "a:side:z+|b:side" }], radius: 1 };
    for (const from of ["b:cap:end", "b:side"]) {
      const found = along([plate, pin, boss[2]!, top, foot], named(from), "boss")!;
      expect(found).toEqual(["b:cap:end", "b:side", "f:round:b:cap:end|b:side"]);
    }
  });

  test("a body without a valley is one boss, one without a ridge one pocket", () => {
    expect(along([plate], named("a:side:z+"), "boss")).toHaveLength(6);
    const hollow: Step = { id: "s", type: "shell", body: ["a"], thickness: 2, open: [] };
    const found = along([plate, hollow], (name) => name.includes("wall") || name.startsWith("s:"), "pocket");
    expect(found).toHaveLength(6);
  });
});

describe("faces alike", () => {
  const holes: Step[] = [
    plate,
    { id: "c", type: "cylinder", diameter: 6, height: 40, at: [20, 10, -10] },
    { id: "d", type: "cylinder", diameter: 6, height: 40, at: [-20, 10, -10] },
    { id: "e", type: "cylinder", diameter: 6.001, height: 40, at: [-20, -10, -10] },
    { id: "g", type: "cylinder", diameter: 6, height: 10, at: [20, -10, 15] },
    subtract("s", "a", "c", "d", "e"),
    { id: "u", type: "seam", preset: "union", stock: ["s", "g"] },
  ];
  test("of one radius, and looking the same way: bores with bores, pins with pins", () => {
    expect(along(holes, named("c:side"), "radius")).toEqual(["c:side", "d:side"]);
    expect(along(holes, named("g:side"), "radius")).toEqual(["g:side"]);
    expect(along(holes, named("e:side"), "radius")).toEqual(["e:side"]);
  });

  test("flat faces that look the same way, wherever they lie", () => {
    expect(along(holes, named("g:cap:end"), "facing")).toEqual(["a:side:z+", "g:cap:end"]);
    expect(along(holes, named("a:side:z-"), "facing")).toEqual(["a:side:z-"]);
  });

  test("a rule that says nothing of such a face", () => {
    expect(along(holes, named("a:side:z+"), "radius")).toBeNull();
    expect(along(holes, named("c:side"), "facing")).toBeNull();
  });

  test("which way round faces look, turned and mirrored as they may be", () => {
    for (const how of [{ id: "m", type: "mirror", bodies: ["u"], about: "yz", keep: false }, null]) {
      const built = buildSteps(...holes, ...(how ? [how] : []));
      const body = built.bodies.reduce((one, other) => (other.faces.length > one.faces.length ? other : one));
      for (const [place, { kind }] of allFaceFacts(body.shape).entries())
        if (kind === "cylinder")
          expect(roundOf(body.shape, place)!.outward, body.faces[place]).toBe(body.faces[place]!.includes("g:side"));
    }
  });
});
