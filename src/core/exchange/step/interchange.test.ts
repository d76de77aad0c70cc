import { readFileSync } from "node:fs";
import { createRequire } from "node:module";
import path from "node:path";
import { beforeAll, describe, expect, test } from "vitest";
import { reportBody } from "../../check";
import { freeShape } from "../../kernel";
import { loadNodeKernel } from "../../kernel/library/node";
import { messageOf, relative } from "../../testing/harness";
import { WHOLE } from "../../testing/sample";
import { readStep, type StepFile, writeStep } from ".";

/**
 * Files of the CAx Implementor Forum's test rounds (AP203 and AP214), written by several programs, and some plain ones,
 * as `occt-import-js` ships them for its own tests. Its reader, an older build made by other people, is the second
 * opinion: it gives triangles, so volumes agree within its mesh's own error. The tests need the package's `test` folder.
 */
const require = createRequire(import.meta.url);
const FOLDER = path.join(path.dirname(require.resolve("occt-import-js/package.json")), "test", "testfiles");

interface Opinion {
  success: boolean;
  meshes: { attributes: { position: { array: number[] } }; index: { array: number[] } }[];
  root: Node;
}
interface Node {
  name: string;
  meshes: number[];
  children: Node[];
}
let ReadStepFile: (bytes: Uint8Array, options: Record<string, unknown>) => Opinion;

beforeAll(async () => {
  await loadNodeKernel();
  ({ ReadStepFile } = await require("occt-import-js")());
});

const bytesOf = (file: string) => new Uint8Array(readFileSync(path.join(FOLDER, file)));

/** Volume under a triangle mesh: the sum of signed tetrahedra (divergence theorem). */
function meshVolume({ attributes, index }: Opinion["meshes"][number]): number {
  const at = attributes.position.array;
  const corner = (i: number) => [at[3 * i]!, at[3 * i + 1]!, at[3 * i + 2]!] as const;
  let six = 0;
  for (let t = 0; t < index.array.length; t += 3) {
    const [a, b, c] = [0, 1, 2].map((k) => corner(index.array[t + k]!)) as [
      readonly [number, number, number],
      readonly [number, number, number],
      readonly [number, number, number],
    ];
    six += a[0] * (b[1] * c[2] - b[2] * c[1]) + a[1] * (b[2] * c[0] - b[0] * c[2]) + a[2] * (b[0] * c[1] - b[1] * c[0]);
  }
  return six / 6;
}

const reports = ({ bodies }: StepFile) => bodies.map(({ kind, name, shape }) => reportBody(name, name, kind, shape));
const free = ({ bodies }: StepFile) => {
  for (const { shape } of bodies) freeShape(shape);
};

/** File, solids, unit, and a name that the file gives. */
const FILES: [string, number, string, string][] = [
  ["cax-if/as1-oc-214.stp", 18, "mm", "l-bracket"],
  ["cax-if/as1-tu-203.stp", 18, "mm", "l-bracket"],
  ["cax-if/as1_pe_203.stp", 18, "inch", "PLATE"],
  ["cax-if/dm1-id-214.stp", 7, "inch", "bolt"],
  ["cax-if/dm1-oc-214.stp", 7, "mm", "nut"],
  ["cax-if/io1-cm-214.stp", 1, "mm", "io1"],
  ["cax-if/sg1-c5-214.stp", 1, "mm", "SG1"],
  ["cax-if/s1-c5-214/MAINBODY_BACK.stp", 1, "inch", "MAINBODY_BACK"],
  ["cax-if/s1-c5-214/TAIL_TURBINE.stp", 1, "inch", "TAIL_TURBINE"],
  ["cax-if/s1-tu-203/tailturbine.stp", 1, "mm", "MASTER"],
  ["cax-if/s1_pe_214/main_body_front_prt.stp", 1, "cm", "MAIN_BODY_FRONT"],
  ["cax-if/s1_pe_214/tail_turbine_prt.stp", 1, "cm", "TAIL_TURBINE"],
  ["conical-surface/conical-surface.step", 1, "inch", ""],
  ["rounded-cube/rounded-cube.step", 1, "mm", ""],
];

/** Those with much of free faces, or many bodies, take minutes: they are read in the long proof. */
const LONG = [
  "as1-oc-214",
  "as1-tu-203",
  "dm1-oc-214",
  "dm1-id-214",
  "tailturbine",
  "MAINBODY_BACK",
  "main_body_front",
];
const CHOSEN = FILES.filter(([file]) => WHOLE || !LONG.some((long) => file.includes(long)));

describe("files that other programs wrote", () => {
  test.each(CHOSEN)("%s", (file, solids, unit, name) => {
    const bytes = bytesOf(file);
    const read = readStep(bytes, path.basename(file));
    const mine = reports(read);
    expect(mine.map(({ kind }) => kind)).toEqual(Array(solids).fill("solid"));
    expect(read.unit).toBe(unit);
    if (name) expect(mine.map((body) => body.name)).toContain(name);
    for (const body of mine) expect(body).toMatchObject({ closed: true, openEdges: [] });

    const { success, meshes, root } = ReadStepFile(bytes, {
      linearUnit: "millimeter",
      linearDeflectionType: "bounding_box_ratio",
      linearDeflection: 1e-4,
      angularDeflection: 0.1,
    });
    expect(success).toBe(true);
    const drawn = (node: Node): number[] => [...node.meshes, ...node.children.flatMap(drawn)];
    const theirs = drawn(root).map((i) => meshVolume(meshes[i]!));
    expect(theirs).toHaveLength(solids);
    const sorted = (list: number[]) => [...list].sort((a, b) => a - b);
    sorted(theirs).forEach((volume, i) => {
      expect(relative(sorted(mine.map((body) => body.volume!))[i]!, volume)).toBeLessThan(5e-3);
    });

    // A file's edges lie on its faces only as exactly as its writer made them, and reading settles on one of the two.
    const uncertainty = unit === "inch" ? 0.005 : 0;
    const again = readStep(new TextEncoder().encode(writeStep(read.bodies, file)), "again.step");
    const back = reports(again);
    expect(back.map((body) => body.name)).toEqual(mine.map((body) => body.name));
    back.forEach((body, i) => {
      expect(Math.abs(body.volume! - mine[i]!.volume!)).toBeLessThan(1e-6 * body.volume! + uncertainty * body.area);
    });
    const thrice = readStep(new TextEncoder().encode(writeStep(again.bodies, file)), "thrice.step");
    reports(thrice).forEach((body, i) => {
      expect(relative(body.volume!, back[i]!.volume!)).toBeLessThan(1e-6);
    });
    free(thrice);
    free(read);
    free(again);
  });

  test.each(["mm", "m", "in"])("a cube of one metre, written in %s: a thousand million cubic millimetres", (unit) => {
    const read = readStep(bytesOf(`cube-units/cube-${unit}.step`), "cube.step");
    expect(reports(read).map(({ volume }) => relative(volume!, 1e9) < 1e-9)).toEqual([true]);
    free(read);
  });

  test("an assembly that only points at other files names them", () => {
    expect(messageOf(() => readStep(bytesOf("cax-if/s1-c5-214/s1-c5-214.stp"), "s1-c5-214.stp"))).toBe(
      "“s1-c5-214.stp” only points at other files, where its bodies are. Bring in “TAIL.stp”, “HEAD.stp”, “MAINBODY.stp”, “FOOT.stp” instead.",
    );
  });
});
