import { readFileSync } from "node:fs";
import { createRequire } from "node:module";
import path from "node:path";
import { beforeAll, expect, test } from "vitest";
import { areaOf, boxOf, centre, diagonal, notedGap, volumeOf } from "../../kernel";
import { loadNodeKernel } from "../../kernel/library/node";
import { build, jobOf } from "../harness";
import { Random } from "./random";

/**
 * Solids that other programs wrote (test rounds of the CAx Implementor Forum, as `occt-import-js` ships them), cut by planes,
 * bars, balls, cones and rings by chance: the pieces are closed and valid, and add up to the whole as nearly as what the file
 * leaves open and what the step tells; or the step says with a place why not.
 */
const FOLDER = path.join(
  path.dirname(createRequire(import.meta.url).resolve("occt-import-js/package.json")),
  "test",
  "testfiles",
);
const ROUNDS = Number(process.env.PROOF_CUTS ?? 1);
const SEED = Number(process.env.PROOF_SEED ?? 4101);
const QUICK = [
  "conical-surface/conical-surface.step",
  "cax-if/sg1-c5-214.stp",
  "cax-if/s1-c5-214/TAIL_TURBINE.stp",
  "cax-if/s1_pe_214/tail_turbine_prt.stp",
];
const MORE = [
  "cax-if/io1-cm-214.stp",
  "cax-if/as1_pe_203.stp",
  "cax-if/dm1-id-214.stp",
  "rounded-cube/rounded-cube.step",
  "cax-if/s1_pe_214/main_body_front_prt.stp",
  "cax-if/s1-tu-203/tailturbine.stp",
  "cax-if/s1-c5-214/MAINBODY_BACK.stp",
];

type Step = Record<string, unknown>;

function knives(random: Random, size: number, at: number[]): Record<string, Step[]> {
  const part = (low: number, high: number) => size * random.between(low, high);
  const any = () => random.between(-1, 1);
  return {
    plane: [{ id: "w", type: "workplane", base: "normal", normal: [any(), any(), any()], through: at }],
    bar: [
      {
        id: "b",
        type: "cylinder",
        diameter: part(0.05, 0.4),
        height: 3 * size,
        at: [at[0], at[1], at[2]! - 1.5 * size],
      },
      { id: "w", type: "move", bodies: ["b"], turn: random.between(-60, 60), axis: "x" },
    ],
    ball: [{ id: "w", type: "sphere", diameter: part(0.1, 0.6), at }],
    cone: [{ id: "w", type: "cone", diameter: part(0.2, 0.6), top: part(0, 0.1), height: size / 2, at }],
    ring: [{ id: "w", type: "torus", diameter: part(0.3, 0.6), section: part(0.05, 0.15), at }],
  };
}

beforeAll(loadNodeKernel);

test.each(process.env.PROOF_CUTS ? [...QUICK, ...MORE] : QUICK)("%s, cut by chance", (file) => {
  const bytes = new Uint8Array(readFileSync(path.join(FOLDER, file)));
  const more = { files: [{ id: "f", name: path.basename(file), sha256: "0".repeat(64) }] };
  const read = { id: "i", type: "import", file: "f" };
  const random = new Random(SEED + file.length);
  const solids = build(jobOf([read], more), { file: () => bytes }).bodies.filter(({ kind }) => kind === "solid");
  for (let round = 0; round < ROUNDS; round++) {
    const { id, shape } = solids[Math.floor(random.next() * solids.length)]!;
    const box = boxOf(shape)!;
    const at = centre(box).map((value, k) => value + random.between(-0.3, 0.3) * (box.max[k]! - box.min[k]!));
    const [whole, open] = [volumeOf(shape), notedGap(shape) * areaOf(shape)];
    for (const [knife, steps] of Object.entries(knives(random, diagonal(box), at))) {
      const cut = { id: "s", type: "seam", preset: "split", stock: [id], cutters: ["w"] };
      const built = build(jobOf([read, ...steps, cut], more), { file: () => bytes });
      const { error, warnings } = built.step("s");
      const place = `${id} by ${JSON.stringify(steps)}`;
      if (error) {
        expect(["cutter-misses", "division-failed"], `${knife}: ${place}`).toContain(error.code);
        expect(error.at, place).toHaveLength(3);
        continue;
      }
      const pieces = built.reports.filter((report) => report.id.startsWith("s:"));
      for (const { closed, valid } of pieces) expect({ closed, valid }, place).toEqual({ closed: true, valid: true });
      const told = warnings.some(({ code }) => code === "approximate")
        ? Math.max(...pieces.map((p) => p.meetsWithin ?? 0))
        : 0;
      const off = Math.abs(pieces.reduce((sum, { volume }) => sum + volume!, 0) - whole);
      if (pieces.length > 1) expect(off, place).toBeLessThan(1e-6 * whole + open + told * areaOf(shape));
    }
  }
});
