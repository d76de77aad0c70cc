import { expect, test } from "vitest";
import { hearingStages, tellStage } from "./stage";

test("whoever does the work hears what it tells, and nobody else; also after it failed", () => {
  const [outer, inner]: [string[], string[]] = [[], []];
  tellStage("to nobody");
  hearingStages(
    (words) => outer.push(words),
    () => {
      tellStage("before");
      expect(() =>
        hearingStages(
          (words) => inner.push(words),
          () => {
            tellStage("within");
            throw new Error("failed");
          },
        ),
      ).toThrow("failed");
      hearingStages(null, () => tellStage("unheard"));
      tellStage("after");
    },
  );
  tellStage("to nobody");
  expect([outer, inner]).toEqual([["before", "after"], ["within"]]);
});
