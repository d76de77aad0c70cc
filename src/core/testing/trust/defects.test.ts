import { readFileSync } from "node:fs";
import path from "node:path";
import Module from "manifold-3d";
import { beforeAll, describe, expect, test } from "vitest";
import { checkJob, repaired, type Step } from "../../job";
import { loadNodeKernel } from "../../kernel/library/node";
import { stepType } from "../../steps";
import { build, relative, volumeOfStep } from "../harness";
import { WHOLE } from "../sample";
import { holdPair } from "./pairs";

let engine: Awaited<ReturnType<typeof Module>>;
beforeAll(async () => {
  await loadNodeKernel();
  engine = await Module();
  engine.setup();
});

type Raw = { parts: { steps: (Record<string, unknown> & { id: string })[] }[] };

/** A job that once showed a fault, with some of its steps changed. */
function job(name: string, change: Record<string, Record<string, unknown>> = {}) {
  const raw = JSON.parse(readFileSync(path.join(import.meta.dirname, "jobs", `${name}.json`), "utf8")) as Raw;
  for (const step of raw.parts[0]!.steps) Object.assign(step, change[step.id]);
  return checkJob(raw);
}

const entities = (name: string, id: string, change: Record<string, Record<string, unknown>>) => {
  const step = job(name).parts[0]!.steps.find((one) => one.id === id)!;
  const list = step.entities as { id: string }[];
  return { [id]: { entities: list.map((entity) => ({ ...entity, ...change[entity.id] })) } };
};

test("the side of a closed outline does not depend on the sense in which it was drawn", () => {
  expect(volumeOfStep(build(job("closed-outline-side")), "cut")).toBeCloseTo(31_000, 5);
  const turned = build(job("closed-outline-side", entities("closed-outline-side", "tri", { c: { x: 0, y: -25 } })));
  expect(turned.step("cut").state).toBe("good");
  // The plate less the triangle: 60 · 60 · 10 − 40 · 15 / 2 · 10.
  expect(volumeOfStep(turned, "cut")).toBeCloseTo(33_000, 5);
});

test("stock that a cutter does not reach stays and is told", () => {
  const built = build(job("stock-out-of-reach"));
  const { state, warnings } = built.step("t");
  expect(state).toBe("warned");
  expect(warnings).toMatchObject([{ code: "stock-missed", bodies: ["b:block", "line:sketch"] }]);
  expect(warnings[0]!.others!.map(({ label }) => label)).toEqual(["Keep it", "Scrap it"]);
  // a is cut at x = 3, b is whole.
  const volumes = built.reports.filter(({ id }) => id.startsWith("t:")).map(({ volume }) => volume!);
  expect(volumes.sort((a, b) => a - b).map((volume) => Math.round(volume))).toEqual([expect.any(Number), 4000]);
  for (const [answer, count] of [
    [0, 2],
    [1, 1],
  ] as const) {
    const set = warnings[0]!.others![answer]!.set;
    const answered = build(job("stock-out-of-reach", { t: set }));
    expect(answered.step("t")).toMatchObject({ state: "good", warnings: [] });
    expect(answered.reports.filter(({ id }) => id.startsWith("t:"))).toHaveLength(count);
  }
});

/** The names that pieces have now, by what is to be moved: as a person would pick them. */
function picked(name: string, step: string, is: (report: { area: number; volume: number | null }) => boolean): string {
  const plain = job(name);
  plain.parts[0]!.steps = plain.parts[0]!.steps.filter(({ type }) => type !== "move");
  return build(plain).reports.find((report) => report.id.startsWith(`${step}:`) && is(report))!.id;
}

test("a patch is the one that its circle bounds, wherever the circles go", () => {
  const small = picked("patch-identity", "patch", ({ area }) => Math.abs(area - 64 * Math.PI) < 1e-3);
  const moved = { ...entities("patch-identity", "two", { c2: { x: -24 } }), up: { bodies: [small] } };
  const built = build(job("patch-identity", moved));
  expect(built.step("up")).toMatchObject({ state: "good" });
  const lifted = built.reports.filter(({ box }) => box!.min[2] > 40);
  expect(lifted.map(({ area }) => Number(area.toFixed(3)))).toEqual([201.062]);
});

