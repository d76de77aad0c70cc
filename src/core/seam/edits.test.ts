import { beforeAll, describe, expect, test } from "vitest";
import { loadNodeKernel } from "../kernel/library/node";
import { build, jobOf } from "../testing/harness";

beforeAll(loadNodeKernel);

/** A block divided by a level sheet and a crosswise plane, with one quarter scrapped by hand. */
function steps(change: { size?: number[]; at?: number[]; level?: number; extend?: number; fates?: unknown[] } = {}) {
  return [
    { id: "pad", type: "cylinder", diameter: 30, height: 12, at: change.at ?? [0, 0, 4] },
    { id: "block", type: "box", size: change.size ?? [60, 60, 20] },
    { id: "hollow", type: "seam", preset: "subtract", stock: ["block"], cutters: ["pad"] },
    {
      id: "sheet",
      type: "offset-sheet",
      faces: [{ body: "pad:cylinder", face: "pad:cap:end" }],
      distance: change.level ?? -6,
      extend: change.extend ?? 60,
    },
    { id: "across", type: "workplane", base: "yz", offset: 1 },
    { id: "part", type: "seam", stock: ["hollow"], cutters: ["sheet", "across"], fates: change.fates ?? [] },
  ];
}

function scrapRule() {
  const { pieces } = build(jobOf(steps()), { pieces: "part" });
  const { piece } = pieces!.find(
    ({ piece }) => piece.sides["sheet:sheet"] === "front" && piece.sides["across:plane"] === "back",
  )!;
  return { piece: { kind: piece.kind, faces: piece.faces }, fate: "scrap" };
}

/** A cut into the hollowed block, put in before it is parted. */
const hole = { id: "hole", type: "cylinder", diameter: 4, height: 60, at: [-25, -25, -10] };
const cut = {
  id: "cut",
  type: "seam",
  preset: "subtract",
  stock: ["hollow"],
  cutters: ["hole"],
  keepCutters: false,
};

describe("fates survive edits", () => {
  test("also a cut that is put in before: the piece is known by what its stock was then", () => {
    const rule = scrapRule();
    const all = steps({ fates: [rule] });
    const later = { id: "extra", type: "box", size: [5, 5, 5], at: [200, 0, 0] };
    const put = (...more: Record<string, unknown>[]) => [...all.slice(0, 3), ...more, ...all.slice(3)];
    const before = build(jobOf(all));
    for (const changed of [put(hole, cut), put(later)]) {
      const after = build(jobOf(changed));
      expect(after.step("part")).toMatchObject({ state: "good", warnings: [] });
      const parts = (built: typeof after) => built.bodies.filter(({ id }) => id.startsWith("part:")).length;
      expect(parts(after)).toBe(parts(before));
    }
  });

  test.each([
    ["the block grows", { size: [90, 70, 24] }],
    ["the block shrinks", { size: [40, 40, 18] }],
    ["the pad moves", { at: [5, -3, 5] }],
    ["the sheet moves", { level: -3 }],
  ])("%s", (_name, change) => {
    const built = build(jobOf(steps({ ...change, fates: [scrapRule()] })));
    const step = built.step("part");
    expect(step.state).toBe("good");
    const kept = built.reports.filter((report) => report.id.startsWith("part:"));
    expect(kept).toHaveLength(3);
    // What is gone is the quarter above the sheet and behind the plane: nothing kept reaches both.
    const above = kept.filter((report) => report.box!.max[2] > ((change as { level?: number }).level ?? -6) + 17);
    expect(above.every((report) => report.box!.min[0] > 0)).toBe(true);
  });

  test("ids of the kept pieces stay, so later steps still find them", () => {
    const ids = (change: object) =>
      build(jobOf(steps(change)))
        .reports.filter((report) => report.id.startsWith("part:"))
        .map((report) => report.id);
    expect(ids({ size: [90, 70, 24], at: [4, 4, 5] })).toEqual(ids({}));
  });

  test("a cut put in before changes no piece's place in what comes after: refs and names still mean it", () => {
    const all = steps();
    const first = build(jobOf(all)).reports.find(({ id }) => id.startsWith("part:"))!;
    const after = { id: "m", type: "move", bodies: [first.id], by: [0, 0, 50] };
    const parts = [
      {
        id: "p",
        name: "P",
        steps: [...all.slice(0, 3), hole, cut, ...all.slice(3), after],
        names: { [first.id]: "Quarter" },
      },
    ];
    const built = build(jobOf([], { parts }));
    expect(built.step("m").error ?? null).toBeNull();
    const moved = built.reports.find(({ name }) => name === "Quarter")!;
    expect(moved.box!.min[2]).toBeCloseTo(first.box!.min[2] + 50, 6);
    expect(moved.box!.max[0]).toBeCloseTo(first.box!.max[0], 6);
  });

  test("a piece that is no longer made is said, not guessed", () => {
    const fates = [{ piece: { kind: "hollow:x sheet=front", faces: [] }, fate: "scrap" }];
    const built = build(jobOf(steps({ fates })));
    expect(built.step("part").state).toBe("warned");
    expect(built.step("part").warnings[0]!.code).toBe("check-pieces");
    expect(built.reports.filter((report) => report.id.startsWith("part:"))).toHaveLength(4);
  });

  test("pieces alike in kind are told apart by their faces", () => {
    // One bar through another leaves two ends of the same kind.
    const bars = (shift: number, fates: unknown[] = []) => [
      { id: "long", type: "cylinder", diameter: 20, height: 120, at: [-60 + shift, 0, 0], axis: "x" },
      { id: "cross", type: "cylinder", diameter: 30, height: 80, at: [0, 0, -40] },
      { id: "cope", type: "seam", preset: "subtract", stock: ["long"], cutters: ["cross"], fates },
    ];
    const first = build(jobOf(bars(0)), { pieces: "cope" });
    const end = first.pieces!.find(({ piece }) => piece.faces.includes("long:cap:end"))!.piece;
    const fates = [{ piece: { kind: end.kind, faces: end.faces }, fate: "scrap" }];
    for (const shift of [0, 10, -12]) {
      const built = build(jobOf(bars(shift, fates)));
      expect(built.step("cope").state).toBe("good");
      const kept = built.reports.filter((report) => report.id.startsWith("cope:"));
      expect(kept).toHaveLength(1);
      expect(kept[0]!.box!.max[0]).toBeLessThan(0);
    }
  });
});

