import { beforeAll, describe, expect, test } from "vitest";
import { freePieces } from "../evaluate";
import { contains, countsOf, freeShape, innerPoint, makeTorus, volumeOf } from "../kernel";
import { loadNodeKernel } from "../kernel/library/node";
import { build, buildSteps, jobOf, relative, volumeOfStep } from "../testing/harness";

beforeAll(loadNodeKernel);

const bar = (id: string, axis: "x" | "y" | "z", diameter: number, length: number) => ({
  id,
  type: "cylinder",
  diameter,
  height: length,
  axis,
  at: [axis === "x" ? -length / 2 : 0, axis === "y" ? -length / 2 : 0, axis === "z" ? -length / 2 : 0],
});

describe("volumes with a closed form, to 1e-6", () => {
  test("two equal crossing cylinders share 16 r³ / 3 (Archimedes, The Method, prop. 15)", () => {
    const r = 20;
    const built = buildSteps(bar("a", "x", 2 * r, 100), bar("b", "y", 2 * r, 100), {
      id: "s",
      type: "seam",
      preset: "intersect",
      stock: ["a", "b"],
    });
    expect(relative(volumeOfStep(built, "s"), (16 / 3) * r ** 3)).toBeLessThan(1e-6);
  });

  test("three equal crossing cylinders share 8 (2 − √2) r³ (Moore 1974, the tricylinder Steinmetz solid)", () => {
    const r = 15;
    const built = buildSteps(bar("a", "x", 2 * r, 100), bar("b", "y", 2 * r, 100), bar("c", "z", 2 * r, 100), {
      id: "s",
      type: "seam",
      preset: "intersect",
      stock: ["a", "b", "c"],
    });
    expect(relative(volumeOfStep(built, "s"), 8 * (2 - Math.SQRT2) * r ** 3)).toBeLessThan(1e-6);
  });

  test.each([12, 30, 80])(
    "a napkin ring of height 10 holds π h³ / 6, whatever the sphere (diameter %d)",
    (diameter) => {
      const h = 10;
      const bore = Math.sqrt(diameter ** 2 - h ** 2);
      const built = buildSteps(
        { id: "ball", type: "sphere", diameter },
        { id: "bore", type: "cylinder", diameter: bore, height: 2 * diameter, at: [0, 0, -diameter] },
        { id: "s", type: "seam", preset: "subtract", stock: ["ball"], cutters: ["bore"] },
      );
      const ring = built.reports
        .filter((report) => report.id.startsWith("s:"))
        .sort((a, b) => Math.abs(a.box!.min[2]) - Math.abs(b.box!.min[2]))[0]!;
      expect(relative(ring.volume!, (Math.PI * h ** 3) / 6)).toBeLessThan(1e-6);
      expect(ring.genus).toBe(1);
    },
  );

  test("a spherical cap of height h holds π h² (3r − h) / 3", () => {
    const [r, h] = [25, 7];
    const built = buildSteps(
      { id: "ball", type: "sphere", diameter: 2 * r },
      { id: "plane", type: "workplane", base: "xy", offset: r - h },
      { id: "s", type: "seam", preset: "trim", stock: ["ball"], cutters: ["plane"], keepSide: { plane: "front" } },
    );
    expect(relative(volumeOfStep(built, "s"), (Math.PI * h ** 2 * (3 * r - h)) / 3)).toBeLessThan(1e-6);
  });

  test("a torus holds 2π² R r² (Pappus's second theorem)", () => {
    const torus = makeTorus([0, 0, 0], [0, 0, 1], 30, 8);
    expect(relative(volumeOf(torus), 2 * Math.PI ** 2 * 30 * 64)).toBeLessThan(1e-6);
    expect(countsOf(torus).genus).toBe(1);
    freeShape(torus);
  });

  test("six workplanes divide a block into 27 pieces whose volumes add up; the inner one is exact", () => {
    const plane = (id: string, base: string, offset: number) => ({ id, type: "workplane", base, offset });
    const built = buildSteps(
      { id: "block", type: "box", size: [20, 20, 20], anchor: "centre" },
      ...["xy", "yz", "zx"].flatMap((base) => [plane(`${base}1`, base, -3), plane(`${base}2`, base, 3)]),
      { id: "s", type: "seam", stock: ["block"], cutters: ["xy1", "xy2", "yz1", "yz2", "zx1", "zx2"] },
    );
    const pieces = built.reports.filter((report) => report.id.startsWith("s:"));
    expect(pieces).toHaveLength(27);
    expect(new Set(pieces.map((piece) => piece.id)).size).toBe(27);
    expect(relative(volumeOfStep(built, "s"), 8000)).toBeLessThan(1e-9);
    expect(pieces.some((piece) => relative(piece.volume!, 216) < 1e-9)).toBe(true);
  });
});

