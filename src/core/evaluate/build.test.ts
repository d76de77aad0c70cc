import { beforeAll, describe, expect, test } from "vitest";
import { edits, type Job } from "../job";
import { loadNodeKernel } from "../kernel/library/node";
import { build, jobOf } from "../testing/harness";
import { blockFile } from "../testing/step-text";
import { fromStored, pack, ResultCache, type StoredResult, toStored, unpack } from ".";

beforeAll(loadNodeKernel);

const block = { id: "a", type: "box", size: [20, 20, 20] };
const ball = (diameter = 10) => ({ id: "b", type: "sphere", diameter, at: [0, 0, 20] });
const cut = { id: "s", type: "seam", preset: "subtract", stock: ["a"], cutters: ["b"] };

describe("what is computed again", () => {
  test("nothing, when nothing changed; only what depends on it, when something did", () => {
    const cache = new ResultCache();
    const first = build(jobOf([block, ball(), cut]), { cache });
    const again = build(jobOf([block, ball(), cut]), { cache });
    expect(again.steps.map((step) => step.key)).toEqual(first.steps.map((step) => step.key));
    expect([...again.results.values()].every((result) => first.results.get(result.key) === result)).toBe(true);
    const changed = build(jobOf([block, ball(12), cut]), { cache });
    expect(changed.steps.map((step, i) => step.key === first.steps[i]!.key)).toEqual([true, false, false]);
  });

  test("equal values written differently are one result", () => {
    const keys = (size: unknown) => build(jobOf([{ ...block, size }])).steps[0]!.key;
    expect(keys(["1 in", "25.4 mm", 25.4])).toBe(keys([25.4, 25.4, 25.4]));
  });

  test("renaming rebuilds nothing, and the new name goes on to what is made of it", () => {
    const cache = new ResultCache();
    const before = jobOf([block, ball(), cut]);
    const first = build(before, { cache });
    const job = structuredClone(before);
    edits.renameBody(job.parts[0]!, "a:block", "Base");
    const renamed = build(job, { cache });
    expect(renamed.steps.map((step) => step.key)).toEqual(first.steps.map((step) => step.key));
    expect(renamed.bench.map((entry) => entry.name)).toEqual(["Sphere", "Base"]);
  });

  test("a stored result serves instead of computing, exact shape and names and all", () => {
    const first = build(jobOf([block, ball(), cut]));
    const stored = new Map([...first.results.values()].map((result) => [result.key, pack(toStored(result))] as const));
    let served = 0;
    const again = build(jobOf([block, ball(), cut]), {
      stored(key) {
        served++;
        const bytes = stored.get(key);
        return bytes ? fromStored(unpack(bytes) as StoredResult) : undefined;
      },
    });
    expect(served).toBe(3);
    again.reports.forEach((report, i) => {
      const { volume, area, box: _box, ...counts } = first.reports[i]!;
      expect(report).toMatchObject(counts);
      expect(report.volume!).toBeCloseTo(volume!, 9);
      expect(report.area).toBeCloseTo(area, 9);
    });
    expect(again.bodies.map((body) => body.faces)).toEqual(first.bodies.map((body) => body.faces));
  });

  test("the cache forgets what is over its limit, but nothing that is in use", () => {
    const cache = new ResultCache(1);
    const { results } = build(jobOf([block, ball(), cut]), { cache });
    cache.trim(new Set(results.keys()));
    expect(cache.size).toBe(3);
    cache.trim(new Set());
    expect(cache.size).toBe(0);
  });
});

