import { readFileSync } from "node:fs";
import { createRequire } from "node:module";
import path from "node:path";
import { beforeAll, describe, expect, test } from "vitest";
import type { Body } from "../items";
import { areaOf, boxOf, centre, diagonal, dot, notedGap, sub, surfaceCentre, type Vec3, volumeOf } from "../kernel";
import { loadNodeKernel } from "../kernel/library/node";
import { apart } from "../testing/apart";
import { build, jobOf } from "../testing/harness";
import { WHOLE } from "../testing/sample";

/**
 * Solids that several other programs wrote (test rounds of the CAx Implementor Forum, and some plain ones, as `occt-import-js`
 * ships them), each cut by planes through its middle. Their edges lie on their faces no better than their writers made them.
 */
const require = createRequire(import.meta.url);
const FOLDER = path.join(path.dirname(require.resolve("occt-import-js/package.json")), "test", "testfiles");

beforeAll(loadNodeKernel);

const QUICK = [
  "cax-if/io1-cm-214.stp",
  "cax-if/sg1-c5-214.stp",
  "cax-if/s1-c5-214/TAIL_TURBINE.stp",
  "cax-if/s1_pe_214/tail_turbine_prt.stp",
  "conical-surface/conical-surface.step",
  "rounded-cube/rounded-cube.step",
];
/** Large ones, or of free faces. */
const LONG = [
  "cax-if/as1_pe_203.stp",
  "cax-if/s1_pe_214/main_body_front_prt.stp",
  "cax-if/as1-oc-214.stp",
  "cax-if/as1-tu-203.stp",
  "cax-if/dm1-id-214.stp",
  "cax-if/dm1-oc-214.stp",
  "cax-if/io1-tu-203.stp",
  "cax-if/s1-c5-214/MAINBODY_BACK.stp",
  "cax-if/s1-tu-203/tailturbine.stp",
];
const FILES = WHOLE ? [...QUICK, ...LONG] : QUICK;
const NORMALS: Vec3[] = [
  [0, 0, 1],
  [0.36, 0.48, 0.8],
];

describe("a solid that another program wrote, cut by planes through its middle", () => {
  test.each(FILES)("%s", (file) => {
    const bytes = new Uint8Array(readFileSync(path.join(FOLDER, file)));
    const more = { files: [{ id: "f", name: path.basename(file), sha256: "0".repeat(64) }] };
    const read = { id: "i", type: "import", file: "f" };
    const options = { file: () => bytes };
    const whatCame = build(jobOf([read], more), options);
    // What is noted of how near edges lie to their faces holds, whoever wrote or noted it.
    for (const { shape } of whatCame.bodies) expect(apart(shape, 41).beyond).toBeLessThan(1e-6);
    const rough = whatCame.reports.some(({ meetsWithin }) => meetsWithin !== undefined);
    expect(whatCame.step("i").warnings.some(({ code }) => code === "import-rough")).toBe(rough);
    const largest = whatCame.bodies
      .filter(({ kind }) => kind === "solid")
      .reduce((a, b) => (volumeOf(b.shape) > volumeOf(a.shape) ? b : a));
    const through = centre(boxOf(largest.shape)!);
    const whole = volumeOf(largest.shape);
    for (const normal of NORMALS) {
      const plane = { id: "w", type: "workplane", base: "normal", normal, through };
      const cut = { id: "s", type: "seam", preset: "split", stock: [largest.id], cutters: ["w"] };
      const result = build(jobOf([read, plane, cut], more), options);
      expect(result.step("s").error).toBeUndefined();
      // Pieces that do not meet closely are of a body that did not, or the division says so.
      const loose = result.reports.some(({ id, meetsWithin }) => id.startsWith("s:") && meetsWithin !== undefined);
      const approximate = result.step("s").warnings.some(({ code }) => code === "approximate");
      if (loose) expect(rough || approximate).toBe(true);
      const pieces = result.bodies.filter(({ id }) => id.startsWith("s:"));
      expect(pieces.length).toBeGreaterThan(1);
      const volumes = pieces.map(({ shape }) => volumeOf(shape));
      const sum = volumes.reduce((a, b) => a + b, 0);
      // To what the file itself leaves open between its faces.
      const open = (notedGap(largest.shape) ?? 0) * areaOf(largest.shape);
      expect(Math.abs(sum - whole)).toBeLessThan(1e-6 * whole + open);
      for (const { closed, valid } of result.reports.filter(({ id }) => id.startsWith("s:")))
        expect({ closed, valid }).toEqual({ closed: true, valid: true });
      const sides = pieces.map(({ shape }) => Math.sign(dot(sub(surfaceCentre(shape), through), normal)));
      expect(new Set(sides)).toEqual(new Set([1, -1]));
    }
    fills(largest, [read], more, options);
  });
});