test("a patch that an older release named is taken with a word", () => {
  const built = build(job("patch-identity"));
  expect(built.step("up")).toMatchObject({ state: "warned", warnings: [{ code: "piece-guessed" }] });
  const keep = built.step("up").warnings[0]!.repair!;
  expect(build(job("patch-identity", { up: keep.set })).step("up")).toMatchObject({ state: "good" });
});

test("a lump is the same one when its siblings change", () => {
  const lump = picked("piece-names-by-siblings", "cut", ({ volume }) => Math.abs(volume! - 6015.597) < 1e-2);
  for (const at of [0, 4, -4]) {
    const built = build(job("piece-names-by-siblings", { bar: { at: [at, 0, 0] }, mv: { bodies: [lump] } }));
    const { state, error } = built.step("mv");
    if (state === "failed") {
      expect(error!.code).toBe("piece-unclear");
      continue;
    }
    const lifted = built.reports.filter(({ box }) => box!.min[2] > 40);
    expect(lifted.map(({ volume }) => Number(volume!.toFixed(2)))).toEqual([6015.6]);
    expect(lifted[0]!.box!.min[0]).toBeCloseTo(-32.4, 1);
  }
  expect(
    build(job("piece-names-by-siblings", { bar: { at: [4, 0, 0] }, mv: { bodies: [lump] } })).step("mv").state,
  ).toBe("good");
});

test("a side belongs to its cutter, also when that is found under another name", () => {
  const plain = build(job("trim-side-lost"));
  expect(plain.reports.find(({ id }) => id.startsWith("t:"))!.box!.max[2]).toBeCloseTo(20, 6);
  const grooved = build(job("trim-side-lost", { g: { suppressed: false }, cutg: { suppressed: false } }));
  const { state } = grooved.step("t");
  expect(["warned", "failed"]).toContain(state);
  if (state === "warned") expect(grooved.reports.find(({ id }) => id.startsWith("t:"))!.box!.max[2]).toBeCloseTo(20, 6);
});

test("a side for what is no cutter is refused, with what mends it", () => {
  const built = build(job("trim-side-lost", { t: { keepSide: { "face:b:side:z+": "back", ghost: "back" } } }));
  const { state, error } = built.step("t");
  expect(state).toBe("failed");
  expect(error).toMatchObject({ code: "side-of-nothing", field: "keepSide" });
  expect(build(job("trim-side-lost", { t: error!.repair!.set })).step("t").state).toBe("good");
});

test("a repair fits the step that it changes, and mends", () => {
  const built = build(job("repair-extends-extrude"));
  const { state, error } = built.step("s");
  expect(state).toBe("failed");
  expect(error!.code).toBe("cutter-short");
  for (const repair of [error!.repair, ...(error!.others ?? [])]) {
    if (!repair) continue;
    const step = job("repair-extends-extrude").parts[0]!.steps.find(({ id }) => id === repair.step) as Step;
    const set = repaired(step, repair.set);
    expect(stepType(step.type)!.schema.safeParse({ ...step, ...set }).success).toBe(true);
    expect(build(job("repair-extends-extrude", { [repair.step]: set })).step("s").state).toBe("good");
  }
  // Drawn out too little, the sheet can be drawn out further.
  const thin = {
    line: { entities: entities("repair-extends-extrude", "line", { a: { x: -60 } }).line!.entities },
    sheet: { distance: 30 },
  };
  const short = build(job("repair-extends-extrude", thin)).step("s");
  expect(short.error!.repair!.label).toMatch(/^Draw it out/);
});

test("a hidden field does nothing", () => {
  const built = build(job("hidden-field-acts"));
  expect(built.step("s")).toMatchObject({ state: "good", warnings: [] });
  expect(volumeOfStep(built, "s")).toBeCloseTo(40 ** 3 - 20 * 20 * 10, 5);
});

