import { beforeAll, describe, expect, test } from "vitest";
import { build, buildSteps } from "../../testing/harness";
import { sized, thirtySteps } from "../../testing/thirty-steps";
import { boxOf } from "../facts/box";
import { volumeOf } from "../facts/mass";
import { incidenceOf } from "../library/incidence";
import { loadNodeKernel } from "../library/node";
import type { Shape } from "../library/topology";
import { cross, diagonal, dot, type Vec3 } from "../space/vectors";
import { MeshStore } from "./mesh-store";
import { type Mesh, tessellate, viewDeflection } from "./tessellate";

beforeAll(loadNodeKernel);

const fineness = (shape: Shape) => viewDeflection(diagonal(boxOf(shape)!));

/** The volume that a mesh encloses, and how many of its triangles' sides meet no other side run the other way. */
function enclosed({ positions, indices }: Mesh): { volume: number; open: number } {
  const corner = (i: number) => [0, 1, 2].map((k) => positions[3 * indices[i]! + k]!) as unknown as Vec3;
  const place = (i: number) =>
    corner(i)
      .map((value) => Math.round(value * 1e3))
      .join();
  const sides = new Map<string, number>();
  let volume = 0;
  for (let i = 0; i < indices.length; i += 3) {
    volume += dot(corner(i), cross(corner(i + 1), corner(i + 2))) / 6;
    for (const [from, to] of [
      [i, i + 1],
      [i + 1, i + 2],
      [i + 2, i],
    ] as const) {
      const [a, b] = [place(from), place(to)];
      sides.set(`${a} ${b}`, (sides.get(`${a} ${b}`) ?? 0) + 1);
      sides.set(`${b} ${a}`, (sides.get(`${b} ${a}`) ?? 0) - 1);
    }
  }
  return { volume, open: [...sides.values()].filter((count) => count !== 0).length };
}

/** Checks that a mesh from a store closes without cracks, and is as good as one made at once. */
function check(store: MeshStore, shape: Shape): Mesh {
  const mesh = store.mesh(shape, fineness(shape));
  const whole = tessellate(shape, fineness(shape));
  const [own, all] = [enclosed(mesh), enclosed(whole)];
  expect(own.open).toBe(0);
  expect(Math.abs(own.volume / volumeOf(shape) - 1)).toBeLessThan(0.01);
  expect(own.volume / all.volume).toBeCloseTo(1, 5);
  expect(mesh.indices.length).toBe(whole.indices.length);
  expect([...mesh.faceRanges.filter((_, i) => i % 2 === 1)]).toEqual([
    ...whole.faceRanges.filter((_, i) => i % 2 === 1),
  ]);
  expect([...mesh.edgeRanges.filter((_, i) => i % 2 === 1)]).toEqual([
    ...whole.edgeRanges.filter((_, i) => i % 2 === 1),
  ]);
  return mesh;
}

describe("a store of meshes", () => {
  test("meshes again only what a changed dimension moved", () => {
    const store = new MeshStore();
    const steps = thirtySteps();
    for (const { shape } of build(sized(steps)).bodies) check(store, shape);
    const all = store.count.meshed;
    expect(store.count.known).toBe(0);
    store.count.meshed = 0;
    for (const { shape } of build(sized(steps, { bore: 15 })).bodies) check(store, shape);
    // The bore (two faces, one in each half), what it comes out of on either side, and the four faces in the middle that it
    // runs between.
    expect(store.count.meshed).toBe(10);
    expect(store.count.known).toBe(all - store.count.meshed);
    store.count.meshed = 0;
    for (const { shape } of build(sized(steps, { corner: 8, knob: 7 })).bodies) check(store, shape);
    expect(store.count.meshed).toBeGreaterThan(10);
    expect(store.count.meshed).toBeLessThan(all);
  });

  test("knows faces with free curves by what was written of them", () => {
    const tubes = (length: number) =>
      buildSteps(
        { id: "a", type: "cylinder", diameter: 30, height: 90, at: [0, 0, -45] },
        { id: "b", type: "cylinder", diameter: 22, height: length, axis: "x" },
        { id: "s", type: "seam", preset: "union", stock: ["a", "b"] },
      ).bodies[0]!.shape;
    const [first, longer] = [tubes(60), tubes(60.5)];
    expect(
      incidenceOf(first).edges.some(({ curve }) => curve?.curve.kind === "spline" || curve?.curve.kind === "other"),
    ).toBe(true);
    const store = new MeshStore();
    check(store, first);
    store.count.meshed = 0;
    check(store, longer);
    expect(store.count.meshed).toBe(2);
  });

  test("meshes all of it where faces would not meet", () => {
    const block = (height: number) => buildSteps({ id: "b", type: "cylinder", diameter: 40, height }).bodies[0]!.shape;
    const store = new MeshStore();
    check(store, block(30));
    // The base is remembered with another outline than it has.
    const { patches } = store as unknown as { patches: Map<string, { lines: Float32Array[] }> };
    for (const patch of patches.values()) patch.lines = patch.lines.map((line) => line.map((value) => value + 1));
    store.count.meshed = 0;
    check(store, block(31));
    expect(store.count.meshed).toBe(3);
  });

  test("forgets what was asked for longest ago", () => {
    const store = new MeshStore(500);
    const ball = (diameter: number) => buildSteps({ id: "s", type: "sphere", diameter }).bodies[0]!.shape;
    for (const diameter of [40, 41, 42]) check(store, ball(diameter));
    store.count.meshed = 0;
    check(store, ball(42));
    expect(store.count.meshed).toBe(0);
    check(store, ball(40));
    expect(store.count.meshed).toBe(1);
  });
});
