import { existsSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import path from "node:path";
import { afterAll, afterEach, beforeAll, describe, expect, test, vi } from "vitest";
import { loadNodeKernel } from "@/core/kernel/library/node";
import { blockFile } from "@/core/testing/step-text";
import { run } from "./main";

const folder = mkdtempSync(path.join(tmpdir(), "bold-seam-cli-"));
const file = (name: string, content: string) => {
  const full = path.join(folder, name);
  writeFileSync(full, content);
  return full;
};
beforeAll(loadNodeKernel);
afterAll(() => rmSync(folder, { recursive: true, force: true }));
afterEach(() => vi.restoreAllMocks());

async function cli(...args: string[]): Promise<{ code: number; out: string; err: string }> {
  const written = { out: "", err: "" };
  vi.spyOn(process.stdout, "write").mockImplementation((text) => {
    written.out += text;
    return true;
  });
  vi.spyOn(process.stderr, "write").mockImplementation((text) => {
    written.err += text;
    return true;
  });
  const code = await run(args);
  vi.restoreAllMocks();
  return { code, ...written };
}

const job = (steps: unknown[], more: object = {}) =>
  JSON.stringify({
    format: "bold-seam-job",
    version: 1,
    name: "Cli",
    parts: [{ id: "p", name: "Part", steps }],
    ...more,
  });

describe("inspect", () => {
  test("prints the bodies as JSON", async () => {
    const { code, out } = await cli(
      "inspect",
      file("bar.step", blockFile({ size: [2, 1, 1], unit: "inch", product: "Bar" })),
    );
    expect(code).toBe(0);
    const { bodies } = JSON.parse(out);
    expect(bodies).toHaveLength(1);
    expect(bodies[0]).toMatchObject({
      name: "Bar",
      kind: "solid",
      closed: true,
      openEdges: 0,
      faceKinds: { plane: 6 },
    });
    expect(bodies[0].volume).toBeCloseTo(2 * 25.4 ** 3, 3);
  });

  test.each([
    ["an empty file", () => file("empty.step", ""), /is empty/],
    ["an STL", () => file("cube.stl", "solid cube\nfacet normal 0 0 1"), /is an STL mesh/],
    ["no file", () => path.join(folder, "none.step"), /There is no file/],
    ["a folder", () => folder, /is a folder/],
  ])("%s is unusable: 2 and one sentence", async (_name, make, message) => {
    const { code, err, out } = await cli("inspect", make());
    expect(code).toBe(2);
    expect(out).toBe("");
    expect(err.trim().split("\n")).toHaveLength(1);
    expect(err).toMatch(message);
  });
});

describe("evaluate", () => {
  test("writes bodies and a report; 0 when all is good", async () => {
    file("block.step", blockFile({ size: [40, 40, 20] }));
    const path_ = file(
      "good.json",
      job(
        [
          { id: "block", type: "import", file: "f" },
          { id: "ball", type: "sphere", diameter: "1 in", at: [20, 20, 20] },
          { id: "s", type: "seam", preset: "subtract", stock: ["block"], cutters: ["ball"], keepCutters: false },
        ],
        { files: [{ id: "f", name: "block.step", path: "block.step" }] },
      ),
    );
    const report = path.join(folder, "out", "report.json");
    const { code } = await cli(
      "evaluate",
      path_,
      "--out",
      path.join(folder, "out"),
      "--step",
      "--stl",
      "--3mf",
      "--obj",
      "--report",
      report,
    );
    expect(code).toBe(0);
    const { parts } = JSON.parse(readFileSync(report, "utf8"));
    expect(parts[0].steps.map((step: { id: string; state: string }) => [step.id, step.state])).toEqual([
      ["block", "good"],
      ["ball", "good"],
      ["s", "good"],
    ]);
    const [body] = parts[0].bodies;
    expect(body).toMatchObject({
      name: "Block",
      kind: "solid",
      closed: true,
      openEdges: 0,
      valid: true,
      genus: 0,
      faces: 7,
    });
    expect(Object.keys(body)).toEqual(expect.arrayContaining(["id", "volume", "area", "vertices", "edges", "box"]));
    // Half a ball is gone: 32000 − (2/3)πr³.
    expect(Math.abs(body.volume - (32_000 - (2 / 3) * Math.PI * 12.7 ** 3)) / body.volume).toBeLessThan(1e-6);
    expect(readFileSync(path.join(folder, "out", "p.step"), "utf8")).toContain("PRODUCT('Block'");
    expect(readFileSync(path.join(folder, "out", "p.3mf")).toString("latin1", 0, 2)).toBe("PK");
    expect(readFileSync(path.join(folder, "out", "p.obj"), "utf8")).toContain("\no Block\n");
    // Binary STL: an 80-byte header, a count, 50 bytes a triangle (the format as 3D Systems laid it down in 1989).
    const stl = readFileSync(path.join(folder, "out", "p.stl"));
    expect(stl.length).toBe(84 + 50 * stl.readUInt32LE(80));
    expect(stl.toString("latin1", 0, 5)).not.toBe("solid");
    expect(Math.abs(stlVolume(stl) - body.volume) / body.volume).toBeLessThan(1e-3);
  });

  test("a format that does not take a body is 1, with the reason in the report; the other formats are written", async () => {
    const steps = [
      { id: "block", type: "box", size: [40, 40, 20] },
      { id: "bore", type: "cylinder", diameter: 20, height: 40, at: [-10, 0, -5] },
      { id: "cut", type: "seam", preset: "subtract", stock: ["block"], cutters: ["bore"], keepCutters: false },
    ];
    const out = path.join(folder, "grazed");
    const { code, out: printed } = await cli(
      "evaluate",
      file("grazed.json", job(steps)),
      "--out",
      out,
      "--3mf",
      "--stl",
    );
    expect(code).toBe(1);
    expect(JSON.parse(printed).parts[0].refused).toEqual([
      { format: "3mf", message: expect.stringMatching(/^Block touches itself along an edge/) },
    ]);
    expect(existsSync(path.join(out, "p.stl"))).toBe(true);
    expect(existsSync(path.join(out, "p.3mf"))).toBe(false);
  });

  test("a failed step is 1, and the rest is written all the same", async () => {
    const path_ = file(
      "failing.json",
      job([
        { id: "a", type: "box" },
        { id: "t", type: "move", bodies: ["zz"] },
      ]),
    );
    const { code, out } = await cli("evaluate", path_);
    expect(code).toBe(1);
    const { parts } = JSON.parse(out);
    expect(parts[0].steps[1]).toMatchObject({ id: "t", state: "failed", error: { code: "body-unknown" } });
    expect(parts[0].bodies).toHaveLength(1);
  });

  test.each([
    ["an unknown step", job([{ id: "a", type: "teapot" }]), /of the type “teapot”, which is not known/],
    ["a negative size", job([{ id: "a", type: "box", size: [1, -1, 1] }]), /has to be more than 0 mm/],
    ["NaN", '{"version": NaN}', /NaN/],
    [
      "a cycle",
      job([
        { id: "a", type: "move", bodies: ["b"] },
        { id: "b", type: "move", bodies: ["a"] },
      ]),
      /in a circle/,
    ],
    ["a missing file", job([], { files: [{ id: "f", name: "nowhere.step" }] }), /There is no file/],
  ])("%s is 2 and one sentence", async (name, text, message) => {
    const { code, err } = await cli("evaluate", file(`${name}.json`, text));
    expect(code).toBe(2);
    expect(err).toMatch(message);
    expect(err.trim().split("\n")).toHaveLength(1);
  });

  test("an absurd tolerance and a wrong call are 2", async () => {
    expect((await cli("evaluate", file("t.json", job([])), "--stl", "--tolerance", "abc")).code).toBe(2);
    expect((await cli("nonsense")).code).toBe(2);
  });
});

test("schema prints a JSON Schema", async () => {
  const { code, out } = await cli("schema");
  expect(code).toBe(0);
  expect(JSON.parse(out).$schema).toBe("https://json-schema.org/draft/2020-12/schema");
});

/** What the triangles of a binary STL enclose: the sum of the tetrahedra to the origin. */
function stlVolume(stl: Buffer): number {
  let volume = 0;
  for (let at = 84; at < stl.length; at += 50) {
    const v = Array.from({ length: 9 }, (_, i) => stl.readFloatLE(at + 12 + 4 * i));
    const [ax, ay, az, bx, by, bz, cx, cy, cz] = v as [
      number,
      number,
      number,
      number,
      number,
      number,
      number,
      number,
      number,
    ];
    volume += (ax * (by * cz - bz * cy) - ay * (bx * cz - bz * cx) + az * (bx * cy - by * cx)) / 6;
  }
  return volume;
}

test.each([
  ["/dev/zero", "is no ordinary file"],
  [folder, "is a folder"],
  [path.join(folder, "none.json"), "There is no file"],
  [path.join(folder, "none.json", "deeper"), "There is no file"],
])("a path that is no file is told before anything is read: %s", async (given, words) => {
  for (const command of ["inspect", "evaluate"]) {
    const { code, err } = await cli(command, given);
    expect(code).toBe(2);
    expect(err).toContain(words);
  }
});

describe("evaluate several", () => {
  const one = (size: number) => job([{ id: "a", type: "box", size: [size, 10, 10] }]);
  const volumeOf = (report: { parts: { bodies: { volume: number }[] }[] }) => report.parts[0]!.bodies[0]!.volume;

  test("each into a folder of its own, two that are called alike too; reports beside each other", async () => {
    const [a, b] = [file("first.json", one(10)), file("second.json", one(20))];
    const other = path.join(mkdtempSync(path.join(folder, "more-")), "first.json");
    writeFileSync(other, one(30));
    const [out, reports] = [path.join(folder, "several"), path.join(folder, "reports")];
    const { code, out: printed } = await cli("evaluate", a, b, other, "--step", "--out", out, "--report", reports);
    expect([code, printed]).toEqual([0, ""]);
    for (const [name, volume] of [
      ["first", 1000],
      ["second", 2000],
      ["first-2", 3000],
    ] as const) {
      expect(existsSync(path.join(out, name, "p.step"))).toBe(true);
      const report = JSON.parse(readFileSync(path.join(reports, `${name}.json`), "utf8"));
      expect(volumeOf(report)).toBeCloseTo(volume, 6);
    }
  });

  test("one that is unusable or failed costs the others nothing; the worst code counts", async () => {
    const [good, bad] = [file("good-one.json", one(10)), file("bad-one.json", "{")];
    const failing = file("failing.json", job([{ id: "a", type: "shell", body: ["nothing"] }]));
    const { code, out, err } = await cli("evaluate", bad, good, failing, path.join(folder, "none.json"));
    expect(code).toBe(2);
    expect(err.trim().split("\n")).toHaveLength(2);
    const { jobs } = JSON.parse(out);
    expect(
      jobs.map(({ error, parts }: { error?: string; parts?: object[] }) => [error ? "error" : "", parts?.length]),
    ).toEqual([
      ["error", undefined],
      ["", 1],
      ["", 1],
      ["error", undefined],
    ]);
    expect((await cli("evaluate", good, failing)).code).toBe(1);
  });

  test("a report of one goes into a folder, where that is what is named", async () => {
    const reports = mkdtempSync(path.join(folder, "folder-"));
    await cli("evaluate", file("alone.json", one(10)), "--report", reports);
    expect(existsSync(path.join(reports, "alone.json"))).toBe(true);
    await cli("evaluate", file("alone.json", one(10)), "--report", `${path.join(folder, "new")}/`);
    expect(existsSync(path.join(folder, "new", "alone.json"))).toBe(true);
  });

  test("says which program made it, and of what faces each body is", async () => {
    const steps = [{ id: "c", type: "cylinder", diameter: 20, height: 30, at: [1, 2, 3] }];
    const report = JSON.parse((await cli("evaluate", file("faces.json", job(steps)))).out);
    expect(report.program).toEqual({
      name: "Bold Seam",
      version: JSON.parse(readFileSync("package.json", "utf8")).version,
      engine: expect.any(String),
    });
    const faces = new Map(
      report.parts[0].bodies[0].faceList.map((face: { name: string }) => [face.name, face] as const),
    );
    expect(faces.get("c:side")).toMatchObject({ kind: "cylinder", radius: 10, direction: [0, 0, 1] });
    expect(faces.get("c:cap:end")).toMatchObject({
      kind: "plane",
      direction: [0, 0, 1],
      centre: [expect.closeTo(1), expect.closeTo(2), expect.closeTo(33)],
      area: expect.closeTo(100 * Math.PI, 6),
    });
  });

  test("a part that is made of another is evaluated after it, wherever it stands", async () => {
    const parts = [
      { id: "seat", name: "Seat", steps: [{ id: "in", type: "bring-in", part: "plug", items: ["a"] }] },
      { id: "plug", name: "Plug", steps: [{ id: "a", type: "box", size: [10, 10, 10] }] },
    ];
    const { code, out } = await cli("evaluate", file("linked.json", job([], { parts })));
    expect(code).toBe(0);
    expect(
      JSON.parse(out).parts.map(({ id, bodies }: { id: string; bodies: object[] }) => [id, bodies.length]),
    ).toEqual([
      ["seat", 1],
      ["plug", 1],
    ]);
  });
});
