import { describe, expect, test } from "vitest";
import { SketchEdit } from "../sketch";
import { jobOf } from "../testing/harness";
import { addPart, edits, freshStepId, namesUsed, removePart } from ".";

const box = (id: string) => ({ id, type: "box" });
const cut = (id: string, stock: string) => ({ id, type: "seam", preset: "split", stock: [stock], cutters: [] });

describe("what comes in is never called as something that is gone and that is still meant", () => {
  test("steps: by what picks it, by the name and the note of what it made", () => {
    const job = jobOf([box("s1"), box("s2"), box("s3"), cut("s4", "s3:block")]);
    const part = job.parts[0]!;
    for (const id of ["s3", "s2"]) edits.removeStep(part, id);
    expect(freshStepId(part, job)).toBe("s5");
    part.steps.pop();
    // Nothing means s3 and s4 any more: they may be had again.
    expect(freshStepId(part, job)).toBe("s2");
    part.names["s7:block"] = "Lid";
    expect(freshStepId(part, job)).toBe("s8");
  });

  test("parts: by what brings something in from one", () => {
    const job = jobOf([box("s1")]);
    const second = addPart(job, "Second");
    const third = addPart(job, "Third");
    job.parts[0]!.steps.push({ id: "s2", type: "bring-in", suppressed: false, part: third, items: ["s1:block"] });
    removePart(job, third);
    expect(job.parts.map(({ id }) => id)).toEqual(["part", second]);
    expect(addPart(job, "Fourth")).not.toBe(third);
    for (const { id } of [...job.parts]) removePart(job, id);
    expect(job.parts).toHaveLength(1);
  });

  test("curves: by the name of a face that one made", () => {
    const job = jobOf([
      { id: "k", type: "sketch", entities: [] },
      { id: "f", type: "fillet", edges: [{ body: "x:solid", edge: "x:cap:end|x:side:l2" }], radius: 1 },
    ]);
    const edit = new SketchEdit({ entities: [], constraints: [], dimensions: [], reserved: namesUsed(job.parts[0]!) });
    expect([edit.fresh("l"), edit.fresh("l"), edit.fresh("l")]).toEqual(["l1", "l3", "l4"]);
    // It holds on through what is made of it.
    expect(new SketchEdit(edit.parts).fresh("l")).toBe("l1");
    expect(new SketchEdit(edit.parts).reserved.has("l2")).toBe(true);
  });
});