describe("what goes on without a step says so", () => {
  const steps = (extra: Record<string, unknown>) => [
    { id: "ball", type: "sphere", diameter: 60 },
    { id: "hollow", type: "shell", body: ["ball"], thickness: 40, ...extra },
    { id: "plane", type: "workplane", base: "xy" },
    { id: "half", type: "seam", preset: "trim", stock: ["ball"], cutters: ["plane"] },
  ];
  const of = (extra: Record<string, unknown> = {}) =>
    build(
      checkJob({
        format: "bold-seam-job",
        version: 1,
        name: "T",
        parts: [{ id: "p", name: "P", steps: steps(extra) }],
      }),
    );

  test("a step that failed: the cut warns, the body carries it", () => {
    const built = of();
    expect(built.step("hollow").state).toBe("failed");
    expect(built.step("half")).toMatchObject({
      state: "warned",
      lacks: ["hollow"],
      warnings: [{ code: "goes-without" }],
    });
    expect(built.step("half").warnings[0]!.message).toContain("step 2");
    expect(built.bench.find(({ item }) => item.id.startsWith("half:"))!.lacks).toEqual(["hollow"]);
  });

  test("a step that was left out is no surprise, but the body carries it", () => {
    const built = of({ suppressed: true });
    expect(built.step("half")).toMatchObject({ state: "good", lacks: ["hollow"] });
    expect(built.bench.find(({ item }) => item.id.startsWith("half:"))!.lacks).toEqual(["hollow"]);
  });

  test("mended, it is gone", () => {
    const built = of({ thickness: 3 });
    expect(built.step("half").state).toBe("good");
    expect(built.bench.every(({ lacks }) => lacks.length === 0)).toBe(true);
  });
});

test("25 workplanes cut a block into 26 pieces", () => {
  const built = build(job("planes25"));
  expect(built.reports.filter(({ kind }) => kind === "solid").length).toBeGreaterThanOrEqual(26);
});

// Parted in the planes of both ends of the pipe, the ring of the second comes apart wrongly; in that of one it does not.
test.each([20, 14.919])(
  "a pipe of %d mm run on from a ring of its own section: the elbow is one closed body",
  (height) => {
    const built = build(job("elbow", { b: { height } }));
    expect(built.step("s").state).toBe("good");
    const report = built.reports.find(({ id }) => id.startsWith("s:"))!;
    expect(report).toMatchObject({ closed: true, valid: true });
    // Ring (Pappus) and pipe, less what they have in common: how much of each line along X both hold, summed over Y and Z.
    const [R, r, length, n] = [25, 7, height, 400];
    let common = 0;
    for (let i = 0; i < n; i++)
      for (let j = 0; j < n; j++) {
        const [y, z] = [((i + 0.5) * length) / n, -r + ((j + 0.5) * 2 * r) / n];
        const w = Math.sqrt(r * r - z * z);
        const outer = Math.sqrt(Math.max(0, (R + w) ** 2 - y * y));
        const inner = Math.sqrt(Math.max(0, (R - w) ** 2 - y * y));
        common += Math.max(0, Math.min(R + w, outer) - Math.max(R - w, inner)) * (length / n) * ((2 * r) / n);
      }
    const expected = 2 * Math.PI ** 2 * R * r * r + Math.PI * r * r * length - common;
    expect(relative(report.volume!, expected)).toBeLessThan(1e-5);
  },
);

test("two rings that touch inside cross in two places", () => {
  const built = build(job("tori"));
  const volume = volumeOfStep(built, "s");
  // Fine triangles (manifold-3d) say 3,792 mm³; the two places mirror each other.
  expect(relative(volume, 3792)).toBeLessThan(1e-3);
  const parts = built.reports.filter(({ id }) => id.startsWith("s:")).map((report) => report.volume!);
  expect(parts).toHaveLength(2);
  expect(relative(parts[0]!, parts[1]!)).toBeLessThan(1e-4);
});

