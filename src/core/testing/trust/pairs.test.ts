import { writeFileSync } from "node:fs";
import Module from "manifold-3d";
import { beforeAll, expect, test } from "vitest";
import { loadNodeKernel } from "../../kernel/library/node";
import { type PairVerdict, tryPair } from "./pairs";
import { Random } from "./random";

let engine: Awaited<ReturnType<typeof Module>>;
beforeAll(async () => {
  await loadNodeKernel();
  engine = await Module();
  engine.setup();
});

/** How many pairs are tried: a sample on every run, all of them by `npm run proof`. */
const PAIRS = Number(process.env.PROOF_PAIRS ?? 16);
const SEED = Number(process.env.PROOF_SEED ?? 1128);

test(`${PAIRS} pairs of simple solids: right, or refused`, () => {
  const verdicts: PairVerdict[] = [];
  for (let i = 0; i < PAIRS; i++) verdicts.push(tryPair(new Random(SEED + i), engine));
  const count = (outcome: PairVerdict["outcome"]) => verdicts.filter((verdict) => verdict.outcome === outcome).length;
  if (process.env.PROOF_OUT) writeFileSync(process.env.PROOF_OUT, JSON.stringify(verdicts));
  console.log(
    `pairs: ${PAIRS}; right ${count("right")}, told ${count("told")}, refused ${count("refused")}, wrong ${count("wrong")}`,
  );
  const wrong = verdicts.filter(({ outcome }) => outcome === "wrong");
  expect(wrong.map(({ family, why, steps }) => `${family}: ${why}: ${JSON.stringify(steps)}`)).toEqual([]);
});
