import { beforeAll, describe, expect, test } from "vitest";
import type { Body } from "../../items";
import { allFaceFacts, freeShape, volumeOf } from "../../kernel";
import { loadNodeKernel } from "../../kernel/library/node";
import { buildSteps, relative } from "../../testing/harness";
import type { MovedFace } from "./moved";
import { type Offset, offsetFaces } from "./offset-faces";

beforeAll(loadNodeKernel);

type Step = Record<string, unknown>;
const bodyOf = (...steps: Step[]): Body => buildSteps(...steps).bodies.at(-1)!;
/** Faces of a body by name: those whose name matches. */
const faces = (body: Body, by: number, ...names: (string | RegExp)[]): MovedFace[] =>
  names.flatMap((wanted) => {
    const found = body.faces.flatMap((name, place) =>
      (typeof wanted === "string" ? name === wanted : wanted.test(name)) ? [{ place, by }] : [],
    );
    expect(found.length, `${wanted} of ${body.faces}`).toBeGreaterThan(0);
    return found;
  });
const moved = (body: Body, ...wanted: MovedFace[]): Offset => {
  const made = offsetFaces(body, wanted);
  expect(made).not.toHaveProperty("why");
  return made as Offset;
};
const volume = (body: Body, ...wanted: MovedFace[]) => volumeOf(moved(body, ...wanted).shape);
const block = { id: "a", type: "box", size: [60, 40, 20] };