describe("failing, leaving out, holding", () => {
  test("a failing step does not stop steps that do not need it, and leaves its bodies alone", () => {
    const built = build(
      jobOf([
        block,
        { id: "far", type: "sphere", diameter: 5, at: [200, 0, 0] },
        { id: "bad", type: "seam", preset: "subtract", stock: ["a"], cutters: ["far"] },
        { id: "next", type: "seam", preset: "union", stock: ["bad", "far"] },
        { id: "plane", type: "workplane", base: "xy", offset: 5 },
        { id: "fine", type: "seam", preset: "trim", stock: ["a"], cutters: ["plane"] },
      ]),
    );
    expect(built.steps.map((step) => step.state)).toEqual(["good", "good", "failed", "waiting", "good", "warned"]);
    // It goes on with the block as it was, and says so.
    expect(built.step("fine")).toMatchObject({ lacks: ["bad"], warnings: [{ code: "goes-without" }] });
    expect(built.step("bad").error).toMatchObject({ code: "cutter-misses", step: "bad" });
    expect(built.named("Block")).toBeDefined();
  });

  test("leaving a step out makes the steps that need it wait, and putting it back mends them", () => {
    const job = jobOf([block, ball(), cut]);
    edits.suppress(job.parts[0]!, "b", true);
    expect(build(job).steps.map((step) => step.state)).toEqual(["good", "suppressed", "waiting"]);
    edits.suppress(job.parts[0]!, "b", false);
    expect(build(job).steps.map((step) => step.state)).toEqual(["good", "good", "good"]);
  });

  test("a body that lives on in one other is found there by what named it before: a cut can be put in between", () => {
    const rounded = { id: "r", type: "fillet", edges: [{ body: "a:block", edge: "a:side:x+|a:side:y+" }], radius: 2 };
    const lug = { id: "l", type: "box", size: [10, 10, 10], at: [0, 0, -5] };
    const joined = { id: "u", type: "seam", preset: "union", stock: ["a", "l"] };
    const built = build(jobOf([block, ball(), cut, lug, joined, rounded]));
    expect(built.steps.map(({ state }) => state)).toEqual(["good", "good", "good", "good", "good", "good"]);
    expect(built.bodies.filter(({ id }) => !id.startsWith("b:"))).toHaveLength(1);
    // What was cut away does not live on in what it was cut from.
    const gone = build(
      jobOf([block, ball(), { ...cut, keepCutters: false }, { id: "m", type: "move", bodies: ["b"] }]),
    );
    expect(gone.step("m").error!.code).toBe("body-used");
  });

  test("the part is built up to its hold point", () => {
    const job = jobOf([block, ball(), cut]);
    edits.setHold(job.parts[0]!, "b");
    const built = build(job);
    expect(built.steps.map((step) => step.state)).toEqual(["good", "good", "held"]);
    expect(built.bench.map((entry) => entry.name)).toEqual(["Block", "Sphere"]);
    expect(build(job, { upTo: "s" }).before!.map((entry) => entry.name)).toEqual(["Block", "Sphere"]);
  });

  test.each([
    [
      "used up by an earlier step",
      [block, ball(), { ...cut, preset: "split" }, { id: "t", type: "move", bodies: ["a:block"] }],
      "Block was used up by step 3. Pick what that step made.",
    ],
    [
      "made by a later step",
      [{ id: "t", type: "move", bodies: ["a"] }, block],
      "“a” is made by step 2, which comes later. Move that step above this one.",
    ],
    [
      "made by no step",
      [{ id: "t", type: "move", bodies: ["zz"] }],
      "“zz” is not made by any step of this sheet. Pick again.",
    ],
    ["nothing picked", [{ id: "t", type: "move" }], "Pick the bodies to move."],
    [
      "a workplane where a body is needed",
      [
        { id: "w", type: "workplane" },
        { id: "t", type: "seam", stock: ["w"], cutters: ["w"] },
      ],
      "Workplane is a workplane; pick a body here.",
    ],
  ])("a reference to something %s", (_name, steps, message) => {
    expect(build(jobOf(steps)).step("t").error!.message).toBe(message);
  });

  test("a missing or broken file fails its own step only", () => {
    const files = [{ id: "f", name: "x.step", sha256: "0".repeat(64) }];
    const job = jobOf([{ id: "i", type: "import", file: "f" }, block], { files });
    expect(build(job).step("i").error!.message).toBe("The file “x.step” is not here. Bring it in again.");
    const broken = build(job, { file: () => new TextEncoder().encode("solid x\nfacet normal 0 0 1") });
    expect(broken.step("i").error!.message).toContain("is an STL mesh");
    expect(broken.step("a").state).toBe("good");
  });
});

