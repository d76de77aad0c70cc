import { beforeAll, describe, expect, test } from "vitest";
import { reportBody } from "../../check";
import { evaluateJob, evaluatePart, fromStored, type PartResult, ResultCache, toStored, viewKey } from "../../evaluate";
import { isBody } from "../../items";
import { chainBetween, checkJob, type Job, makeChange, needingPart, partsNeeded } from "../../job";
import { loadNodeKernel } from "../../kernel/library/node";
import { jobOf, relative } from "../../testing/harness";

beforeAll(loadNodeKernel);

type Step = Record<string, unknown>;
const block: Step = { id: "a", type: "box", size: [40, 30, 20], anchor: "corner" };
const bring = (part: string, ...items: string[]): Step => ({ id: "in", type: "bring-in", part, items });

function jobOfParts(parts: Record<string, Step[]>, more: Record<string, unknown> = {}): Job {
  return checkJob({
    format: "bold-seam-job",
    version: 1,
    name: "Test",
    parts: Object.entries(parts).map(([id, steps]) => ({ id, name: id.toUpperCase(), steps })),
    ...more,
  });
}

const built = (job: Job, cache = new ResultCache()) => evaluateJob(job, { cache, file: () => undefined });
const names = (result: PartResult) => result.bench.map(({ name }) => name);
const step = (result: PartResult, id: string) => result.steps.find((one) => one.id === id)!;
const volumes = (result: PartResult) =>
  result.bench.flatMap(({ item }) => (isBody(item) ? [reportBody(item.id, "", item.kind, item.shape).volume!] : []));

test("what is held back there is told as that, and comes when the hold point is moved past it", () => {
  const parts = (hold: string | null) => [
    {
      id: "A",
      name: "Frame",
      hold,
      steps: [
        { id: "b", type: "box" },
        { id: "c", type: "cylinder" },
      ],
    },
    { id: "B", name: "Tray", steps: [{ id: "b", type: "bring-in", part: "A", items: ["c"] }] },
  ];
  const at = (hold: string | null) =>
    evaluateJob(jobOf([], { parts: parts(hold) }), { cache: new ResultCache(), file: () => undefined }).get("B")!
      .steps[0]!;
  expect(at("b").error!.message).toBe(
    "In “Frame”: “c” is made by step 2, behind the hold point there. Move the hold point past it.",
  );
  expect(at("c").state).toBe("good");
  expect(at(null).state).toBe("good");
});