describe("volumes by closed forms", () => {
  test.each([3, -3])("one face of a block by %d", (by) => {
    const body = bodyOf(block);
    expect(relative(volume(body, ...faces(body, by, "a:side:z+")), 60 * 40 * (20 + by))).toBeLessThan(1e-9);
  });

  test("three faces that meet in a corner, and all six", () => {
    const body = bodyOf(block);
    const three = faces(body, 2, "a:side:x+", "a:side:y+", "a:side:z+");
    expect(relative(volume(body, ...three), 62 * 42 * 22)).toBeLessThan(1e-9);
    expect(relative(volume(body, ...faces(body, 0.25, /side/)), 60.5 * 40.5 * 20.5)).toBeLessThan(1e-9);
    expect(relative(volume(body, ...faces(body, -0.25, /side/)), 59.5 * 39.5 * 19.5)).toBeLessThan(1e-9);
  });

  test("one out and one in, in one go", () => {
    const body = bodyOf(block);
    const both = [...faces(body, 5, "a:side:x+"), ...faces(body, -2, "a:side:z+")];
    expect(relative(volume(body, ...both), 65 * 40 * 18)).toBeLessThan(1e-9);
  });

  test.each([2, -2])("side and end of a bar by %d", (by) => {
    const body = bodyOf({ id: "a", type: "cylinder", diameter: 20, height: 30 });
    expect(relative(volume(body, ...faces(body, by, "a:side")), Math.PI * (10 + by) ** 2 * 30)).toBeLessThan(1e-9);
    expect(relative(volume(body, ...faces(body, by, "a:cap:end")), Math.PI * 100 * (30 + by))).toBeLessThan(1e-9);
    const all = faces(body, by, /./);
    expect(relative(volume(body, ...all), Math.PI * (10 + by) ** 2 * (30 + 2 * by))).toBeLessThan(1e-9);
  });

  test.each([1.5, -1.5])("a cone's side by %d: its radii change by that over the cosine of its slope", (by) => {
    const body = bodyOf({ id: "a", type: "cone", diameter: 40, top: 20, height: 30 });
    const more = by / Math.cos(Math.atan2(10, 30));
    const [r, t] = [20 + more, 10 + more];
    const frustum = (Math.PI / 3) * 30 * (r * r + r * t + t * t);
    expect(relative(volume(body, ...faces(body, by, "a:side")), frustum)).toBeLessThan(1e-9);
    // Its end moved: the side runs on along its slope.
    const h = 30 + by;
    const end = 20 - h / 3;
    const longer = (Math.PI / 3) * h * (400 + 20 * end + end * end);
    expect(relative(volume(body, ...faces(body, by, "a:cap:end")), longer)).toBeLessThan(1e-9);
  });

  test.each([1, -1])("a ball and a ring by %d", (by) => {
    const ball = bodyOf({ id: "a", type: "sphere", diameter: 20 });
    expect(relative(volume(ball, ...faces(ball, by, "a:skin")), (4 / 3) * Math.PI * (10 + by) ** 3)).toBeLessThan(1e-9);
    const ring = bodyOf({ id: "a", type: "torus", diameter: 40, section: 10 });
    const torus = 2 * Math.PI ** 2 * 20 * (5 + by) ** 2;
    expect(relative(volume(ring, ...faces(ring, by, "a:skin")), torus)).toBeLessThan(1e-9);
  });

  test.each([0.25, -0.25])("the wall and the floor of a pocket, by %d of material", (by) => {
    const body = bodyOf(
      block,
      { id: "p", type: "box", size: [20, 10, 10], at: [0, 0, 10] },
      { id: "s", type: "seam", preset: "subtract", stock: ["a"], cutters: ["p"] },
    );
    const whole = 60 * 40 * 20;
    const walls = faces(body, by, /^p:side:[xy]/);
    expect(relative(volume(body, ...walls), whole - (20 - 2 * by) * (10 - 2 * by) * 10)).toBeLessThan(1e-9);
    const floor = faces(body, by, "p:side:z-");
    expect(relative(volume(body, ...floor), whole - 20 * 10 * (10 - by))).toBeLessThan(1e-9);
    expect(relative(volume(body, ...walls, ...floor), whole - (20 - 2 * by) * (10 - 2 * by) * (10 - by))).toBeLessThan(
      1e-9,
    );
  });

  test.each([4, -4])("the top of a plate with a boss and a bore, by %d: both run on", (by) => {
    const body = bodyOf(
      block,
      { id: "b", type: "cylinder", diameter: 16, height: 12, at: [-15, 0, 20] },
      { id: "u", type: "seam", preset: "union", stock: ["a", "b"] },
      { id: "d", type: "cylinder", diameter: 12, height: 60, at: [15, 0, -10] },
      { id: "s", type: "seam", preset: "subtract", stock: ["u"], cutters: ["d"] },
    );
    const [boss, bore] = [Math.PI * 64, Math.PI * 36];
    const wanted = (60 * 40 - bore) * 20 + boss * 12 + by * (60 * 40 - bore - boss);
    expect(relative(volume(body, ...faces(body, by, "a:side:z+")), wanted)).toBeLessThan(1e-9);
  });

  test.each([3, -3])("the end of a drafted plug by %d: its walls run on as they lean", (by) => {
    const body = bodyOf(
      { ...block, size: [40, 40, 20] },
      {
        id: "d",
        type: "draft",
        faces: ["x-", "x+", "y-", "y+"].map((side) => ({ body: "a", face: `a:side:${side}` })),
        about: "xy",
        angle: 10,
      },
    );
    const lean = Math.tan(Math.PI / 18);
    const at = (z: number) => (z < 0 ? 0 : (40 - 2 * z * lean) ** 2);
    const h = 20 + by;
    const frustum = (h / 6) * (at(0) + 4 * at(h / 2) + at(h));
    expect(relative(volume(body, ...faces(body, by, "a:side:z+")), frustum)).toBeLessThan(1e-9);
    const foot = (from: number, to: number) =>
      ((to - from) / 6) *
      [from, (from + to) / 2, to]
        .map((z) => (40 - 2 * z * lean) ** 2)
        .reduce((sum, part, i) => sum + part * (i === 1 ? 4 : 1), 0);
    expect(relative(volume(body, ...faces(body, by, "a:side:z-")), foot(-by, 20))).toBeLessThan(1e-9);
  });

  test.each([1, -1])("a rounded block all round, by %d: the roundings get another radius", (by) => {
    const body = bodyOf(block, {
      id: "f",
      type: "fillet",
      edges: [{ body: "a", edge: "a:side:x+|a:side:y+" }],
      radius: 5,
    });
    const made = moved(body, ...faces(body, by, /./));
    const [x, y, z, r] = [60 + 2 * by, 40 + 2 * by, 20 + 2 * by, 5 + by];
    expect(relative(volumeOf(made.shape), (x * y - (1 - Math.PI / 4) * r * r) * z)).toBeLessThan(1e-9);
    expect([...made.faces].sort()).toEqual([...body.faces].sort());
  });
});