describe("steps", () => {
  const file = (text: string) => ({ file: () => new TextEncoder().encode(text) });
  const files = [{ id: "f", name: "x.step", sha256: "0".repeat(64) }];

  test("an import keeps names and millimetres", () => {
    const built = build(
      jobOf([{ id: "i", type: "import", file: "f" }], { files }),
      file(blockFile({ size: [1, 2, 3], unit: "inch", product: "Lid" })),
    );
    expect(built.reports[0]).toMatchObject({ id: "i:Lid", name: "Lid", kind: "solid", closed: true });
    expect(built.reports[0]!.volume!).toBeCloseTo(6 * 25.4 ** 3, 3);
  });

  test("move keeps the body's id and names; copy makes new ones", () => {
    const moved = build(
      jobOf([block, { id: "m", type: "move", bodies: ["a"], by: [5, 0, "1 in"], turn: 90, axis: "x" }]),
    );
    expect(moved.bodies.map((body) => body.id)).toEqual(["a:block"]);
    expect(moved.bodies[0]!.faces).toContain("a:side:z+");
    const box = moved.reports[0]!.box!;
    expect([...box.min, ...box.max].map((value) => Math.round(value * 1e6) / 1e6)).toEqual([
      -5, -20, 15.4, 15, 0, 35.4,
    ]);
    const copied = build(jobOf([block, { id: "m", type: "move", bodies: ["a"], by: [50, 0, 0], copy: true }]));
    expect(copied.bench.map((entry) => entry.name)).toEqual(["Block", "Block copy"]);
    expect(new Set(copied.bodies.map((body) => body.id)).size).toBe(2);
  });

  test("a workplane from a flat face follows the face; a curved face is refused", () => {
    const steps = (size: number) => [
      { ...block, size: [20, 20, size] },
      ball(),
      { id: "w", type: "workplane", base: "face", face: [{ body: "a:block", face: "a:side:z+" }], offset: -5 },
      { id: "x", type: "workplane", base: "face", face: [{ body: "b:sphere", face: "b:skin" }] },
    ];
    for (const size of [20, 33]) {
      const built = build(jobOf(steps(size)));
      const plane = built.bench.find((entry) => entry.item.id === "w:plane")!.item;
      expect(plane.kind === "workplane" && plane.origin[2]).toBeCloseTo(size - 5, 9);
      expect(built.step("x").error!.code).toBe("not-flat");
    }
  });

  test("a block round bodies, and one that would be flat", () => {
    const built = build(
      jobOf([
        ball(10),
        { id: "w", type: "box", place: "around", around: ["b"], margin: [1, "1/2 in", 0] },
        { id: "sheet", type: "offset-sheet", faces: [{ body: "w:block", face: "w:side:z+" }] },
        { id: "flat", type: "box", place: "around", around: ["sheet"], margin: [1, 1, 0] },
      ]),
    );
    expect(built.reports.find((report) => report.id === "w:block")!.volume).toBeCloseTo(12 * 35.4 * 10, 6);
    expect(built.step("flat").error!.code).toBe("no-thickness");
  });

  test("an offset sheet: several faces, extended and trimmed where they meet", () => {
    const built = build(
      jobOf([
        block,
        {
          id: "sheet",
          type: "offset-sheet",
          faces: ["z+", "x+"].map((side) => ({ body: "a:block", face: `a:side:${side}` })),
          distance: 2,
          extend: 15,
        },
      ]),
    );
    const sheet = built.reports.find((report) => report.kind === "sheet")!;
    // Two strips that meet at x = 12, z = 22: each 50 wide and, from the corner, 22 + 15 and 22 + 15 long.
    expect(sheet.faces).toBe(2);
    expect(sheet.area).toBeCloseTo(50 * 37 * 2, 6);
    expect(sheet.valid).toBe(true);
  });

  test("an offset sheet of a cylinder inwards past its axis is an error with a way out", () => {
    const built = build(
      jobOf([
        { id: "c", type: "cylinder", diameter: 10, height: 20 },
        { id: "s", type: "offset-sheet", faces: [{ body: "c:cylinder", face: "c:side" }], distance: -7 },
      ]),
    );
    expect(built.step("s").state).toBe("failed");
    expect(built.step("s").error!.message).toMatch(/Try a smaller distance or fewer faces\.$/);
  });

  test.each([0.05, -0.05, 3, -3])("an offset sheet of a cylinder by %d has the right radius", (distance) => {
    const built = build(
      jobOf([
        { id: "c", type: "cylinder", diameter: 10, height: 20 },
        { id: "s", type: "offset-sheet", faces: [{ body: "c:cylinder", face: "c:side" }], distance, extend: 1 },
      ]),
    );
    expect(built.reports[1]!.area).toBeCloseTo(2 * Math.PI * (5 + distance) * 22, 6);
  });

  test("faces of two bodies, or apart, make no sheet", () => {
    const run = (faces: unknown[]) =>
      build(jobOf([block, ball(), { id: "s", type: "offset-sheet", faces }])).step("s").error!.code;
    expect(
      run([
        { body: "a:block", face: "a:side:z+" },
        { body: "b:sphere", face: "b:skin" },
      ]),
    ).toBe("several-bodies");
    expect(
      run([
        { body: "a:block", face: "a:side:z+" },
        { body: "a:block", face: "a:side:z-" },
      ]),
    ).toBe("faces-apart");
    expect(run([])).toBe("nothing-picked");
  });
});

