import { beforeAll, describe, expect, test } from "vitest";
import { SeamError } from "../errors";
import type { Body } from "../items";
import { allFaceFacts } from "../kernel";
import { loadNodeKernel } from "../kernel/library/node";
import { fingerprintOf } from "../references";
import { build, jobOf } from "../testing/harness";
import { blockFile } from "../testing/step-text";
import { distinctNames, resolveFace, topologyNames } from ".";

beforeAll(loadNodeKernel);

/** A block, drilled across, split; with every step's values open to change. */
function sheet({
  size = [60, 40, 30],
  drill = 12,
  at = [0, 0, 15],
  offset = 4,
}: {
  size?: number[];
  drill?: number;
  at?: number[];
  offset?: number;
} = {}) {
  return [
    { id: "block", type: "box", size },
    { id: "drill", type: "cylinder", diameter: drill, height: 200, at: [-100, at[1], at[2]], axis: "x" },
    { id: "holed", type: "seam", preset: "subtract", stock: ["block"], cutters: ["drill"] },
    { id: "plane", type: "workplane", base: "yz", offset },
    { id: "parted", type: "seam", stock: ["holed"], cutters: ["plane"] },
  ];
}

const namesOf = (bodies: Body[]) => bodies.map((body) => [body.id, [...body.faces].sort()] as const).sort();

describe("names do not depend on sizes, order or inserted steps", () => {
  const reference = () => namesOf(build(jobOf(sheet())).bodies);

  test.each([
    ["sizes", sheet({ size: [90, 60, 44], drill: 9 })],
    ["places", sheet({ at: [0, 7, 11], offset: -8 })],
  ])("%s change", (_name, steps) => {
    expect(namesOf(build(jobOf(steps)).bodies)).toEqual(reference());
  });

  test("steps are reordered", () => {
    const [block, drill, holed, plane, parted] = sheet();
    expect(namesOf(build(jobOf([plane!, drill!, block!, holed!, parted!])).bodies)).toEqual(reference());
  });

  test("a step is inserted that has nothing to do with it", () => {
    const steps = sheet();
    steps.splice(2, 0, { id: "extra", type: "sphere", diameter: 5, at: [0, 0, 100] } as never);
    expect(namesOf(build(jobOf(steps)).bodies).filter(([id]) => !id.startsWith("extra"))).toEqual(reference());
  });

  test("every face of every body has a name of its own, and the names say where it comes from", () => {
    for (const body of build(jobOf(sheet())).bodies) {
      expect(new Set(body.faces).size).toBe(body.faces.length);
      for (const name of body.faces)
        expect(name).toMatch(/^(block:side:[xyz][+-]|drill:(side|cap:\w+)|plane:plane:face)(~[0-9a-f]{4}(\.\d+)?)?$/);
    }
  });

  test("a face divided in two keeps its name with a suffix from its neighbours", () => {
    const built = build(
      jobOf([
        { id: "block", type: "box", size: [60, 40, 30] },
        { id: "slot", type: "box", size: [10, 100, 10], at: [5, 0, 25] },
        { id: "cut", type: "seam", preset: "subtract", stock: ["block"], cutters: ["slot"], keepCutters: false },
      ]),
    );
    const tops = built.bodies[0]!.faces.filter((name) => name.startsWith("block:side:z+"));
    expect(tops).toHaveLength(2);
    expect(tops.every((name) => /~[0-9a-f]{4}$/.test(name))).toBe(true);
    const wider = build(
      jobOf([
        { id: "block", type: "box", size: [80, 44, 30] },
        { id: "slot", type: "box", size: [14, 100, 12], at: [-9, 0, 25] },
        { id: "cut", type: "seam", preset: "subtract", stock: ["block"], cutters: ["slot"], keepCutters: false },
      ]),
    );
    expect(namesOf(wider.bodies)).toEqual(namesOf(built.bodies));
  });
});

