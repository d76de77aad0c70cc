import { beforeAll, describe, expect, test } from "vitest";
import { reportBody } from "../check";
import { type Body, isBody } from "../items";
import { checkJob, type Job, linkOf, makeChange, refreshLinks } from "../job";
import { surfaceCentre, volumeOf } from "../kernel";
import { loadNodeKernel } from "../kernel/library/node";
import { movedBy, transformOf } from "../place";
import { Random } from "../testing/trust/random";
import { evaluateJob, linkReports, ResultCache } from ".";

beforeAll(loadNodeKernel);

type Step = Record<string, unknown>;
const jobOf = (parts: Record<string, Step[]>, more: Record<string, unknown> = {}): Job =>
  checkJob({
    format: "bold-seam-job",
    version: 1,
    name: "Test",
    follow: false,
    parts: Object.entries(parts).map(([id, steps]) => ({ id, name: id.toUpperCase(), steps })),
    ...more,
  });
const change = (job: Job, edit: (draft: Job) => void): Job => makeChange(job, "Test", edit)?.job ?? job;
const options = (cache = new ResultCache()) => ({ cache, file: () => undefined });
const built = (job: Job, cache = new ResultCache()) => evaluateJob(job, options(cache));
const reports = (job: Job, part: string) =>
  built(job)
    .get(part)!
    .bench.flatMap(({ item, name }) => (isBody(item) ? [reportBody(item.id, name, item.kind, item.shape)] : []));
const partOf = (job: Job, id: string) => job.parts.find((part) => part.id === id)!;

/** A housing in two halves with one window, drawn in the one by formula and cut through both. */
const window = (): Job =>
  jobOf(
    {
      lower: [
        { id: "shell", type: "box", size: [80, 60, 30], at: [0, 0, 0], anchor: "corner" },
        {
          id: "tool",
          type: "box",
          size: ["window", "window / 2", 90],
          at: ["40 mm - window / 2", 10, 15],
          anchor: "corner",
        },
        { id: "cut", type: "seam", preset: "subtract", stock: ["shell"], cutters: ["tool"], keepCutters: true },
      ],
      upper: [
        { id: "shell", type: "box", size: [80, 60, 30], at: [0, 0, 30], anchor: "corner" },
        { id: "in", type: "bring-in", part: "lower", items: ["tool"] },
        { id: "cut", type: "seam", preset: "subtract", stock: ["shell"], cutters: ["in"], keepCutters: false },
      ],
    },
    { parameters: [{ name: "window", unit: "mm", formula: 20, note: "" }] },
  );
/** The window's own walls as they run through a half: their places across, mm. */
const opening = (job: Job, part: string) => {
  const result = built(job).get(part)!;
  const body = result.bench.find(({ item }) => item.id.startsWith("cut:") && isBody(item))!.item;
  const report = isBody(body) ? reportBody("", "", "solid", body.shape) : null;
  return { volume: 80 * 60 * 30 - report!.volume!, states: result.steps.map(({ state }) => state) };
};

describe("one window in both halves of a housing", () => {
  test("20 edits of its size: the other half stays as it was and is told to be behind; refreshed it is as wide, to 1e-9 mm", () => {
    let job = change(window(), (draft) => {
      draft.name = "Housing";
    });
    const random = new Random(20261201);
    for (let edit = 0; edit < 20; edit++) {
      const before = opening(job, "upper");
      const size = 6 + random.next() * 60;
      job = change(job, (draft) => {
        draft.parameters[0]!.formula = size;
      });
      expect(linkReports(job, options())).toMatchObject([{ part: "upper", step: "in", from: "lower", state: "stale" }]);
      expect(opening(job, "upper")).toEqual(before);
      job = change(job, (draft) => refreshLinks(draft, () => true));
      expect(linkReports(job, options())).toMatchObject([{ state: "current" }]);
      const [lower, upper] = [opening(job, "lower"), opening(job, "upper")];
      // As deep in either: half as wide as it is long, 15 mm of the lower half, 30 of the upper.
      expect(lower.volume / (15 * size)).toBeCloseTo(size / 2, 9);
      expect(upper.volume / (30 * size)).toBeCloseTo(size / 2, 9);
      expect(upper.states).toEqual(["good", "good", "good"]);
    }
  });
});

