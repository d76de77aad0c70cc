import { writeFileSync } from "node:fs";
import Module from "manifold-3d";
import { beforeAll, expect, test } from "vitest";
import { loadNodeKernel } from "../../kernel/library/node";
import { holdPair, type PairVerdict, tryPair } from "./pairs";
import { Random } from "./random";

let engine: Awaited<ReturnType<typeof Module>>;
beforeAll(async () => {
  await loadNodeKernel();
  engine = await Module();
  engine.setup();
});

/** How many pairs are tried: a sample on every run, all of them by `npm run proof`. */
const PAIRS = Number(process.env.PROOF_PAIRS ?? 10);
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

// Nearly the same: all faces are too near to tell what lies in what, the insides are not. Once said to touch without sharing space.
test.each([
  { type: "torus", diameter: 43.114, section: 8.483, turn: 0.1, axis: "x" },
  { type: "cone", diameter: 29.215, top: 0.491, height: 14.369, turn: 1e-5, axis: "y" },
])("a $type and the same turned by $turn°: right, or refused", ({ turn, axis, ...solid }) => {
  const steps = [
    { id: "a", ...solid },
    { id: "b", ...solid },
    { id: "bm", type: "move", bodies: ["b"], turn, axis },
  ];
  expect(holdPair("nearlySame", steps, engine)).not.toMatchObject({ outcome: "wrong" });
});

// The union is closed, and the library's own check finds faces of it that run into each other: it was let through as it was.
test("a bar and the same a millionth of a millimetre aside and along: right, or refused", () => {
  const bar = { type: "cylinder", diameter: 47.733, height: 22.694, axis: "y" };
  const steps = [
    { id: "a", ...bar, at: [0, 0, 0] },
    { id: "b", ...bar, at: [-1e-6, -1e-6, 0] },
  ];
  expect(holdPair("nearlySame", steps, engine)).not.toMatchObject({ outcome: "wrong" });
});