describe("a stored reference", () => {
  const block = (size = [20, 20, 20]) => build(jobOf([{ id: "a", type: "box", size }])).bodies[0]!;
  const top = (body: Body) => body.faces.indexOf("a:side:z+");

  test("is found by name", () => {
    const body = block();
    expect(resolveFace(body, { body: body.id, face: "a:side:z+" })).toEqual({ how: "found", face: top(body) });
  });

  test("is found by fingerprint, with a warning, when the name is lost", () => {
    const body = block();
    const facts = allFaceFacts(body.shape)[top(body)]!;
    const found = resolveFace(body, { body: body.id, face: "gone:side", print: fingerprintOf(facts) });
    expect(found).toMatchObject({ how: "guessed", face: top(body) });
  });

  test("is found by its origin when the face was divided since, by place among the parts", () => {
    const cut = build(
      jobOf([
        { id: "a", type: "box", size: [20, 20, 20] },
        { id: "b", type: "box", size: [4, 40, 8], at: [3, 0, 16] },
        { id: "s", type: "seam", preset: "subtract", stock: ["a"], cutters: ["b"], keepCutters: false },
      ]),
    ).bodies[0]!;
    const left = {
      kind: "plane",
      centre: [-4, 0, 20] as [number, number, number],
      direction: [0, 0, 1] as [number, number, number],
    };
    const found = resolveFace(cut, { body: cut.id, face: "a:side:z+", print: left });
    expect(found.how).toBe("guessed");
    expect(allFaceFacts(cut.shape)[found.face]!.centre[0]).toBeLessThan(0);
  });

  test("is lost, with an error that says what was wanted, when nothing fits", () => {
    const body = block();
    const lost = () => resolveFace(body, { body: body.id, face: "gone:side", print: { kind: "cylinder", radius: 4 } });
    expect(lost).toThrow(SeamError);
    expect(lost).toThrow("The picked face “gone:side” is no longer on this body. Pick the face again.");
  });

  test("a description that fits several faces is refused, not guessed", () => {
    expect(() => resolveFace(block(), { body: "a:block", print: { kind: "plane" } })).toThrow(/No single face fits/);
  });

  test("what was drawn freely when it was picked may have its closed form now; another kind is another face", () => {
    const print = (kind: string) => ({ kind, centre: [20, 15, 20] as [number, number, number] });
    const body = block();
    const top = allFaceFacts(body.shape).findIndex(({ centre }) => centre[2] === 20);
    const { centre } = allFaceFacts(body.shape)[top]!;
    const found = resolveFace(body, { body: body.id, print: { ...print("spline"), centre: [...centre] } as never });
    expect(found.face).toBe(top);
    expect(() =>
      resolveFace(body, { body: body.id, print: { ...print("cone"), centre: [...centre] } as never }),
    ).toThrow(/No single face fits/);
  });

  test("later steps land on the same face after edits, in a build", () => {
    const steps = (size: number[], at: number[]) => [
      ...sheet({ size, at }),
      { id: "w", type: "workplane", base: "face", face: [{ body: "parted", face: "block:side:y+" }], offset: 1 },
    ];
    const job = (size: number[], at: number[]) => {
      const first = build(jobOf(steps(size, at)));
      const body = first.bodies.find(
        (candidate) => candidate.id.startsWith("parted:") && candidate.faces.includes("block:side:x+"),
      )!;
      const all = steps(size, at);
      (all[5] as { face: unknown[] }).face = [{ body: body.id, face: "block:side:y+" }];
      return build(jobOf(all));
    };
    for (const [size, at] of [
      [
        [60, 40, 30],
        [0, 0, 15],
      ],
      [
        [50, 70, 30],
        [0, 12, 12],
      ],
    ] as const) {
      const built = job([...size], [...at]);
      const plane = built.bench.find((entry) => entry.item.id === "w:plane")!.item;
      expect(plane.kind === "workplane" && plane.origin[1]).toBeCloseTo(size[1] / 2 + 1, 9);
    }
  });
});