test("every face keeps its name, beside a coplanar one that runs on past it, too", () => {
  // The block on top reaches over the end of a trough: its underside lies in the plane of the plate's two tops.
  const body = bodyOf(
    { id: "a", type: "box", size: [80, 60, 26] },
    { id: "c", type: "cylinder", diameter: 36, height: 80, axis: "x", at: [-40, 0, 26] },
    { id: "s", type: "seam", preset: "subtract", stock: ["a"], cutters: ["c"], keepCutters: false },
    { id: "w", type: "box", size: [10, 60, 14], at: [-35, 0, 26] },
    { id: "u", type: "seam", preset: "union", stock: ["s", "w"] },
  );
  for (const by of [12, -4]) {
    const made = moved(body, ...faces(body, by, "w:side:x+"));
    expect(made.gone).toEqual([]);
    expect([...made.faces].sort()).toEqual([...body.faces].sort());
    expect(relative(volumeOf(made.shape), volumeOf(body.shape) + by * 60 * 14)).toBeLessThan(1e-9);
  }
});

test("every face keeps its name; one that is swallowed is told", () => {
  const body = bodyOf(
    block,
    { id: "b", type: "cylinder", diameter: 16, height: 3, at: [0, 0, 20] },
    { id: "u", type: "seam", preset: "union", stock: ["a", "b"] },
  );
  const made = moved(body, ...faces(body, -3, "b:cap:end"));
  expect(made.gone.map((place) => body.faces[place])).toEqual(expect.arrayContaining(["b:side"]));
});

describe("what cannot be is told, with the faces to blame", () => {
  const faultOf = (body: Body, ...wanted: MovedFace[]) => {
    const made = offsetFaces(body, wanted);
    expect(made).toHaveProperty("why");
    return made as Exclude<typeof made, Offset>;
  };

  test("a radius that is used up", () => {
    const body = bodyOf({ id: "a", type: "cylinder", diameter: 20, height: 30 });
    expect(faultOf(body, ...faces(body, -10, "a:side"))).toEqual({
      why: "ends",
      places: [body.faces.indexOf("a:side")],
    });
    expect(faultOf(body, ...faces(body, -12, "a:side")).why).toBe("ends");
  });

  test("no material left", () => {
    const body = bodyOf(block);
    expect(faultOf(body, ...faces(body, -20, "a:side:z+")).why).toMatch(/nothing|open/);
    expect(faultOf(body, ...faces(body, -25, "a:side:z+")).why).toMatch(/nothing|open/);
  });

  test("a neighbour that is tangent and stays: it never meets the moved face", () => {
    const body = bodyOf(block, {
      id: "f",
      type: "fillet",
      edges: [{ body: "a", edge: "a:side:x+|a:side:z+" }],
      radius: 5,
    });
    expect(faultOf(body, ...faces(body, 2, "a:side:z+"))).toEqual({
      why: "open",
      places: [body.faces.indexOf("a:side:z+")],
    });
  });
});

test("a round bar is a bar again, however little its faces are moved, under their names; a part of one is not taken for one", () => {
  const [bar] = buildSteps({ id: "a", type: "cylinder", diameter: 5, height: 26, at: [3, -13, 20], axis: "y" }).bodies;
  const place = (name: string) => bar!.faces.indexOf(name);
  for (const by of [0.003, -0.003, 0.5]) {
    const made = offsetFaces(bar!, [
      { place: place("a:side"), by },
      { place: place("a:cap:end"), by: 2 * by },
    ]);
    if ("why" in made) throw new Error(made.why);
    expect(volumeOf(made.shape)).toBeCloseTo(Math.PI * (2.5 + by) ** 2 * (26 + 2 * by), 6);
    expect([...made.faces].sort()).toEqual([...bar!.faces].sort());
    const end = allFaceFacts(made.shape)[made.faces.indexOf("a:cap:end")]!;
    expect(end.centre[1]).toBeCloseTo(13 + 2 * by, 9);
    expect(end.direction![1]).toBeCloseTo(1, 9);
    freeShape(made.shape);
  }
  // Nothing would be left of it: told as of any other body.
  expect(offsetFaces(bar!, [{ place: place("a:side"), by: -3 }])).toHaveProperty("why");
  const half = buildSteps(
    { id: "a", type: "cylinder", diameter: 20, height: 10 },
    { id: "b", type: "box", size: [40, 20, 40], at: [0, 10, -10] },
    { id: "c", type: "seam", preset: "subtract", stock: ["a"], cutters: ["b"], keepCutters: false },
  ).bodies[0]!;
  const round = half.faces.findIndex((name) => name.includes("side") && name.startsWith("a"));
  const grown = offsetFaces(half, [{ place: round, by: 1 }]);
  if ("why" in grown) throw new Error(grown.why);
  expect(volumeOf(grown.shape)).toBeCloseTo((Math.PI * 121 * 10) / 2, 6);
});
