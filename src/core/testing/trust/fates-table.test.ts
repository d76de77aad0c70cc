import { beforeAll, expect, test } from "vitest";
import { loadNodeKernel } from "../../kernel/library/node";
import { tryEditOf, tryRule, type Verdict } from "./edits";
import { Random } from "./random";
import { SCENES } from "./scenes";

beforeAll(loadNodeKernel);

/** How many jobs are drawn, and how many edits of each are tried: all of them by `npm run proof`. */
const JOBS = Number(process.env.PROOF_TABLE ?? 2);
const EDITS = JOBS < 20 ? 1 : 10;
const SEED = 11300;

test(`decisions and rules over ${JOBS} jobs with ${EDITS} edits each: a row for each job`, () => {
  const rows = Array.from({ length: JOBS }, (_, i) => {
    const scene = SCENES[i % SCENES.length]!;
    const sizes = scene.sizes(new Random(SEED + i));
    const verdicts: Verdict[] = [];
    const rules: Verdict[] = [];
    for (let edit = 0; edit < EDITS; edit++) {
      const seed = SEED + 1000 * (i + 1) + edit;
      verdicts.push(...tryEditOf(scene, sizes, new Random(seed)));
      const rule = tryRule(scene, sizes, new Random(seed));
      if (rule) rules.push(rule);
    }
    return { name: scene.name, verdicts, rules };
  });
  const count = (list: readonly Verdict[], outcome: Verdict["outcome"]) =>
    list.filter((verdict) => verdict.outcome === outcome).length;
  const line = (name: string, verdicts: readonly Verdict[], rules: readonly Verdict[]) =>
    [
      name.padEnd(32),
      ...(["right", "asked", "wrong", "skipped"] as const).map((outcome) =>
        String(count(verdicts, outcome)).padStart(8),
      ),
      `${count(rules, "right")} of ${rules.length}`.padStart(12),
    ].join("");
  const all = rows.flatMap(({ verdicts }) => verdicts);
  const allRules = rows.flatMap(({ rules }) => rules);
  console.log(
    [
      `${"job".padEnd(32)}   found   asked   wrong    open by rule`,
      ...rows.map(({ name, verdicts, rules }, i) => line(`${i + 1} ${name}`, verdicts, rules)),
      line("all", all, allRules),
    ].join("\n"),
  );
  const wrong = [...all, ...allRules].filter(({ outcome }) => outcome === "wrong");
  expect(wrong.map(({ scene, what, why }) => `${scene}: ${what}: ${why}`)).toEqual([]);
  // Where there is one answer, it is found without asking. A sample is small: a few that were asked about weigh more in it.
  const needless = all.filter(({ outcome, why }) => outcome === "asked" && why.includes("; one answer;")).length;
  expect(count(all, "right") / (count(all, "right") + needless)).toBeGreaterThanOrEqual(JOBS < 20 ? 0.8 : 0.95);
});
