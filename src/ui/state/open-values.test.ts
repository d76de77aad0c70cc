import { describe, expect, test } from "vitest";
import { checkJob, freshStepId, newStep, type Step } from "@/core/job";
import { EMPTY_SCOPE } from "@/core/params";
import { jobOf } from "@/core/testing/harness";
import type { PieceView } from "@/engine/contract";
import { inverted, rulesFor } from "./fates";
import { problemsOf, withOpenStep } from "./open-values";

describe("the open step", () => {
  const job = () =>
    jobOf([
      { id: "s1", type: "box" },
      { id: "s2", type: "sphere" },
    ]);

  test("a new step has its type's defaults and an id of its own", () => {
    const step = newStep(freshStepId(job().parts[0]!, job()), "cylinder");
    expect(step).toMatchObject({ id: "s3", type: "cylinder", diameter: 50, height: 100, suppressed: false });
    expect(problemsOf(step, EMPTY_SCOPE)).toEqual({});
    expect(problemsOf(newStep("s9", "import"), EMPTY_SCOPE)).toHaveProperty("file");
  });

  test("problems are told by field", () => {
    const step: Step = { ...newStep("s3", "box"), size: ["width", "12 parsecs", -2] };
    expect(problemsOf(step, EMPTY_SCOPE)["size.0"]).toContain("There is no parameter “width”");
    expect(problemsOf(step, EMPTY_SCOPE)["size.1"]).toContain("“parsecs” is not a unit known here");
    expect(problemsOf(step, EMPTY_SCOPE)["size.2"]).toContain("has to be more than 0 mm");
  });

  test("a new draft stands at the hold point, an open one in its own place, and the job is left alone", () => {
    const before = job();
    before.parts[0]!.hold = "s1";
    const draft = withOpenStep(before, "part", { step: newStep("s3", "sphere"), isNew: true });
    expect(draft.parts[0]!.steps.map((step) => step.id)).toEqual(["s1", "s3", "s2"]);
    const changed = withOpenStep(before, "part", {
      step: { ...before.parts[0]!.steps[0]!, anchor: "centre" },
      isNew: false,
    });
    expect(changed.parts[0]!.steps[0]).toMatchObject({ id: "s1", anchor: "centre" });
    expect(before.parts[0]!.steps.map((step) => step.id)).toEqual(["s1", "s2"]);
    expect(() => checkJob(JSON.parse(JSON.stringify(draft)))).not.toThrow();
  });
});

describe("fates of pieces", () => {
  const piece = (index: number, fate: "keep" | "scrap", preset: "keep" | "scrap" = fate): PieceView =>
    ({
      index,
      key: `k${index}`,
      kind: `kind ${index}`,
      faces: [`f${index}`],
      fate: { fate },
      preset: { fate: preset },
      centre: [index, 0, 0],
    }) as unknown as PieceView;

  test("a rule is written only where the fate differs from the preset's", () => {
    const pieces = [piece(0, "keep"), piece(1, "scrap", "keep"), piece(2, "scrap")];
    expect(rulesFor(pieces, (entry) => entry.fate)).toEqual([
      { piece: { kind: "kind 1", faces: ["f1"], at: [1, 0, 0] }, fate: "scrap" },
    ]);
  });

  test("inverting twice is as before; groups stay", () => {
    expect(inverted(piece(0, "keep"))).toEqual({ fate: "scrap" });
    expect(inverted(piece(0, "scrap"))).toEqual({ fate: "keep" });
    const grouped = { ...piece(0, "keep"), fate: { fate: "group", group: "Lid" } } as PieceView;
    expect(inverted(grouped)).toEqual({ fate: "group", group: "Lid" });
    expect(rulesFor([grouped], inverted)).toMatchObject([{ fate: "group", group: "Lid" }]);
  });
});
