// The long proofs, of which the test command runs a sample: random edits of random jobs, random pairs of solids.
// Prints a table and keeps it in docs/proof.md. The first argument is how many of each, 2000 where there is none.
import { spawn } from "node:child_process";
import { mkdirSync, readFileSync, writeFileSync } from "node:fs";

const count = Number(process.argv[2] ?? 2000);
mkdirSync("test-results", { recursive: true });

const proofs = [
  { name: "edits", file: "src/core/testing/trust/edits.test.ts", env: { PROOF_EDITS: count } },
  { name: "pairs", file: "src/core/testing/trust/pairs.test.ts", env: { PROOF_PAIRS: count } },
];

const results = await Promise.all(
  proofs.map(({ name, file, env }) => {
    const out = `test-results/proof-${name}.json`;
    return new Promise((done) => {
      const run = spawn("npx", ["--no-install", "vitest", "run", file], {
        env: {
          ...process.env,
          ...Object.fromEntries(Object.entries(env).map(([key, value]) => [key, String(value)])),
          PROOF_OUT: out,
        },
        stdio: "inherit",
      });
      run.on("exit", (code) => done({ name, code, verdicts: JSON.parse(readFileSync(out, "utf8")) }));
    });
  }),
);

/** Rows of a table: how many of each outcome, by a heading. */
function rows(verdicts, heading, outcomes) {
  const groups = new Map();
  for (const verdict of verdicts) {
    const key = heading(verdict);
    const counts = groups.get(key) ?? {};
    counts[verdict.outcome] = (counts[verdict.outcome] ?? 0) + 1;
    groups.set(key, counts);
  }
  const line = (name, counts) => `| ${name} | ${outcomes.map((outcome) => counts[outcome] ?? 0).join(" | ")} |`;
  const all = {};
  for (const { outcome } of verdicts) all[outcome] = (all[outcome] ?? 0) + 1;
  return [...[...groups].sort().map(([name, counts]) => line(name, counts)), line("**all**", all)];
}

const of = (name) => results.find((result) => result.name === name).verdicts;
const clear = of("edits").filter(
  ({ outcome, why }) => outcome === "right" || (outcome === "asked" && why.includes("; one answer")),
);
const asked = clear.filter(({ outcome }) => outcome === "asked").length;
const text = [
  "# What the long proofs gave",
  "",
  "Made by `npm run proof`; the test command runs a sample of each.",
  "",
  `## ${count} edits by chance`,
  "",
  "Jobs of seven families, with something said of one piece: a decision, a name, a step that picks it. The job is edited by",
  "chance; points that go with the model say where the piece is now. *asked*: the program asked or told, and left it open.",
  "*open*: by the sizes drawn nobody can say which piece it is, or the cut itself was refused.",
  "",
  "| job | right | asked | wrong in silence | open |",
  "|---|---|---|---|---|",
  ...rows(of("edits"), ({ scene }) => scene, ["right", "asked", "wrong", "skipped"]),
  "",
  `Where there was one answer, it was found without asking in ${((100 * (clear.length - asked)) / clear.length).toFixed(1)} %.`,
  "",
  `## ${count} pairs of solids`,
  "",
  "Each united, intersected, subtracted and split; held against closed and valid bodies, the identities of their volumes to 1e-6,",
  "and fine triangles (`manifold-3d`).",
  "",
  "| family | right | refused | wrong in silence |",
  "|---|---|---|---|",
  ...rows(of("pairs"), ({ family }) => family, ["right", "refused", "wrong"]),
  "",
].join("\n");
writeFileSync("docs/proof.md", text);
console.log(text);
process.exit(results.every(({ code }) => code === 0) ? 0 : 1);
