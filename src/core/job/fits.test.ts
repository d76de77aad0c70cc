import { describe, expect, test } from "vitest";
import { jobOf } from "../testing/harness";
import { checkJob, freshStepId, removeParameter, renameParameter, usesOf, wantFit } from ".";

const end = (body: string) => ({ part: "part", at: "", body });
const pair = (one: string, other: string, fit: number | null = null) => ({ one: end(one), other: end(other), fit });

describe("fits that are wanted between bodies", () => {
  const job = () => jobOf([], { parameters: [{ name: "gap", unit: "mm", formula: 0.2, note: "" }] });

  test("said once for two bodies, whichever is named first; changed, and taken back", () => {
    const draft = job();
    wantFit(draft, pair("a:block", "b:block"), { want: "gap", least: "gap" });
    wantFit(draft, pair("b:block", "a:block"), { least: 0.5 });
    expect(draft.fits).toEqual([{ one: end("b:block"), other: end("a:block"), want: "gap", least: 0.5, most: 0 }]);
    wantFit(draft, pair("a:block", "c:block"), { want: "touch" });
    expect(draft.fits).toHaveLength(2);
    expect(checkJob(structuredClone(draft)).fits).toEqual(draft.fits);
    wantFit(draft, pair("a:block", "b:block"), null);
    expect(draft.fits.map(({ want }) => want)).toEqual(["touch"]);
    wantFit(draft, pair("a:block", "b:block"), null);
    expect(draft.fits).toHaveLength(1);
  });

  test("a body that was changed goes by its new id from then on", () => {
    const draft = job();
    wantFit(draft, pair("a:block", "b:block"), { want: "gap", least: 1 });
    wantFit(draft, pair("s:1a2b", "b:block", 0), { least: 2 });
    expect(draft.fits).toEqual([{ one: end("s:1a2b"), other: end("b:block"), want: "gap", least: 2, most: 0 }]);
  });

  test("a parameter in one is a use of it: renamed with it, and its value stays when it is taken out", () => {
    const draft = job();
    wantFit(draft, pair("a:block", "b:block"), { want: "press", least: "gap / 2", most: "gap" });
    expect(usesOf(draft, "job", "gap")).toEqual([
      { kind: "fit", place: 0, of: "least" },
      { kind: "fit", place: 0, of: "most" },
    ]);
    renameParameter(draft, "job", "gap", "play");
    expect(draft.fits[0]).toMatchObject({ least: "play / 2", most: "play" });
    removeParameter(draft, "job", "play");
    expect(draft.fits[0]).toMatchObject({ least: "(0.2 mm) / 2", most: "(0.2 mm)" });
  });

  test("a step that is new is not called as one that a fit means, nor as one that another part brings in from", () => {
    const draft = jobOf([{ id: "s1", type: "box" }]);
    const part = draft.parts[0]!;
    expect(freshStepId(part, draft)).toBe("s2");
    wantFit(draft, pair("s1:block", "s6:block"), { want: "gap" });
    expect(freshStepId(part, draft)).toBe("s7");
    const other = { ...structuredClone(part), id: "other", steps: [] as typeof part.steps };
    other.steps.push({ id: "s1", type: "bring-in", suppressed: true, part: "part", items: ["s9:block"] });
    draft.parts.push(other);
    expect(freshStepId(part, draft)).toBe("s10");
    // What is said of a body of another part is none of this one's.
    expect(freshStepId(other, draft)).toBe("s10");
    wantFit(
      draft,
      { one: { part: "gone", at: "", body: "s50:block" }, other: end("s1:block"), fit: null },
      { want: "gap" },
    );
    expect(freshStepId(other, draft)).toBe("s10");
  });

  test("what is refused: less than nothing, and what is no fit", () => {
    const fit = { one: end("a"), other: end("b"), want: "gap" };
    for (const bad of [
      { ...fit, least: -1 },
      { ...fit, want: "glue" },
      { ...fit, other: { body: "b" } },
      { ...fit, x: 1 },
    ])
      expect(() => checkJob({ ...jobOf([]), fits: [bad] })).toThrow();
  });
});
