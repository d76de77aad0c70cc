import { readFileSync } from "node:fs";
import path from "node:path";
import { expect, test } from "vitest";
import { STEP_TYPES } from "@/core/steps";
import { stepsPage } from "./steps-page";

const docs = path.join(import.meta.dirname, "..", "..", "docs");

test("docs/steps.md is what the kinds of steps declare: after a change, npm run -s job -- steps > docs/steps.md", () => {
  expect(readFileSync(path.join(docs, "steps.md"), "utf8").trim()).toBe(stepsPage().trim());
});

test("every kind of step and every value of it stands in the page, with what it is", () => {
  const page = stepsPage();
  for (const { type, schema } of STEP_TYPES) {
    const section = page.split(`## ${type}\n`)[1]!.split("\n## ")[0]!;
    for (const key of Object.keys((schema as unknown as { shape: object }).shape))
      expect(section, `${type}.${key}`).toMatch(new RegExp(`^\\| \`${key}\` \\| [^|]*[a-z)][^|]* \\|`, "m"));
  }
});

test("docs/job-format.md says of every kind of step what it makes", () => {
  const text = readFileSync(path.join(docs, "job-format.md"), "utf8");
  for (const { type } of STEP_TYPES) expect(text, type).toMatch(new RegExp(`^\\| \`${type}\` \\| \\S`, "m"));
});
