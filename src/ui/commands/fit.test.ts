import { describe, expect, test } from "vitest";
import { TOOLS } from "../workspace/tools";
import { fitOf } from "./fit";

const best = (typed: string) =>
  TOOLS.map((tool) => ({ id: tool.id, fit: fitOf(typed, tool.label, tool.line) }))
    .filter(({ fit }) => fit > 0)
    .sort((a, b) => b.fit - a.fit)
    .map(({ id }) => id);

describe("what is typed finds what is meant", () => {
  test.each([
    ["sh", "shell"],
    ["Shell", "shell"],
    ["block", "box"],
    ["step", "import"],
    ["faces", "draft"],
    ["hollow stock", "seam-subtract"],
    ["offs", "offset-sheet"],
  ])("%s", (typed, id) => expect(best(typed)[0]).toBe(id));

  test("a word that is nowhere finds nothing; marks over letters and spaces do not matter", () => {
    expect(best("zzz")).toEqual([]);
    expect(best("hollow zzz")).toEqual([]);
    expect(fitOf("fusse", "Füsse 2", "")).toBeGreaterThan(0.8);
    expect(fitOf("  2 ", "Füsse 2", "")).toBe(0.7);
    expect(fitOf("", "anything", "")).toBe(1);
  });

  test("letters strewn over a line do not make a find", () =>
    expect(fitOf("sh", "Pipe", "A bar along a path")).toBe(0));
});