describe("a cutter that does not reach", () => {
  test("stops short inside the stock: which one, and by how much", () => {
    // The pad's cap has a radius of 15; extended by 5 it is a square of 40, and the block ends at 30.
    const built = build(jobOf(steps({ extend: 5 })));
    const { state, error } = built.step("part");
    expect(state).toBe("failed");
    expect(error!.code).toBe("cutter-short");
    expect(error!.message).toMatch(/^Sheet stops short inside Block\. It has to reach 10 mm further\./);
    expect(error!.bodies).toEqual(["sheet:sheet", expect.stringMatching(/^hollow:/)]);
    expect(error!.repair).toEqual({ label: "Extend it by 11 mm more", step: "sheet", set: { extend: { add: 11 } } });
    // The stock is as it was before the step.
    expect(built.bench.some((entry) => entry.item.id.startsWith("hollow:"))).toBe(true);
  });

  test("misses the stock: which one, and by how much", () => {
    const built = build(jobOf(steps({ at: [0, 0, 40] })));
    expect(built.step("hollow").state).toBe("failed");
    expect(built.step("hollow").error!.message).toBe(
      "Cylinder misses Block by 20 mm: it divides nothing. Move one of them.",
    );
    expect(built.step("part").state).toBe("waiting");
    expect(built.step("part").error!.message).toBe("Waits for step 3, which could not be built.");
  });

  test("a workplane that passes beside the stock", () => {
    const built = build(
      jobOf([
        { id: "block", type: "box", size: [20, 20, 20] },
        { id: "plane", type: "workplane", base: "xy", offset: 23.5 },
        { id: "s", type: "seam", stock: ["block"], cutters: ["plane"] },
      ]),
    );
    expect(built.step("s").error!.message).toContain("Workplane misses Block by 3.5 mm");
  });

  test("one of several that misses is a warning: the others cut", () => {
    const built = build(
      jobOf([
        { id: "block", type: "box", size: [20, 20, 20] },
        { id: "p", type: "workplane", base: "xy", offset: 5 },
        { id: "q", type: "workplane", base: "xy", offset: 30 },
        { id: "s", type: "seam", stock: ["block"], cutters: ["p", "q"] },
      ]),
    );
    expect(built.step("s").state).toBe("warned");
    expect(built.step("s").warnings[0]!.message).toContain("by 10 mm");
  });

  test("solids apart have no union and nothing in common, and it says how far apart they are", () => {
    const pair = (preset: string) =>
      build(
        jobOf([
          { id: "a", type: "box", size: [10, 10, 10] },
          { id: "b", type: "box", size: [10, 10, 10], at: [14, 0, 0] },
          { id: "s", type: "seam", preset, stock: ["a", "b"] },
        ]),
      );
    expect(pair("union").step("s").warnings[0]!.message).toContain("the gap between them is 4 mm");
    expect(pair("union").reports).toHaveLength(2);
    expect(pair("intersect").step("s").error!.message).toContain("the gap between them is 4 mm");
  });

  test("a cutter that is the stock itself, and one that is just like it", () => {
    const built = build(
      jobOf([
        { id: "a", type: "box", name: "Block", size: [10, 10, 10] },
        { id: "b", type: "box", name: "Same", size: [10, 10, 10] },
        { id: "s", type: "seam", stock: ["a"], cutters: ["a"] },
        { id: "t", type: "seam", preset: "subtract", stock: ["a"], cutters: ["b"] },
        { id: "u", type: "seam", preset: "split", stock: ["a"], cutters: ["b"] },
      ]),
    );
    expect(built.step("s").error).toMatchObject({
      code: "cutter-is-stock",
      message: "Block is both stock and cutter. Pick something else to cut with.",
    });
    expect(built.step("t").error!.code).toBe("nothing-left");
    expect(built.step("u").warnings.find(({ code }) => code === "cutter-covers")).toMatchObject({
      message: "Same holds the whole of Block, so it divides nothing. Make it smaller, or move one of them.",
    });
  });

  test("a cutter that would leave nothing, and one that is not a solid", () => {
    const built = build(
      jobOf([
        { id: "a", type: "box", size: [10, 10, 10], anchor: "centre" },
        { id: "b", type: "sphere", diameter: 40 },
        { id: "p", type: "workplane" },
        { id: "s", type: "seam", preset: "subtract", stock: ["a"], cutters: ["b"] },
        { id: "t", type: "seam", preset: "subtract", stock: ["a"], cutters: ["p"] },
      ]),
    );
    expect(built.step("s").error!.code).toBe("nothing-left");
    expect(built.step("t").error!.code).toBe("needs-solids");
  });
});