describe("what bodies are called", () => {
  const box = { id: "a", type: "box", size: [20, 20, 20] };
  const cut = [
    { id: "w", type: "workplane", base: "yz" },
    { id: "s", type: "seam", preset: "split", stock: ["a"], cutters: ["w"], keepCutters: false },
  ];
  const names = (job: Job) => build(job).bench.map(({ name }) => name);
  const keys = (job: Job) => build(job).steps.map(({ key }) => key);

  test("as their step was named, pieces of them too, until they have names of their own; nothing is built anew for it", () => {
    const plain = jobOf([box, ...cut]);
    const named = jobOf([{ ...box, name: "Top plate" }, ...cut]);
    expect(names(plain)).toEqual(["Block 1", "Block 2"]);
    expect(names(named)).toEqual(["Top plate 1", "Top plate 2"]);
    expect(keys(named)).toEqual(keys(plain));
    const given = jobOf([], {
      parts: [{ id: "part", name: "Part", steps: [{ ...box, name: "Top plate" }], names: { "a:block": "Lid" } }],
    });
    expect(names(given)).toEqual(["Lid"]);
  });

  test("a group of pieces as the group, also where its step has a name", () => {
    const seam = cut.find(({ type }) => type === "seam")!;
    const group = (sides: Record<string, string>, name: string) => ({ where: { sides }, fate: "group", group: name });
    const plane = cut.find(({ type }) => type === "workplane")!.id;
    const rules = [group({ [plane]: "front" }, "Plug"), group({ [plane]: "back" }, "Seat")];
    expect(names(jobOf([box, ...cut.filter((step) => step !== seam), { ...seam, name: "Part it", rules }]))).toEqual(
      expect.arrayContaining(["Plug", "Seat"]),
    );
  });

  test("a body that is changed goes on being called as it was, whatever the step is called that changes it", () => {
    const round = {
      id: "f",
      type: "fillet",
      name: "Soften",
      edges: [{ body: "a:block", edge: "a:side:y-|a:side:z+" }],
      radius: 2,
    };
    const turn = { id: "m", type: "move", name: "Put aside", bodies: ["a"], by: [5, 0, 0] };
    expect(names(jobOf([{ ...box, name: "Top plate" }, round, turn]))).toEqual(["Top plate"]);
    expect(names(jobOf([box, round, turn]))).toEqual(["Block"]);
  });

  test("two steps of one name: told apart by a number; a workplane and a sketch as well", () => {
    expect(
      names(
        jobOf([
          { ...box, name: "Post" },
          { ...box, id: "b", at: [50, 0, 0], name: "Post" },
          { id: "w", type: "workplane", name: "Parting" },
        ]),
      ),
    ).toEqual(["Post", "Post 2", "Parting"]);
  });
});
