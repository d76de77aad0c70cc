import fc from "fast-check";
import type { Patch } from "immer";
import { describe, expect, test } from "vitest";
import { messageOf } from "../testing/harness";
import { applyChange, makeChange } from "./changes";
import { emptyJob, emptyPart } from "./document";

const job = () => {
  const made = makeChange(emptyJob("J"), "steps", (draft) => {
    draft.parts = [emptyPart("p", "P")];
    draft.parts[0]!.steps.push({ id: "a", type: "box", suppressed: false } as never);
  })!;
  return applyChange(emptyJob("J"), made.change.patches).job;
};

describe("patches that have no place", () => {
  test.each<[string, Patch]>([
    ["a list made long", { op: "replace", path: ["parts", 0, "steps", "length"], value: 4_000_000_000 }],
    ["a far place in a list", { op: "add", path: ["parts", 0, "steps", 4_000_000_000], value: {} }],
    ["a far place set", { op: "replace", path: ["parts", 0, "steps", 900_000], value: {} }],
    ["a list in what is none", { op: "add", path: ["name", "length"], value: 5 }],
    ["through what is not there", { op: "add", path: ["parts", 7, "steps", 0], value: {} }],
    ["the whole", { op: "replace", path: [], value: {} }],
    ["the roots of objects", { op: "add", path: ["parts", "constructor", "x"], value: 1 }],
  ])("%s", (_name, patch) => {
    expect(messageOf(() => applyChange(job(), [patch]))).toContain("does not fit this job");
  });

  test("whatever comes, a job or a sentence comes of it", () => {
    const key = fc.oneof(fc.constantFrom("parts", "steps", "length", "name", "id"), fc.integer({ min: 0, max: 9e8 }));
    const patch = fc.record({
      op: fc.constantFrom("add" as const, "replace" as const, "remove" as const),
      path: fc.array(key, { maxLength: 6 }),
      value: fc.oneof(fc.integer(), fc.string(), fc.constant([]), fc.constant({})),
    });
    fc.assert(
      fc.property(fc.array(patch, { minLength: 1, maxLength: 4 }), (patches) => {
        const before = job();
        try {
          applyChange(before, patches);
        } catch (cause) {
          expect((cause as Error).name).toBe("SeamError");
        }
        expect(before).toEqual(job());
      }),
      { numRuns: 300, seed: 9 },
    );
  });

  test("what the interface makes fits: a list shortened, moved and added to", () => {
    const made = makeChange(job(), "more", (draft) => {
      const { steps } = draft.parts[0]!;
      steps.push({ id: "b", type: "box", suppressed: false } as never);
      steps.push({ id: "c", type: "box", suppressed: false } as never);
      steps.reverse();
      steps.splice(1, 1);
    })!;
    expect(applyChange(job(), made.change.patches).job.parts[0]!.steps.map(({ id }) => id)).toEqual(["c", "a"]);
  });
});