describe("a job of 12 parts after one edit", () => {
  const twelve = () => {
    const parts: Record<string, Step[]> = {};
    for (let i = 0; i < 12; i++)
      parts[`p${i}`] = [
        { id: "a", type: "box", size: i === 0 ? [20, 20, 10] : [40, 40, 20 + i] },
        // Each third brings the first one in.
        ...(i > 0 && i % 3 === 0 ? [{ id: "in", type: "bring-in", part: "p0", items: ["u"] }] : []),
        { id: "b", type: "sphere", diameter: 12 },
        {
          id: "u",
          type: "seam",
          preset: "subtract",
          stock: ["a"],
          cutters: i > 0 && i % 3 === 0 ? ["in", "b"] : ["b"],
        },
      ];
    return parts;
  };
  /** The parts of which a step is computed: its key was not at hand. */
  const counting = () => {
    const cache = new ResultCache();
    const known = new Set<string>();
    return (job: Job): string[] =>
      [...evaluateJob(job, options(cache))].flatMap(([id, { steps }]) => {
        const fresh = steps.filter(({ key }) => !known.has(key!));
        for (const { key } of fresh) known.add(key!);
        return fresh.length > 0 ? [id] : [];
      });
  };

  test.each([
    [true, ["p0", "p3", "p6", "p9"]],
    [false, ["p0"]],
  ])("only what uses the part is built again (follows: %s)", (follow, wanted) => {
    const computed = counting();
    let job = change(jobOf(twelve(), { follow }), (draft) => {
      draft.name = "Twelve";
    });
    computed(job);
    expect(computed(job)).toEqual([]);
    job = change(job, (draft) => {
      (partOf(draft, "p0").steps[0]!.size as number[])[2] = 17.5;
    });
    expect(computed(job)).toEqual(wanted);
    // Refreshed: those that use it, and no other.
    job = change(job, (draft) => refreshLinks(draft, () => true));
    expect(computed(job)).toEqual(follow ? [] : ["p3", "p6", "p9"]);
  });
});

describe("the source is", () => {
  const start = () =>
    change(
      jobOf({
        a: [
          { id: "x", type: "box", size: [40, 30, 20] },
          { id: "y", type: "sphere", diameter: 9, at: [90, 0, 0] },
        ],
        b: [{ id: "in", type: "bring-in", part: "a", items: ["x"] }],
      }),
      (draft) => {
        draft.name = "Start";
      },
    );
  const volume = (job: Job) => reports(job, "b")[0]!.volume!;
  const told = (job: Job) => ({
    link: linkReports(job, options())[0]!,
    warned: built(job)
      .get("b")!
      .steps[0]!.warnings.map(({ message }) => message),
  });

  test.each<[string, (job: Job) => void, string, RegExp | null]>([
    [
      "resized",
      (job) => {
        (partOf(job, "a").steps[0]!.size as number[])[0] = 50;
      },
      "stale",
      null,
    ],
    [
      "renamed",
      (job) => {
        partOf(job, "a").name = "Other";
        partOf(job, "a").names["x:block"] = "Plug";
      },
      "current",
      null,
    ],
    [
      "changed where it does not matter",
      (job) => {
        partOf(job, "a").steps[1]!.diameter = 12;
      },
      "current",
      null,
    ],
    [
      "suppressed",
      (job) => {
        partOf(job, "a").steps[0]!.suppressed = true;
      },
      "gone",
      /“A” no longer makes what was brought in: it stays as it was taken last/,
    ],
    ["deleted", (job) => void partOf(job, "a").steps.splice(0, 1), "gone", /“A” no longer makes/],
    ["deleted with its part", (job) => void job.parts.splice(0, 1), "gone", /“A” is no longer in the job/],
    [
      "replaced by another kind of step under its id",
      (job) => {
        partOf(job, "a").steps[0] = { ...partOf(job, "a").steps[1]!, id: "x" };
      },
      "stale",
      null,
    ],
    [
      "not built any more",
      (job) => {
        partOf(job, "a").steps.splice(0, 1, {
          id: "x",
          type: "fillet",
          suppressed: false,
          edges: [{ body: "gone", edge: "gone" }],
          radius: 2,
        } as never);
      },
      "gone",
      null,
    ],
    [
      "moved in the job",
      (job) => {
        partOf(job, "a").places.push({ id: "p", by: [5, 0, 0], turn: 0, axis: [0, 0, 1], mirror: "none" });
      },
      "stale",
      null,
    ],
  ])("%s: what was brought in stays, and it is told", (_, edit, state, warning) => {
    const before = start();
    const job = change(before, edit);
    expect(reports(job, "b")).toEqual(reports(before, "b"));
    const { link, warned } = told(job);
    expect(link.state).toBe(state);
    if (warning) expect(warned).toEqual([expect.stringMatching(warning)]);
    else expect(warned).toEqual([]);
  });

  test("gone, and told to be a copy of its own from then on: nothing is left to say", () => {
    const job = change(
      change(start(), (draft) => void draft.parts.splice(0, 1)),
      (draft) => {
        linkOf(partOf(draft, "b").steps[0]!)!.loose = true;
      },
    );
    expect(volume(job)).toBeCloseTo(24_000, 6);
    expect(told(job)).toMatchObject({ link: { state: "loose" }, warned: [] });
  });
});

