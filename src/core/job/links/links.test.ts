import { describe, expect, test } from "vitest";
import { applyChange, checkJob, type Job, linkOf, makeChange, type Part, refreshLinks, removePart } from "..";

type Step = Record<string, unknown>;
const block = (id: string, x = 40): Step => ({ id, type: "box", size: [x, 30, 20] });
const bring = (part: string, items: string[], more: Step = {}): Step => ({
  id: "in",
  type: "bring-in",
  part,
  items,
  ...more,
});

const jobOf = (parts: Record<string, Step[]>, more: Record<string, unknown> = {}): Job =>
  checkJob({
    format: "bold-seam-job",
    version: 1,
    name: "Test",
    follow: false,
    parts: Object.entries(parts).map(([id, steps]) => ({ id, name: id.toUpperCase(), steps })),
    ...more,
  });

const partOf = (job: Job, id: string): Part => job.parts.find((part) => part.id === id)!;
const link = (job: Job, part: string, step = "in") => linkOf(partOf(job, part).steps.find(({ id }) => id === step)!)!;
const change = (job: Job, edit: (draft: Job) => void): Job => {
  const made = makeChange(job, "Test", edit)!;
  // What is sent as patches is a valid job, and as it was made; and undone it is as it was.
  const sent = applyChange(job, made.change.patches);
  expect(sent.job).toEqual(made.job);
  expect(applyChange(sent.job, sent.inverse).job).toEqual(job);
  return checkJob(structuredClone(made.job));
};
const keptSizes = (job: Job, part: string) => {
  const { taken } = link(job, part);
  return taken ? job.kept[taken.as]!.parts[0]!.steps.map((step) => (step.size as number[])?.[0]) : null;
};
const resize =
  (x: number, part = "a") =>
  (draft: Job) => {
    (partOf(draft, part).steps[0]!.size as number[])[0] = x;
  };