describe("an item of another part", () => {
  test("comes in where it stands, is called as there, and is worked on apart from it", () => {
    const results = built(
      jobOfParts({
        // The part that needs the other stands first: the order is by need.
        seat: [
          bring("plug", "a:block"),
          { id: "s", type: "box", size: [60, 50, 15], at: [-10, -10, -5], anchor: "corner" },
          { id: "c", type: "seam", preset: "subtract", stock: ["s"], cutters: ["in"], keepCutters: false },
        ],
        plug: [block],
      }),
    );
    expect([...results.keys()]).toEqual(["seat", "plug"]);
    const seat = results.get("seat")!;
    expect(seat.steps.map(({ state }) => state)).toEqual(["good", "good", "good"]);
    expect(volumes(seat)).toEqual([expect.closeTo(60 * 50 * 15 - 40 * 30 * 10, 6)]);
    expect(volumes(results.get("plug")!)).toEqual([expect.closeTo(24_000, 6)]);
  });

  test("every kind of item comes in, and is kept and taken up again", () => {
    const job = jobOfParts({
      from: [
        block,
        { id: "p", type: "workplane", base: "xy", offset: 5 },
        { id: "k", type: "sketch", entities: [{ id: "o", type: "point", x: 1, y: 2 }] },
        { id: "t", type: "offset-sheet", faces: [{ body: "a:block", face: "a:side:z+" }] },
        { id: "c", type: "curve" },
      ],
      to: [bring("from", "a", "p", "k", "t", "c")],
    });
    const { bench, results } = built(job).get("to")!;
    expect(bench.map(({ item, name }) => [item.kind, name])).toEqual([
      ["solid", "Block"],
      ["workplane", "Workplane"],
      ["sketch", "Sketch"],
      ["sheet", "Sheet"],
      ["curve", "Curve"],
    ]);
    const made = [...results.values()].find((result) => result.made.some(({ id }) => id.startsWith("in:")))!;
    const again = fromStored(JSON.parse(JSON.stringify(toStored(made))));
    expect(again.made.map(({ id, kind }) => [id, kind])).toEqual(made.made.map(({ id, kind }) => [id, kind]));
  });

  test("follows its source at once, and nothing else is built again", () => {
    const job = jobOfParts({
      plug: [block, { id: "x", type: "sphere", diameter: 9, at: [99, 0, 0] }],
      seat: [bring("plug", "a"), { id: "m", type: "move", bodies: ["in"], by: [0, 0, 5] }],
    });
    const cache = new ResultCache();
    const before = built(job, cache).get("seat")!;
    // What is not brought in may change; what is called otherwise is the same body.
    job.parts[0]!.steps[1]!.diameter = 12;
    job.parts[0]!.names["a:block"] = "Plug";
    const renamed = built(job, cache).get("seat")!;
    expect(renamed.steps.map(({ key }) => key)).toEqual(before.steps.map(({ key }) => key));
    expect(names(renamed)).toEqual(["Plug"]);
    job.parts[0]!.steps[0]!.size = [40, 30, 25];
    const grown = built(job, cache).get("seat")!;
    expect(grown.steps.map(({ key }) => key)).not.toEqual(before.steps.map(({ key }) => key));
    expect(volumes(grown)).toEqual([expect.closeTo(30_000, 6)]);
    // And back: from what is at hand.
    job.parts[0]!.steps[0]!.size = [40, 30, 20];
    expect(
      built(job, cache)
        .get("seat")!
        .steps.every(({ ms, state }) => state === "good" && ms < 50),
    ).toBe(true);
  });

  test("its source may let go of what it made: the copy has a form of its own", () => {
    const job = jobOfParts({ plug: [block], seat: [bring("plug", "a")] });
    const cache = new ResultCache(0);
    const seat = evaluatePart(job, job.parts[1]!, { cache, file: () => undefined });
    const own = seat.steps[0]!.key!;
    cache.trim(new Set([own]));
    expect(volumes(seat)).toEqual([expect.closeTo(24_000, 6)]);
    cache.clear();
  });

  test("while a part is edited the others stand as they are, to their own hold points", () => {
    const job = jobOfParts({
      plug: [block, { id: "m", type: "move", bodies: ["a"], by: [0, 0, 50] }],
      seat: [bring("plug", "a:block"), { id: "s", type: "box", size: [9, 9, 9] }],
    });
    job.parts[0]!.hold = "a";
    const seat = evaluatePart(job, job.parts[1]!, { cache: new ResultCache(), file: () => undefined, upTo: "in" });
    expect(seat.steps.map(({ state }) => state)).toEqual(["good", "held"]);
    const { item } = seat.bench[0]!;
    expect(isBody(item) && reportBody("", "", "solid", item.shape).box!.min[2]).toBeCloseTo(0, 9);
  });

  test("a piece that was picked of a cut is found again there by what bounds it", () => {
    const cut = (width: number): Record<string, Step[]> => ({
      from: [
        { ...block, size: [width, 30, 20] },
        { id: "p", type: "workplane", base: "yz", offset: 10 },
        { id: "s", type: "seam", preset: "split", stock: ["a"], cutters: ["p"] },
      ],
      to: [],
    });
    const first = built(jobOfParts(cut(40))).get("from")!;
    const piece = first.bench.find(
      ({ item }) =>
        isBody(item) &&
        relative(volumes({ ...first, bench: [first.bench.find((one) => one.item === item)!] })[0]!, 30 * 30 * 20) <
          1e-9,
    )!;
    const job = jobOfParts({ ...cut(70), to: [bring("from", piece.item.id)] });
    expect(volumes(built(job).get("to")!)).toEqual([expect.closeTo(60 * 30 * 20, 6)]);
  });
});

