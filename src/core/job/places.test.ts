import { beforeEach, describe, expect, test } from "vitest";
import { movedBy, ofTurn } from "../place";
import {
  checkJob,
  type Job,
  type Part,
  placeEdits,
  removeParameter,
  renameParameter,
  standing,
  standsOf,
  usesOf,
} from ".";

let job: Job;
beforeEach(() => {
  job = checkJob({
    format: "bold-seam-job",
    version: 1,
    name: "T",
    parameters: [{ name: "high", unit: "mm", formula: 30, note: "" }],
    parts: [
      { id: "a", name: "Leg", steps: [{ id: "s1", type: "box" }], names: { "s1:block": "Tube" } },
      { id: "b", name: "Top", steps: [{ id: "in", type: "bring-in", part: "a", items: ["s1"], at: "" }] },
    ],
    fits: [{ one: { part: "a", body: "s1:block" }, other: { part: "b", body: "in:of" }, want: "touch" }],
  });
});
const leg = (): Part => job.parts[0]!;
const at = (place = "") => {
  const found = standing(job, leg(), place);
  if ("problem" in found) throw new Error(found.problem);
  return found.transform;
};

describe("where a part stands", () => {
  test("as it is drawn at first; moved by numbers and formulas; what cannot be worked out says whose place it is", () => {
    expect(movedBy(at(), [1, 2, 3])).toEqual([1, 2, 3]);
    placeEdits.setPlace(job, "a", "", { by: [0, 0, "high / 2"], turn: 90 });
    expect(movedBy(at(), [1, 2, 3])).toEqual([-2, 1, 18]);
    placeEdits.setPlace(job, "a", "", { turn: "high" });
    expect(standing(job, leg())).toEqual({ problem: expect.stringMatching(/^The place of “Leg”: /) });
    expect(standing(job, leg(), "gone")).toEqual({ problem: expect.stringMatching(/no place “gone” any more/) });
  });

  test("by a turn and a move that were worked out, to the last digit that matters", () => {
    const wanted = ofTurn({ about: [10, 0, 5], axis: [0, 0.6, 0.8], angle: 1.234, by: [1, 2, 3] });
    placeEdits.putAt(job, "a", "", wanted);
    const [here, there] = [movedBy(at(), [7, 8, 9]), movedBy(wanted, [7, 8, 9])];
    here.forEach((value, k) => {
      expect(value).toBeCloseTo(there[k]!, 10);
    });
    placeEdits.putAt(job, "a", "", { ...wanted, rows: at("").rows, by: [0, 0, 0] });
    expect(checkJob(structuredClone(job)).parts[0]!.places).toEqual(leg().places);
  });

  test("a parameter in a place is a use of it: renamed with it, and its value stays when it is taken out", () => {
    placeEdits.setPlace(job, "a", "", { by: [0, "high", "high / 2"] });
    expect(usesOf(job, "job", "high")).toEqual([
      { kind: "place", part: "a", place: 0, path: "by.1" },
      { kind: "place", part: "a", place: 0, path: "by.2" },
    ]);
    renameParameter(job, "job", "high", "tall");
    expect(leg().places[0]!.by).toEqual([0, "tall", "tall / 2"]);
    removeParameter(job, "job", "tall");
    expect(leg().places[0]!.by).toEqual([0, "(30 mm)", "(30 mm) / 2"]);
  });
});

describe("copies", () => {
  test("have ids of their own, never one that something still means; removed, what named them says so", () => {
    const first = placeEdits.addCopy(job, "a", { by: [50, 0, 0] });
    const second = placeEdits.addCopy(job, "a", { mirror: "x" });
    expect(standsOf(leg())).toEqual([
      { at: "", name: "Leg" },
      { at: first, name: "Leg 2" },
      { at: second, name: "Leg 3" },
    ]);
    job.fits[0]!.one.at = second;
    placeEdits.removeCopy(job, "a", second);
    expect(placeEdits.addCopy(job, "a", {})).not.toBe(second);
    // The part itself is no copy.
    placeEdits.removeCopy(job, "a", leg().places[0]!.id);
    expect(leg().places).toHaveLength(3);
  });

  test("made a part of its own: what named the copy names that part, where it stood; the other hand ends mirrored", () => {
    const copy = placeEdits.addCopy(job, "a", { by: [50, 0, 0], mirror: "x", name: "Left leg" });
    job.fits[0]!.one.at = copy;
    Object.assign(job.parts[1]!.steps[0]!, { at: copy });
    const own = placeEdits.makeOwn(job, "a", copy, "Left leg", ["s1:block"]);
    const made = job.parts.find(({ id }) => id === own)!;
    expect(made.name).toBe("Left leg");
    expect(made.names).toEqual({ "s1:block": "Tube" });
    expect(made.places).toMatchObject([{ by: [50, 0, 0], mirror: "none" }]);
    expect(made.steps.map(({ type, about, keep }) => [type, about, keep])).toEqual([
      ["box", undefined, undefined],
      ["mirror", "yz", false],
    ]);
    expect(job.fits[0]!.one).toEqual({ part: own, at: "", body: "s1:block" });
    expect(job.parts[1]!.steps[0]).toMatchObject({ part: own, at: "" });
    expect(standsOf(leg())).toHaveLength(1);
    // It no longer follows.
    leg().steps[0]!.size = [1, 1, 1];
    expect(made.steps[0]!.size).not.toEqual([1, 1, 1]);
    expect(() => checkJob(structuredClone(job))).not.toThrow();
  });
});
