import { writeFileSync } from "node:fs";
import Module from "manifold-3d";
import { beforeAll, expect, test } from "vitest";
import { loadNodeKernel } from "../../kernel/library/node";
import { sampled } from "../sample";
import { type MixedVerdict, tryMixed } from "./mixed";
import { Random } from "./random";

let engine: Awaited<ReturnType<typeof Module>>;
beforeAll(async () => {
  await loadNodeKernel();
  engine = await Module();
  engine.setup();
});

/** How many scenes are tried: a sample on every run, all of them by `npm run proof`. */
const SCENES = Number(process.env.PROOF_MIXED ?? 4);
const SEED = Number(process.env.PROOF_SEED ?? 1130);

test(`${SCENES} solids divided by solids, planes, round faces and drawings: each cell as its cutters say`, () => {
  const verdicts: MixedVerdict[] = [];
  for (let i = 0; i < SCENES; i++) verdicts.push(tryMixed(new Random(SEED + i), engine));
  const count = (outcome: MixedVerdict["outcome"]) => verdicts.filter((verdict) => verdict.outcome === outcome).length;
  if (process.env.PROOF_OUT) writeFileSync(process.env.PROOF_OUT, JSON.stringify(verdicts));
  const reasons = verdicts.flatMap(({ outcome, why }) => (outcome === "refused" ? [why] : []));
  console.log(
    `mixed: ${SCENES} scenes; right ${count("right")}, refused ${count("refused")} (${[...new Set(reasons)].join(", ")}), wrong ${count("wrong")}`,
  );
  const wrong = verdicts.filter(({ outcome }) => outcome === "wrong");
  expect(wrong.map(({ why, steps }) => `${why}: ${JSON.stringify(steps)}`)).toEqual([]);
  // A cutter that misses all of the stock is refused where it is the only one. What the library cannot divide is said, and is rare.
  expect(reasons.filter((why) => why !== "cutter-misses" && why !== "division-failed")).toEqual([]);
  expect(reasons.filter((why) => why === "division-failed").length).toBeLessThanOrEqual(Math.floor(SCENES / 50));
});

// Cutters that are tangent to each other beside the stock, and one that is divided badly where it is not in it: both refused once.
test.each(sampled([30113011, 30113009], 2))(
  "what cutters do to each other elsewhere is nobody's concern (%i)",
  (seed) => {
    expect(tryMixed(new Random(seed), engine).outcome).toBe("right");
  },
);

// A plane that touches the ball, one that touches the bore, and the bore: triangles at the cusp do not close, and the pieces are sound.
test("what touches without cutting is no reason to refuse", () => {
  expect(tryMixed(new Random(30116483), engine).outcome).toBe("right");
});

// A round knife whose skin comes to lie along a bore's: the pieces hold 4e-6 too much together, and it is told to how much they are right.
test("what is not exact says to how much it is right", () => {
  const { outcome, why } = tryMixed(new Random(15_000_424), engine);
  expect(why).toBe("");
  expect(outcome).toBe("right");
});