describe("what cannot be brought in is told, with the way", () => {
  test("circles of any length, naming the chain; the parts in it and behind it say so, others are built", () => {
    const job = jobOfParts({
      a: [bring("b", "in")],
      b: [block, bring("c", "in")],
      c: [bring("a", "in")],
      d: [block],
      e: [bring("a", "in")],
      f: [bring("f", "in"), block],
    });
    const results = built(job);
    const said = (part: string) => step(results.get(part)!, "in").error!.message;
    const circle = (chain: string) => `A part cannot be made of what is made of it: ${chain}. Take one of them out.`;
    expect(said("c")).toBe(circle("“C” brings something in from “A”, and that from “B”, and that from “C”"));
    expect(said("a")).toBe(circle("“A” brings something in from “B”, and that from “C”, and that from “A”"));
    expect(said("e")).toMatch(/^In “A”: /);
    expect(said("f")).toBe("“F” cannot bring in something of itself. Pick it directly.");
    expect(step(results.get("d")!, "a").state).toBe("good");
    expect(step(results.get("b")!, "a").state).toBe("good");
    // Before it is picked, too.
    expect(chainBetween(job, "a", "c")).toEqual(["A", "B", "C"]);
    expect(chainBetween(job, "d", "a")).toBeNull();
  });

  test("a circle is one whichever part is built first, alone or with the others: what is not round it, too", () => {
    const job = jobOfParts({
      a: [bring("b", "in")],
      b: [bring("c", "x")],
      c: [{ ...block, id: "x" }, bring("a", "in")],
    });
    const states = (whole: Job) => {
      const all = [...built(whole)].map(([id, { steps }]) => [id, steps.map(({ state }) => state)] as const);
      return Object.fromEntries(all);
    };
    const wanted = { a: ["failed"], b: ["failed"], c: ["good", "failed"] };
    for (let turn = 0; turn < 3; turn++) {
      job.parts.push(job.parts.shift()!);
      expect(states(job)).toEqual(wanted);
      const [first] = job.parts;
      const alone = evaluatePart(job, first!, { cache: new ResultCache(), file: () => undefined });
      expect(alone.steps.map(({ state }) => state)).toEqual(wanted[first!.id as "a"]);
    }
  });

  test("a part or an item that is gone, used up or not picked", () => {
    const said = (...steps: Step[]) =>
      step(
        built(
          jobOfParts({
            from: [
              block,
              { id: "m", type: "move", bodies: ["a"], by: [1, 0, 0], copy: true },
              { id: "u", type: "seam", preset: "union", stock: ["a", "m"] },
            ],
            to: steps,
          }),
        ).get("to")!,
        "in",
      ).error?.message;
    expect(said(bring("nowhere", "a"))).toMatch(/no longer in the job/);
    expect(said(bring(""))).toBe("Pick the part to bring something in from.");
    expect(said(bring("from"))).toBe("Pick what is brought in.");
    expect(said(bring("from", "gone:block"))).toMatch(/^In “FROM”: “gone:block” is not made by any step/);
    expect(said(bring("from", "u:none"))).toMatch(/^In “FROM”: Step 3 no longer makes/);
  });

  test("a source that was built without a step says so here, and on all that is made of it", () => {
    const job = jobOfParts({
      from: [block, { id: "f", type: "fillet", edges: [{ body: "a", edge: "a:side:x+|a:side:z+" }], radius: 500 }],
      to: [bring("from", "a"), { id: "m", type: "move", bodies: ["in"], by: [1, 0, 0], copy: true }],
    });
    const cache = new ResultCache();
    for (let round = 0; round < 2; round++) {
      const to = built(job, cache).get("to")!;
      expect(step(to, "in").warnings.map(({ message }) => message)).toEqual([
        "“FROM” was built without its step 2, and so is what was brought in.",
      ]);
      expect(to.bench.map(({ lacks }) => lacks)).toEqual([["in"], ["in"]]);
    }
    // Mended there, it is here, too: what was told is not kept.
    job.parts[0]!.steps[1]!.radius = 2;
    const to = built(job, cache).get("to")!;
    expect(to.steps.every(({ state }) => state === "good")).toBe(true);
    expect(to.bench.map(({ lacks }) => lacks)).toEqual([[], []]);
  });
});

