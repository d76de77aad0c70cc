import { describe, expect, test } from "vitest";
import { jobOf } from "../testing/harness";
import {
  edits,
  emptyJob,
  groupRuns,
  keptOf,
  lookEdits,
  materialOf,
  STANDARD_MATERIALS,
  sheetEdits,
  upgradeJob,
} from ".";

const part = () =>
  jobOf([
    { id: "a", type: "box", size: [1, 2, 3], name: "Block" },
    { id: "b", type: "sphere", diameter: "wide * 2" },
    { id: "c", type: "workplane" },
    { id: "d", type: "workplane" },
  ]).parts[0]!;
const order = (p: ReturnType<typeof part>) => p.steps.map(({ id }) => id);

describe("looks, groups and notes of bodies", () => {
  const body = (id: string, ...was: string[]) => ({ id, was });

  test("a look is kept, changed and forgotten again when nothing of it is left", () => {
    const p = part();
    lookEdits.setLook(p, body("a:block"), { colour: "clay", clear: true });
    lookEdits.setLook(p, body("a:block"), { colour: "clay", material: "Steel", clear: false });
    expect(p.looks).toEqual({ "a:block": { colour: "clay", material: "Steel" } });
    lookEdits.setLook(p, body("a:block"), {});
    expect(p.looks).toEqual({});
  });

  test("of two pieces of one body, each can look otherwise, and plain", () => {
    const p = part();
    lookEdits.setLook(p, body("a:block"), { colour: "clay" });
    const [one, two] = [body("s:1", "a:block"), body("s:2", "a:block")];
    lookEdits.setLook(p, one, {});
    expect([keptOf(p.looks, one), keptOf(p.looks, two)]).toEqual([{}, { colour: "clay" }]);
  });

  test("a body that was changed has the look that it had before", () => {
    const kept = { "a:block": { colour: "moss" as const } };
    expect(keptOf(kept, { id: "s:x", was: ["r:y", "a:block"] })).toEqual({ colour: "moss" });
    expect(keptOf(kept, { id: "z", was: [] })).toBeUndefined();
  });

  test("a body is in one group; empty groups go; what came of the same body stays where it is", () => {
    const p = part();
    lookEdits.setGroup(p, body("a:block"), [], "Frame");
    lookEdits.setGroup(p, body("b:sphere"), [], "Frame");
    expect(p.groups).toEqual([{ name: "Frame", bodies: ["a:block", "b:sphere"] }]);
    const [one, two] = [body("s:1", "a:block"), body("s:2", "a:block")];
    lookEdits.setGroup(p, one, [two, body("b:sphere")], "Feet");
    expect(p.groups).toEqual([
      { name: "Frame", bodies: ["s:2", "b:sphere"] },
      { name: "Feet", bodies: ["s:1"] },
    ]);
    lookEdits.setGroup(p, body("b:sphere"), [one, two], null);
    lookEdits.setGroup(p, two, [one], null);
    expect(p.groups).toEqual([{ name: "Feet", bodies: ["s:1"] }]);
  });

  test("notes are added, changed, and deleted by leaving nothing in them", () => {
    const p = part();
    lookEdits.setNote(p, { id: "n1", body: "a:block", text: "Ream after welding" });
    lookEdits.setNote(p, { id: "n1", body: "a:block", text: "Ream" });
    expect(p.notes).toEqual([{ id: "n1", body: "a:block", text: "Ream" }]);
    lookEdits.setNote(p, { id: "n1", body: "a:block", text: " " });
    expect(p.notes).toEqual([]);
  });

  test("a job's own material stands before one of the same name", () => {
    const job = { ...emptyJob("J"), materials: [{ name: "steel", density: 7.7 }] };
    expect(materialOf(job, "Steel")!.density).toBe(7.7);
    expect(materialOf(emptyJob("J"), "Steel")!.density).toBe(7.85);
    expect(materialOf(job, "Unobtainium")).toBeUndefined();
    expect(new Set(STANDARD_MATERIALS.map(({ name }) => name)).size).toBe(STANDARD_MATERIALS.length);
  });

  test("jobs of an earlier release have none, and are read all the same", () => {
    const old = JSON.parse(JSON.stringify(jobOf([{ id: "a", type: "box", size: [1, 2, 3] }])));
    delete old.materials;
    for (const key of ["looks", "groups", "notes"]) delete old.parts[0][key];
    expect(upgradeJob(old)).toMatchObject({ materials: [], parts: [{ looks: {}, groups: [], notes: [] }] });
  });

  test.each([
    [
      "two groups of one name",
      {
        groups: [
          { name: "A", bodies: [] },
          { name: "A", bodies: [] },
        ],
      },
      "two groups are called “A”",
    ],
    ["an unknown colour", { looks: { x: { colour: "mauve" } } }, "looks"],
    ["an empty note", { notes: [{ id: "n", body: "b", text: " " }] }, "must not be empty"],
  ])("%s: refused", (_name, more, words) => {
    const parts = [{ id: "p", name: "P", steps: [], ...more }];
    expect(() => jobOf([], { parts })).toThrow(words);
  });
});

describe("copies and groups of steps", () => {
  test("a copy stands after its original, with all its values and formulas, under an id of its own", () => {
    const p = part();
    const id = sheetEdits.copyStep(p, "b", jobOf([]));
    expect(order(p)).toEqual(["a", "b", id, "c", "d"]);
    expect(p.steps[2]).toMatchObject({ type: "sphere", diameter: "wide * 2" });
    sheetEdits.copyStep(p, "a", jobOf([]));
    expect(p.steps[1]).toMatchObject({ type: "box", name: "Block copy" });
  });

  test("at the hold point the copy is built, too", () => {
    const p = part();
    edits.setHold(p, "b");
    expect(p.hold).toBe("b");
    expect(sheetEdits.copyStep(p, "b", jobOf([]))).toBe(p.hold);
  });

  test("steps beside each other fold up together; a step moved in joins, one moved out leaves", () => {
    const p = part();
    for (const id of ["a", "b"]) sheetEdits.groupStep(p, id, "Stock");
    expect(groupRuns(p.steps)).toEqual([{ name: "Stock", ids: ["a", "b"] }]);
    edits.moveStep(p, "d", 1);
    expect(groupRuns(p.steps)).toEqual([{ name: "Stock", ids: ["a", "d", "b"] }]);
    edits.moveStep(p, "a", 3);
    expect(groupRuns(p.steps)).toEqual([{ name: "Stock", ids: ["d", "b"] }]);
    expect(p.steps[3]!.group).toBeUndefined();
    sheetEdits.renameGroup(p, ["d", "b"], "Blanks");
    expect(groupRuns(p.steps)).toEqual([{ name: "Blanks", ids: ["d", "b"] }]);
    sheetEdits.renameGroup(p, ["d", "b"], " ");
    expect(groupRuns(p.steps)).toEqual([]);
  });
});