describe("edges and vertices", () => {
  test("an edge is named by its two faces, a vertex by its edges' faces; every name once", () => {
    const body = build(jobOf([{ id: "a", type: "box", size: [20, 20, 20] }])).bodies[0]!;
    const { edges, vertices } = topologyNames(body.shape, body.faces);
    expect(edges).toHaveLength(12);
    expect(vertices).toHaveLength(8);
    expect(new Set(edges).size).toBe(12);
    expect(new Set(vertices).size).toBe(8);
    expect(edges).toContain("a:side:x+|a:side:z+");
    expect(vertices).toContain("a:side:x+|a:side:y+|a:side:z+");
  });

  test("two rims between the same two faces are told apart by their place, whatever the order of steps", () => {
    const holes = (order: number[]) => {
      const steps = [
        { id: "bar", type: "cylinder", diameter: 20, height: 60, at: [-30, 0, 0], axis: "x" },
        { id: "pin", type: "cylinder", diameter: 8, height: 60, at: [0, 0, -30] },
      ];
      const body = build(
        jobOf([
          ...order.map((i) => steps[i]!),
          { id: "s", type: "seam", preset: "subtract", stock: ["bar"], cutters: ["pin"], keepCutters: false },
        ]),
      ).bodies[0]!;
      return topologyNames(body.shape, body.faces)
        .edges.filter((name) => name?.startsWith("bar:side|pin:side"))
        .sort();
    };
    const names = holes([0, 1]);
    expect(new Set(names).size).toBe(names.length);
    expect(names.length).toBeGreaterThanOrEqual(2);
    expect(holes([1, 0])).toEqual(names);
  });
});

describe("names from a file", () => {
  test("a revised file keeps the names of the faces that did not change", () => {
    const files = [{ id: "f", name: "x.step", sha256: "0".repeat(64) }];
    const names = (height: number) =>
      build(jobOf([{ id: "i", type: "import", file: "f" }], { files }), {
        file: () => new TextEncoder().encode(blockFile({ size: [10, 20, height] })),
      }).bodies[0]!;
    const [before, after] = [names(5), names(8)];
    const kept = before.faces.filter((name) => after.faces.includes(name));
    expect(kept).toHaveLength(1);
    const place = after.faces.indexOf(kept[0]!);
    expect(allFaceFacts(after.shape)[place]!.centre[2]).toBeCloseTo(0, 9);
  });
});

test("suffixes: neighbours first, place only for ties", () => {
  const names = distinctNames(
    ["a", "a", "b", "c"],
    () => [[2], [3], [0], [1]],
    () => [0, 0, 0],
  );
  expect(new Set(names).size).toBe(4);
  expect(names.slice(2)).toEqual(["b", "c"]);
  const swapped = distinctNames(
    ["c", "b", "a", "a"],
    () => [[3], [2], [1], [0]],
    () => [0, 0, 0],
  );
  expect([...swapped].sort()).toEqual([...names].sort());
  const ties = distinctNames(
    ["a", "a"],
    () => [[], []],
    (face) => [face === 0 ? 5 : 1, 0, 0],
  );
  expect(ties).toEqual([expect.stringMatching(/\.2$/), expect.stringMatching(/\.1$/)]);
});

test("a face's facts: kind with radius or normal out of the material", () => {
  const body = build(jobOf([{ id: "c", type: "cylinder", diameter: 10, height: 20 }])).bodies[0]!;
  const facts = allFaceFacts(body.shape);
  expect(facts[body.faces.indexOf("c:side")]).toMatchObject({ kind: "cylinder", radius: 5 });
  expect(facts[body.faces.indexOf("c:cap:end")]!.direction).toEqual([0, 0, 1]);
  expect(facts[body.faces.indexOf("c:cap:base")]!.direction).toEqual([0, 0, -1]);
});