describe("what a part needs", () => {
  const job = () => jobOfParts({ a: [bring("b", "in")], b: [bring("c", "a")], c: [block], d: [{ ...block, id: "x" }] });

  test("through others, too; and what needs it", () => {
    const whole = job();
    expect(partsNeeded(whole, "a").map(({ id }) => id)).toEqual(["a", "b", "c"]);
    expect(needingPart(whole, "c").map(({ part, step: one }) => [part.id, one.id])).toEqual([["b", "in"]]);
    whole.parts[1]!.steps[0]!.suppressed = true;
    expect(needingPart(whole, "c")).toEqual([]);
  });

  test("the key of a stored view changes with every part that it is made of, and with no other", () => {
    const key = (change: (whole: Job) => void) => {
      const whole = job();
      change(whole);
      return viewKey(whole, whole.parts[0]!);
    };
    const plain = key(() => {});
    expect(key((whole) => (whole.parts[2]!.steps[0]!.size = [1, 2, 3]))).not.toBe(plain);
    expect(key((whole) => (whole.parts[2]!.names["a:block"] = "Plug"))).not.toBe(plain);
    expect(key((whole) => (whole.parts[3]!.steps[0]!.size = [1, 2, 3]))).toBe(plain);
    expect(key((whole) => (whole.parts[2]!.looks["a:block"] = { colour: "clay" }))).toBe(plain);
  });
});