describe("sides", () => {
  test("pieces that no cutter touches know their side from their neighbours", () => {
    const built = build(
      jobOf([
        { id: "block", type: "box", size: [10, 10, 90] },
        ...[30, 60].map((offset) => ({ id: `p${offset}`, type: "workplane", base: "xy", offset })),
        {
          id: "s",
          type: "seam",
          preset: "trim",
          stock: ["block"],
          cutters: ["p30", "p60"],
          keepSide: { p30: "front", p60: "back" },
        },
      ]),
    );
    const kept = built.reports.filter((report) => report.id.startsWith("s:"));
    expect(kept).toHaveLength(1);
    expect(kept[0]!.box!.min[2]).toBeCloseTo(30, 9);
    expect(kept[0]!.box!.max[2]).toBeCloseTo(60, 9);
  });

  test("flipping a workplane turns front and back", () => {
    const top = (flip: boolean) =>
      build(
        jobOf([
          { id: "block", type: "box", size: [10, 10, 20] },
          { id: "p", type: "workplane", base: "xy", offset: 5, flip },
          { id: "s", type: "seam", preset: "trim", stock: ["block"], cutters: ["p"], keepSide: { p: "front" } },
        ]),
      ).reports[0]!.volume;
    expect(top(false)).toBeCloseTo(1500, 6);
    expect(top(true)).toBeCloseTo(500, 6);
  });

  test("a cutter that lies along a face of the stock divides nothing there", () => {
    const built = build(
      jobOf([
        { id: "block", type: "box", size: [10, 10, 20] },
        { id: "p", type: "workplane", base: "xy", offset: 20 },
        { id: "s", type: "seam", preset: "split", stock: ["block"], cutters: ["p"] },
      ]),
    );
    expect(built.step("s").state).toBe("failed");
  });
});