const SEED = Number(process.env.PROOF_SEED ?? 15_500_000);
const PLAIN = { by: [0, 0, 0], turn: 0, axis: [0, 0, 1], mirror: "none" };

describe("law: by chance", () => {
  const places = (random: Random) => ({
    id: "p",
    by: [random.next() * 90 - 45, random.next() * 90 - 45, random.next() * 90 - 45] as [number, number, number],
    turn: random.pick([0, 90, 33.3, 180, -71]),
    axis: random.pick([
      [0, 0, 1],
      [1, 0, 0],
      [1, 2, 3],
    ]) as [number, number, number],
    mirror: random.pick(["none", "none", "x", "y", "z"] as const),
  });

  test.for(Array.from({ length: Number(process.env.PROOF_LINKS ?? 10) }, (_, i) => SEED + i))(
    "%i: after any edit what was brought in is as it was, and what says “current” is what is there now; refreshed it is where its source stands",
    (seed) => {
      const random = new Random(seed);
      const size = () => 10 + Math.round(random.next() * 300) / 10;
      let job = jobOf(
        {
          c: [{ id: "in", type: "bring-in", part: "b", items: ["u"] }],
          b: [
            { id: "in", type: "bring-in", part: "a", items: ["x"] },
            { id: "s", type: "box", size: [8, 9, 10] },
            { id: "u", type: "scale", bodies: ["in"], factor: 1.2 },
          ],
          a: [{ id: "x", type: "wedge", length: size(), width: size(), height: "high", top: 4 }],
        },
        { parameters: [{ name: "high", unit: "mm", formula: size(), note: "" }] },
      );
      job = change(job, (draft) => void partOf(draft, "a").places.push(places(random)));
      for (let turn = 0; turn < 5; turn++) {
        const before = { b: reports(job, "b"), c: reports(job, "c") };
        const edit = random.pick<(draft: Job) => void>([
          (draft) => {
            draft.parameters[0]!.formula = size();
          },
          (draft) => {
            partOf(draft, "a").steps[0]!.length = size();
          },
          (draft) => {
            partOf(draft, random.pick(["a", "b", "c"])).places = [places(random)];
          },
          (draft) => {
            partOf(draft, "a").name = `Renamed ${turn}`;
          },
          (draft) => {
            partOf(draft, "b").steps[2]!.factor = 1.1 + random.next();
          },
        ]);
        const grown = JSON.stringify(partOf(job, "b").steps[2]);
        job = change(job, edit);
        const after = { b: reports(job, "b"), c: reports(job, "c") };
        // What is its own follows at once; what was brought in stays.
        if (grown === JSON.stringify(partOf(job, "b").steps[2])) expect(after.b).toEqual(before.b);
        expect(after.c).toEqual(before.c);
        const said = linkReports(job, options());
        const fresh = change(job, (draft) => refreshLinks(draft, () => true));
        for (const { part, state, words } of said) {
          const now = reports(fresh, part);
          const was = reports(job, part);
          if (said.every((one) => one.state === "current")) expect(now).toEqual(was);
          expect(["current", "stale"], words).toContain(state);
        }
        expect(linkReports(fresh, options()).map(({ state }) => state)).toEqual(["current", "current"]);
        if (random.next() < 0.5) job = fresh;
        // Refreshed, the wedge of the first stands in the second where it stands in the job.
        const standing = (id: string) => transformOf((partOf(fresh, id).places[0] ?? PLAIN) as never);
        const first = (id: string) => {
          const { results, steps } = built(fresh).get(id)!;
          return (results.get(steps[0]!.key!)!.made[0] as Body).shape;
        };
        const [own, moved] = [first("a"), first("b")];
        expect(volumeOf(moved)).toBeCloseTo(volumeOf(own), 6);
        const [here, there] = [
          movedBy(standing("b"), surfaceCentre(moved)),
          movedBy(standing("a"), surfaceCentre(own)),
        ];
        here.forEach((value, k) => {
          expect(value).toBeCloseTo(there[k]!, 7);
        });
      }
    },
  );
});
