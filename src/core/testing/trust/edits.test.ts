import { writeFileSync } from "node:fs";
import { beforeAll, expect, test } from "vitest";
import { loadNodeKernel } from "../../kernel/library/node";
import { tryEdit, type Verdict } from "./edits";
import { Random } from "./random";

beforeAll(loadNodeKernel);

/** How many edits are tried: a sample on every run, all of them by `npm run proof`. */
const EDITS = Number(process.env.PROOF_EDITS ?? 10);
const SEED = Number(process.env.PROOF_SEED ?? 20261128);

test(`what is said of a piece stays with it or is asked, over ${EDITS} edits by chance`, () => {
  const verdicts: Verdict[] = [];
  for (let i = 0; i < EDITS; i++) verdicts.push(...tryEdit(new Random(SEED + i)));
  const count = (outcome: Verdict["outcome"]) => verdicts.filter((verdict) => verdict.outcome === outcome).length;
  const wrong = verdicts.filter(({ outcome }) => outcome === "wrong");
  if (process.env.PROOF_OUT) writeFileSync(process.env.PROOF_OUT, JSON.stringify(verdicts));
  console.log(
    `pieces: ${EDITS} edits; right ${count("right")}, asked ${count("asked")}, wrong ${count("wrong")}, not to be told ${count("skipped")}`,
  );
  expect(wrong.map(({ scene, what, why }) => `${scene}: ${what}: ${why}`)).toEqual([]);
});