describe("Euler–Poincaré", () => {
  test("holds with a whole genus on every solid that the presets make", () => {
    const built = buildSteps(
      { id: "block", type: "box", size: [60, 60, 30] },
      { id: "pin", type: "cylinder", diameter: 10, height: 60, at: [0, 0, -10] },
      { id: "cross", type: "cylinder", diameter: 12, height: 100, at: [-50, 0, 15], axis: "x" },
      { id: "ball", type: "sphere", diameter: 16, at: [20, 20, 15] },
      { id: "hole", type: "seam", preset: "subtract", stock: ["block"], cutters: ["pin"] },
      { id: "tunnel", type: "seam", preset: "subtract", stock: ["hole"], cutters: ["cross"] },
      { id: "void", type: "seam", preset: "subtract", stock: ["tunnel"], cutters: ["ball"] },
      { id: "u", type: "seam", preset: "union", stock: ["pin", "cross"] },
    );
    for (const report of built.reports) {
      expect(report.valid).toBe(true);
      expect(report.closed).toBe(true);
      expect(Number.isInteger(report.genus)).toBe(true);
    }
    // Two tunnels that cross make three handles; the ball is a void without any.
    expect(built.reports.find((report) => report.id.startsWith("void:"))!.genus).toBe(3);
    expect(built.reports.find((report) => report.id.startsWith("u:"))!.genus).toBe(0);
  });
});