describe("what was brought in, after an edit", () => {
  test("is taken when it is picked, as it is then, and stays when what it is of is changed", () => {
    let job = jobOf({ a: [block("x")], b: [] });
    job = change(job, (draft) => void partOf(draft, "b").steps.push(checkStep(bring("a", ["x"]))));
    expect(keptSizes(job, "b")).toEqual([40]);
    job = change(job, resize(50));
    expect(keptSizes(job, "b")).toEqual([40]);
    job = change(job, (draft) => refreshLinks(draft, () => true));
    expect(keptSizes(job, "b")).toEqual([50]);
    expect(Object.keys(job.kept)).toHaveLength(1);
  });

  test("what was never taken, as in a job written by hand, is taken as it was before the edit", () => {
    const job = change(jobOf({ a: [block("x")], b: [bring("a", ["x"])] }), resize(50));
    expect(keptSizes(job, "b")).toEqual([40]);
  });

  test("where the job follows nothing is kept; told to stay, it is taken; told to follow again, it is let go of", () => {
    let job = jobOf({ a: [block("x")], b: [bring("a", ["x"])] }, { follow: true });
    job = change(job, resize(50));
    expect(link(job, "b").taken).toBeNull();
    expect(job.kept).toEqual({});
    job = change(job, (draft) => void Object.assign(draft, { follow: false }));
    expect(keptSizes(job, "b")).toEqual([50]);
    job = change(job, resize(60));
    job = change(job, (draft) => void Object.assign(draft, { follow: true }));
    expect(link(job, "b").taken).toBeNull();
    expect(job.kept).toEqual({});
  });

  test("a copy of its own stays in a job that follows, too, and is no link: what it is of may be made of its part", () => {
    let job = jobOf({ a: [block("x")], b: [bring("a", ["x"], { loose: true })] }, { follow: true });
    job = change(job, (draft) => void Object.assign(draft, { name: "Other" }));
    job = change(job, resize(50));
    expect(keptSizes(job, "b")).toEqual([40]);
    // Refreshing is for links.
    expect(makeChange(job, "Test", (draft) => refreshLinks(draft, () => true))).toBeNull();
    // Linked again, it follows.
    job = change(job, (draft) => void Object.assign(link(draft, "b"), { loose: false }));
    expect(link(job, "b").taken).toBeNull();
  });

  test.each<[string, (draft: Job) => void]>([
    ["its part is deleted", (draft) => removePart(draft, "a")],
    ["the step that makes it is deleted", (draft) => void partOf(draft, "a").steps.splice(0, 1)],
    [
      "the step that makes it is left out",
      (draft) => void Object.assign(partOf(draft, "a").steps[0]!, { suppressed: true }),
    ],
    ["the hold point is moved above it", (draft) => void Object.assign(partOf(draft, "a"), { hold: "first" })],
  ])("the last good copy is kept when %s, whether the job follows or not", (_, edit) => {
    for (const follow of [true, false]) {
      const steps = [{ id: "first", type: "sphere" }, block("x")];
      const job = jobOf({ a: _.includes("hold") ? steps : [block("x")], b: [bring("a", ["x"])], c: [] }, { follow });
      const gone = change(job, edit);
      expect(link(gone, "b").taken).not.toBeNull();
      expect(gone.kept[link(gone, "b").taken!.as]!.parts[0]!.name).toBe("A");
      if (!follow) continue;
      // Back again, it follows again.
      const back = change(gone, (draft) => {
        draft.parts = structuredClone(job.parts).map((part) => (part.id === "b" ? partOf(draft, "b") : part)) as Part[];
      });
      expect(link(back, "b").taken).toBeNull();
    }
  });

  test("pointed at another body it is taken anew", () => {
    let job = jobOf({ a: [block("x"), block("y", 7)], b: [bring("a", ["x"])] });
    job = change(job, resize(50));
    job = change(job, (draft) => void Object.assign(link(draft, "b"), { items: ["y"] }));
    expect(keptSizes(job, "b")).toEqual([50, 7]);
  });

  test("where a part stands is part of it: moved, what it gave lies where it lay", () => {
    let job = jobOf({ a: [block("x")], b: [bring("a", ["x"])] });
    job = change(job, (draft) => void Object.assign(draft, { name: "Other" }));
    const before = link(job, "b").taken!;
    const place = {
      id: "p",
      by: [100, 0, 0] as [number, number, number],
      turn: 0,
      axis: [0, 0, 1] as never,
      mirror: "none" as const,
    };
    job = change(job, (draft) => void partOf(draft, "a").places.push(place));
    expect(link(job, "b").taken).toEqual(before);
    job = change(job, (draft) => refreshLinks(draft, () => true));
    expect(link(job, "b").taken!.lies.slice(9)).toEqual([100, 0, 0]);
    job = change(job, (draft) => void partOf(draft, "b").places.push({ ...place, by: [0, 5, 0] }));
    expect(link(job, "b").taken!.lies.slice(9)).toEqual([100, 0, 0]);
    job = change(job, (draft) => refreshLinks(draft, () => true));
    expect(link(job, "b").taken!.lies.slice(9)).toEqual([100, -5, 0]);
  });

  test("through others: what is taken of a part that takes of others is kept with that, and all is refreshed in the order of need", () => {
    let job = jobOf({ c: [bring("b", ["in"])], b: [bring("a", ["x"])], a: [block("x")] });
    job = change(job, (draft) => void Object.assign(draft, { name: "Other" }));
    job = change(job, resize(50));
    expect(Object.keys(job.kept)).toHaveLength(2);
    job = change(job, (draft) => refreshLinks(draft, () => true));
    const ofB = job.kept[link(job, "c").taken!.as]!.parts[0]!;
    expect(linkOf(ofB.steps[0]!)!.taken).toEqual(link(job, "b").taken);
    expect(keptSizes(job, "b")).toEqual([50]);
    expect(Object.keys(job.kept)).toHaveLength(2);
    // One of them alone.
    job = change(job, resize(60));
    job = change(job, (draft) => refreshLinks(draft, (part) => part.id === "c"));
    expect(keptSizes(job, "b")).toEqual([50]);
  });

  test("only the parameters that it uses are kept with it", () => {
    const parameters = [
      { name: "width", unit: "mm", formula: "half * 2", note: "" },
      { name: "half", unit: "mm", formula: "20", note: "" },
      { name: "other", unit: "mm", formula: "20", note: "" },
    ];
    let job = jobOf({ a: [{ id: "x", type: "box", size: ["width", 30, 20] }], b: [bring("a", ["x"])] }, { parameters });
    job = change(job, (draft) => void Object.assign(draft.parameters[1]!, { formula: "30" }));
    expect(job.kept[link(job, "b").taken!.as]!.parameters.map(({ name, formula }) => [name, formula])).toEqual([
      ["width", "half * 2"],
      ["half", "20"],
    ]);
  });

  test("a job that says that something is kept, and keeps nothing, is refused with the place", () => {
    const taken = { as: "k1", lies: [1, 0, 0, 0, 1, 0, 0, 0, 1, 0, 0, 0] };
    expect(() => jobOf({ a: [block("x")], b: [bring("a", ["x"], { taken })] })).toThrow(
      "The job cannot be used. Part 2 “B”, step 1 “in”, “taken”: “k1” is not kept in the job.",
    );
  });
});

function checkStep(step: Step) {
  return jobOf({ a: [block("x")], b: [step] }).parts[1]!.steps[0]!;
}