describe("faces and edges of another part", () => {
  const hollow: Step[] = [
    { id: "a", type: "box", size: [40, 30, 20], anchor: "corner" },
    { id: "h", type: "cylinder", diameter: 10, height: 20, at: [20, 15, 0] },
    { id: "c", type: "seam", preset: "subtract", stock: ["a"], cutters: ["h"], keepCutters: false },
  ];
  const place = { id: "p", by: [100, 0, 0], turn: 90, mirror: "none" };
  const jobWith = (link: Step, places: object[] = [place]): Job =>
    checkJob({
      format: "bold-seam-job",
      version: 1,
      name: "Test",
      parts: [
        { id: "from", name: "From", steps: hollow, places },
        { id: "to", name: "To", steps: [{ id: "in", type: "bring-in", part: "from", ...link }] },
      ],
    });
  const face = (name: string, more: Step = {}) => ({ body: "c", face: `a:side:${name}`, ...more });
  const all = (link: Step) => built(jobWith(link)).get("to")!;
  const areas = ({ bench }: PartResult) =>
    bench.flatMap(({ item }) => (isBody(item) ? [reportBody("", "", item.kind, item.shape).area] : []));

  test("one sheet of all that hang together, or one of each; where the part stands, under names of their own", () => {
    const one = all({ faces: [face("x+"), face("z+")] });
    expect(one.steps[0]!.error).toBeUndefined();
    expect(areas(one)).toEqual([expect.closeTo(600 + 1200 - Math.PI * 25, 6)]);
    const each = all({ faces: [face("x+"), face("z+")], sheets: "each" });
    expect(areas(each).sort((a, b) => a - b)).toEqual([expect.closeTo(600, 6), expect.closeTo(1200 - Math.PI * 25, 6)]);
    // Turned by a quarter about Z, 100 further: what looked along X looks along Y.
    const flat = each.bench.map(({ item }) => item).find((item) => isBody(item) && item.faces[0]!.includes("x+"))!;
    const box = isBody(flat) ? reportBody("", "", "sheet", flat.shape).box! : null;
    [70, 40, 0].forEach((value, k) => {
      expect(box!.min[k]).toBeCloseTo(value, 4);
    });
    expect((flat as { faces: string[] }).faces).toEqual(["in:of:a:side:x+"]);
  });

  test("by a rule, with what comes with it; faces that do not hang together are refused, or each a sheet", () => {
    const round = { body: "c", face: "h:side", with: "pocket" };
    const rule = all({ faces: [round] });
    expect(areas(rule)).toEqual([expect.closeTo(Math.PI * 10 * 20, 6)]);
    const apart = all({ faces: [face("x+"), face("x-")] });
    expect(apart.steps[0]!.error!.message).toMatch(/do not hang together/);
    expect(areas(all({ faces: [face("x+"), face("x-")], sheets: "each" }))).toHaveLength(2);
  });

  test("edges in one plane are a drawing, exact; edges that are not are refused, with the way", () => {
    const drawn = all({ edges: [{ body: "c", edge: "a:side:z+|h:side" }] });
    const item = drawn.bench[0]!.item as unknown as {
      kind: string;
      frame: { origin: number[]; normal: number[] };
      entities: { type: string; radius?: number }[];
    };
    expect(item.kind).toBe("sketch");
    expect(item.entities.filter(({ type }) => type === "circle")).toEqual([expect.objectContaining({ radius: 5 })]);
    expect(item.frame.origin[2]).toBeCloseTo(20, 9);
    // An opening is cut by it here: as wide, and where it stands.
    const job = jobWith({ edges: [{ body: "c", edge: "a:side:z+|h:side" }] });
    job.parts[1]!.steps.push(
      ...checkJob({
        format: "bold-seam-job",
        version: 1,
        name: "T",
        parts: [
          {
            id: "t",
            name: "T",
            steps: [
              { id: "in", type: "bring-in", part: "x", items: ["y"] },
              { id: "s", type: "box", size: [40, 40, 10], at: [85, 20, 20] },
              { id: "e", type: "extrude", sketch: ["in"], into: "cut", targets: ["s"], extent: "through" },
            ],
          },
        ],
      }).parts[0]!.steps.slice(1),
    );
    const cut = built(job).get("to")!;
    expect(cut.steps.map(({ error }) => error?.message)).toEqual([undefined, undefined, undefined]);
    expect(volumes(cut)[0]).toBeCloseTo(16_000 - Math.PI * 250, 6);
    const crooked = all({
      edges: [
        { body: "c", edge: "a:side:z+|h:side" },
        { body: "c", edge: "a:side:x+|a:side:y+" },
      ],
    });
    expect(crooked.steps[0]!.error!.message).toMatch(/do not lie in one plane/);
  });

  test("a face that is gone there is told; what was taken stays", () => {
    const job = jobWith({ faces: [face("nowhere")] });
    expect(built(job).get("to")!.steps[0]!.state).toBe("failed");
    job.follow = false;
    const good = jobWith({ faces: [face("x+")] });
    good.follow = false;
    const taken = makeChange(good, "Wider", (draft) => {
      (draft.parts[0]!.steps[0]!.size as number[])[0] = 60;
    })!.job;
    expect(areas(built(taken).get("to")!)).toEqual([expect.closeTo(600, 6)]);
    const gone = makeChange(taken, "Gone", (draft) => {
      draft.parts[0]!.steps[2]!.suppressed = true;
    })!.job;
    expect(areas(built(gone).get("to")!)).toEqual([expect.closeTo(600, 6)]);
    expect(
      built(gone)
        .get("to")!
        .steps[0]!.warnings.map(({ message }) => message),
    ).toEqual([expect.stringMatching(/no longer makes what was brought in/)]);
  });
});