/** The room between a solid and six planes round it: what the planes hold, less the solid; a hollow within it is a room of its own. */
function fills(solid: Body, before: Record<string, unknown>[], more: object, options: { file(): Uint8Array }) {
  const { min, max } = boxOf(solid.shape)!;
  const margin = 0.1 * diagonal({ min, max });
  const planes = (["yz", "zx", "xy"] as const).flatMap((base, k) =>
    [min[k]! - margin, max[k]! + margin].map((offset, i) => ({ id: `w${k}${i}`, type: "workplane", base, offset })),
  );
  const fill = { id: "s", type: "seam", preset: "fill", stock: [solid.id], cutters: planes.map(({ id }) => id) };
  const built = build(jobOf([...before, ...planes, fill], { ...more }), options);
  expect(built.step("s").error).toBeUndefined();
  const rooms = built.reports.filter(({ id }) => id.startsWith("s:"));
  expect(rooms.length).toBeGreaterThan(0);
  for (const { closed, valid } of rooms) expect({ closed, valid }).toEqual({ closed: true, valid: true });
  const held = max.reduce((volume, most, k) => volume * (most - min[k]! + 2 * margin), 1);
  const open = (notedGap(solid.shape) ?? 0) * areaOf(solid.shape);
  const found = rooms.reduce((sum, { volume }) => sum + volume!, 0);
  expect(Math.abs(found - (held - volumeOf(solid.shape)))).toBeLessThan(1e-6 * held + open);
}

test("a body whose file's own numbers do not agree says how closely it came in, and where", () => {
  const bytes = new Uint8Array(readFileSync(path.join(FOLDER, "cax-if/s1-c5-214/TAIL_TURBINE.stp")));
  const more = { files: [{ id: "f", name: "turbine.stp", sha256: "0".repeat(64) }] };
  const built = build(jobOf([{ id: "i", type: "import", file: "f" }], more), { file: () => bytes });
  const [told] = built.step("i").warnings;
  expect(told).toMatchObject({ code: "import-rough", bodies: [built.bodies[0]!.id] });
  expect(told!.message).toMatch(/right to 0\.0040 mm only/);
  expect(told!.at).toHaveLength(3);
  expect(built.reports[0]!.meetsWithin).toBeCloseTo(0.0039, 4);
});

test("a ball that the library cuts to 0.03 mm at first: done again until its pieces meet", () => {
  const bytes = new Uint8Array(readFileSync(path.join(FOLDER, "cax-if/io1-cm-214.stp")));
  const more = { files: [{ id: "f", name: "io1.stp", sha256: "0".repeat(64) }] };
  const ball = {
    id: "b",
    type: "sphere",
    diameter: 16.208040039807248,
    at: [7.547257337486371, -17.61815153248608, 6.6418569501489415],
  };
  const cut = { id: "s", type: "seam", preset: "split", stock: ["i:io1"], cutters: ["b"] };
  const built = build(jobOf([{ id: "i", type: "import", file: "f" }, ball, cut], more), { file: () => bytes });
  expect(built.step("s")).toMatchObject({ state: "good", warnings: [] });
  const pieces = built.reports.filter(({ id }) => id.startsWith("s:"));
  expect(pieces).toHaveLength(2);
  for (const piece of pieces) expect(piece).not.toHaveProperty("meetsWithin");
  const whole = build(jobOf([{ id: "i", type: "import", file: "f" }], more), { file: () => bytes }).reports[0]!.volume!;
  expect(pieces.reduce((sum, { volume }) => sum + volume!, 0) / whole).toBeCloseTo(1, 8);
});