describe("presets", () => {
  test("a union joins coplanar faces and leaves no line between them", () => {
    const built = buildSteps(
      { id: "a", type: "box", size: [10, 10, 10], anchor: "corner" },
      { id: "b", type: "box", size: [10, 10, 10], anchor: "corner", at: [5, 0, 0] },
      { id: "s", type: "seam", preset: "union", stock: ["a", "b"] },
    );
    const [report] = built.reports;
    expect(built.reports).toHaveLength(1);
    expect(report!.faces).toBe(6);
    expect(relative(report!.volume!, 1500)).toBeLessThan(1e-9);
    expect(new Set(built.bodies[0]!.faces).size).toBe(6);
  });

  test("a ball wholly inside makes a void: one solid with two shells", () => {
    const built = buildSteps(
      { id: "block", type: "box", size: [40, 40, 40], anchor: "centre" },
      { id: "ball", type: "sphere", diameter: 20 },
      { id: "s", type: "seam", preset: "subtract", stock: ["block"], cutters: ["ball"], keepCutters: false },
    );
    expect(built.reports).toHaveLength(1);
    expect(relative(built.reports[0]!.volume!, 64000 - (4 / 3) * Math.PI * 1000)).toBeLessThan(1e-6);
    expect(countsOf(built.bodies[0]!.shape).shells).toBe(2);
  });

  test("split keeps every piece, and a sheet is divided along the seam", () => {
    const built = buildSteps(
      { id: "block", type: "box", size: [40, 40, 40], anchor: "centre" },
      {
        id: "sheet",
        type: "offset-sheet",
        faces: [{ body: "block:block", face: "block:side:z+" }],
        distance: 0,
        extend: 20,
      },
      { id: "bar", type: "cylinder", diameter: 30, height: 60, at: [0, 0, 0] },
      { id: "s", type: "seam", preset: "split", stock: ["sheet"], cutters: ["bar"] },
    );
    const sheets = built.reports.filter((report) => report.id.startsWith("s:"));
    expect(sheets.map((sheet) => sheet.kind)).toEqual(["sheet", "sheet"]);
    const disc = sheets.find((sheet) => sheet.openEdges.length === 1 && sheet.area < 1000)!;
    expect(relative(disc.area, Math.PI * 225)).toBeLessThan(1e-6);
    expect(relative(sheets[0]!.area + sheets[1]!.area, 6400)).toBeLessThan(1e-6);
  });

  test("many bodies at once: stock does not divide stock", () => {
    const built = buildSteps(
      { id: "a", type: "box", size: [20, 20, 20] },
      { id: "b", type: "box", size: [20, 20, 20], at: [10, 0, 0] },
      { id: "p", type: "workplane", base: "xy", offset: 5 },
      { id: "s", type: "seam", preset: "trim", stock: ["a", "b"], cutters: ["p"], keepSide: { p: "back" } },
    );
    const kept = built.reports.filter((report) => report.id.startsWith("s:"));
    expect(kept.map((report) => report.volume!.toFixed(6))).toEqual(["2000.000000", "2000.000000"]);
  });

  test("a single face of a body can cut", () => {
    const built = buildSteps(
      { id: "a", type: "box", size: [40, 40, 40] },
      { id: "b", type: "box", size: [60, 60, 10], at: [0, 0, 5] },
      {
        id: "s",
        type: "seam",
        preset: "trim",
        stock: ["a"],
        cutterFaces: [{ body: "b:block", face: "b:side:z+" }],
        keepSide: { "face:b:side:z+": "back" },
      },
    );
    expect(volumeOfStep(built, "s")).toBeCloseTo(40 * 40 * 15, 6);
  });

  test("keep or remove the cutters", () => {
    const steps = (keepCutters: boolean) => [
      { id: "a", type: "box", size: [40, 40, 40] },
      { id: "b", type: "sphere", diameter: 20 },
      { id: "s", type: "seam", preset: "subtract", stock: ["a"], cutters: ["b"], keepCutters },
    ];
    expect(buildSteps(...steps(true)).reports.map((report) => report.name)).toEqual(["Sphere", "Block"]);
    expect(buildSteps(...steps(false)).reports.map((report) => report.name)).toEqual(["Block"]);
  });

  test.each(["subtract", "union", "intersect"])("keep the stock, too: %s", (preset) => {
    const step = {
      id: "s",
      type: "seam",
      preset,
      ...(preset === "subtract" ? { stock: ["a"], cutters: ["b"] } : { stock: ["a", "b"] }),
    };
    const names = (keepStock: boolean) =>
      buildSteps(
        { id: "a", type: "box", size: [40, 40, 40] },
        { id: "b", type: "sphere", diameter: 20 },
        { ...step, keepStock, keepCutters: false },
      ).reports.map((report) => report.name);
    expect(names(false)).toEqual(["Block"]);
    expect(names(true)).toEqual(preset === "subtract" ? ["Block", "Block 2"] : ["Block", "Sphere", "Block 2"]);
  });

  test("groups are joined; pieces that do not touch stay apart and it says so", () => {
    const planes = ["xy", "yz"].map((base) => ({ id: base, type: "workplane", base, offset: base === "xy" ? 10 : 0 }));
    const block = { id: "block", type: "box", size: [20, 20, 20] };
    const first = build(jobOf([block, ...planes, { id: "s", type: "seam", stock: ["block"], cutters: ["xy", "yz"] }]), {
      pieces: "s",
    });
    const pieces = first.pieces!;
    expect(pieces).toHaveLength(4);
    const rule = (want: Record<string, string>, group: string) => {
      const { piece } = pieces.find((entry) =>
        Object.entries(want).every(([id, side]) => entry.piece.sides[id] === side),
      )!;
      return { piece: { kind: piece.kind, faces: piece.faces }, fate: "group", group };
    };
    const beside = buildSteps(block, ...planes, {
      id: "s",
      type: "seam",
      stock: ["block"],
      cutters: ["xy", "yz"],
      fates: [
        rule({ "xy:plane": "front", "yz:plane": "front" }, "lid"),
        rule({ "xy:plane": "front", "yz:plane": "back" }, "lid"),
      ],
    });
    const lid = beside.reports.find((report) => report.name === "lid")!;
    expect(lid.volume).toBeCloseTo(4000, 6);
    expect(lid.faces).toBe(6);
    expect(lid.valid).toBe(true);
    const across = buildSteps(block, ...planes, {
      id: "s",
      type: "seam",
      stock: ["block"],
      cutters: ["xy", "yz"],
      fates: [
        rule({ "xy:plane": "front", "yz:plane": "front" }, "odd"),
        rule({ "xy:plane": "back", "yz:plane": "back" }, "odd"),
      ],
    });
    expect(across.reports.filter((report) => report.name.startsWith("odd"))).toHaveLength(2);
    expect(across.step("s").state).toBe("warned");
  });

  test("every piece has a point inside it, even a thin ring", () => {
    const { pieces } = build(
      jobOf([
        { id: "ball", type: "sphere", diameter: 30 },
        { id: "bore", type: "cylinder", diameter: 28, height: 60, at: [0, 0, -30] },
        { id: "s", type: "seam", stock: ["ball"], cutters: ["bore"] },
      ]),
      { pieces: "s" },
    );
    expect(pieces).toHaveLength(2);
    for (const { shape } of pieces!) {
      const at = innerPoint(shape)!;
      expect(contains(shape, at)).toBe(true);
      expect(pieces!.filter((other) => contains(other.shape, at))).toHaveLength(1);
    }
    freePieces(pieces!);
  });
});