test.each([30, 75, 90, 180, 250])("an elbow of %d° with a pipe run on from it, full and hollow", (angle) => {
  for (const bore of [0, 5]) {
    const circle = (id: string, radius: number) => ({ id, type: "circle", centre: "c", radius });
    const entities = [
      { id: "c", type: "point", x: -25, y: 0 },
      circle("o", 7),
      ...(bore > 0 ? [circle("i", bore)] : []),
    ];
    const steps = [
      { id: "sk", type: "sketch", on: "zx", entities },
      { id: "bend", type: "revolve", sketch: ["sk"], axis: "y", extent: "angle", angle },
      { id: "run", type: "extrude", sketch: ["sk"], distance: 20, flip: true },
      { id: "s", type: "seam", preset: "union", stock: ["bend", "run"] },
    ];
    const built = build(
      checkJob({ format: "bold-seam-job", version: 1, name: "T", parts: [{ id: "p", name: "P", steps }] }),
    );
    const area = Math.PI * (49 - bore * bore);
    expect(built.step("s").state).toBe("good");
    // Pappus for the bend, and the pipe.
    expect(relative(volumeOfStep(built, "s"), area * ((25 * angle * Math.PI) / 180 + 20))).toBeLessThan(1e-6);
    expect(built.reports.find(({ id }) => id.startsWith("s:"))).toMatchObject({ closed: true, valid: true });
  }
});

test("the volume of a small cap is had at once, by its closed form", () => {
  const built = build(job("slow-volume-of-a-cap"));
  const [r, turn] = [8.175 / 2, (246.618 * Math.PI) / 180];
  // The ball's middle as the block has it, which was turned about Y.
  const [x, z] = [19.766, 7.381];
  const [u, w] = [x * Math.cos(turn) - z * Math.sin(turn), x * Math.sin(turn) + z * Math.cos(turn)];
  const off = [23.9605 - Math.abs(u - 17.068), 23.9695 - Math.abs(w - 6.618)].filter((depth) => Math.abs(depth) < r);
  expect(off).toHaveLength(1);
  const height = r + off[0]!;
  expect(volumeOfStep(built, "s")).toBeCloseTo((Math.PI * height ** 2 * (3 * r - height)) / 3, 6);
});

const pairs = JSON.parse(readFileSync(path.join(import.meta.dirname, "jobs", "kernel-pairs.json"), "utf8")) as {
  family: string;
  steps: Parameters<typeof holdPair>[1];
}[];

/** Those that take many ways to divide: the others of their family stand for them in the test command. */
const SLOW = [10, 13, 15];

test.each(pairs.flatMap((pair, i) => (WHOLE || !SLOW.includes(i) ? [[i, pair.family, pair.steps] as const] : [])))(
  "pair %i (%s): right, or refused with its place",
  (_i, family, steps) => {
    expect(holdPair(family, steps, engine)).not.toMatchObject({ outcome: "wrong" });
  },
);

describe("a part of a ball cut by a plane is hollowed", () => {
  test.each(["xy", "yz", "zx"].flatMap((base) => [0, 10, -20].map((offset) => [base, offset] as const)))(
    "%s at %d",
    (base, offset) => {
      const built = build(job("shell-half-ball", { pl: { base, offset } }));
      expect(built.step("hollow").state).toBe("good");
      // What a plane leaves of a ball, less what it leaves of one that is 1 mm smaller: π (2 r³ − 3 r² d + d³) / 3.
      const cap = (r: number) => (Math.PI * (2 * r ** 3 - 3 * r * r * offset + offset ** 3)) / 3;
      const report = built.reports.find(({ id }) => id.startsWith("tr:"))!;
      expect(relative(report.volume!, cap(50) - cap(49))).toBeLessThan(1e-6);
      expect(report).toMatchObject({ closed: true, valid: true });
    },
  );
});
