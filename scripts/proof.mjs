// The long proofs, of which the test command runs a sample: random edits of random jobs, random pairs of solids.
// Prints a table and keeps it in docs/proof.md. The first argument is how many edits and pairs, 2000 where there is none.
import { spawn } from "node:child_process";
import { existsSync, mkdirSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { build } from "./lib.mjs";

const count = Number(process.argv[2] ?? 2000);
mkdirSync("test-results", { recursive: true });

const proofs = [
  { name: "edits", file: "src/core/testing/trust/edits.test.ts", counts: "PROOF_EDITS", seed: 20261128, env: {} },
  { name: "pairs", file: "src/core/testing/trust/pairs.test.ts", counts: "PROOF_PAIRS", seed: 1128, env: {} },
  {
    name: "sheets",
    file: "src/core/testing/trust/sheet-pairs.test.ts",
    env: { PROOF_SHEETS: 1000 },
    what: "1,000 sheets divided by nearly the solids that they were taken off: as closed forms say, told, or refused",
  },
  {
    name: "offsets",
    file: "src/core/fit/offset-faces/laws.test.ts",
    env: { PROOF_OFFSETS: 300 },
    what: "300 solids by chance with some faces moved: what is gained or lost lies beside what was there, faces keep their names, back again it is as it was",
  },
  {
    name: "clearances",
    file: "src/core/fit/clearance/laws.test.ts",
    env: { PROOF_CLEARANCES: 200 },
    what: "200 solids by chance, grown and shrunk with sharp and with round corners: sound, and the distance kept wherever it is measured",
  },
  {
    name: "replaced",
    file: "src/core/fit/replace-face/laws.test.ts",
    env: { PROOF_REPLACED: 300 },
    what: "300 flat faces of solids by chance taken to planes beside them: what differs lies between the two, and back again it is as it was",
  },
  {
    name: "links",
    file: "src/core/evaluate/link-reports.test.ts",
    env: { PROOF_LINKS: 200 },
    what: "200 chains of three parts under five edits each: what was brought in stays, what is told to be as it is there is, refreshed it lies where it stands",
  },
  {
    name: "motions",
    file: "src/core/motion/laws.test.ts",
    env: { PROOF_MOTIONS: 200 },
    what: "200 solids moved straight and turned by chance: the room holds them at 21 places of the way, and no place that they came through is left out",
  },
  {
    name: "hollows",
    file: "src/core/steps/shell/laws.test.ts",
    env: { PROOF_HOLLOWS: 60 },
    what: "60 solids with roundings by chance, hollowed thinner and thicker than these: walls all over, and nothing but walls; or refused",
  },
  {
    name: "records",
    file: "src/core/exchange/step/damage.test.ts",
    env: { PROOF_DAMAGES: 1500 },
    what: "each of the 373 records of a STEP file left out, 1,500 other damages: told, refused, or no loss",
  },
  {
    name: "inputs",
    file: "src/cli/spoilt.test.ts",
    env: { PROOF_INPUTS: 1500 },
    what: "1,500 spoilt inputs to the command line: exit codes as documented, one sentence, nothing invalid in silence",
  },
  {
    name: "requests",
    file: "src/app/api/requests.test.ts",
    env: { PROOF_REQUESTS: 3000 },
    what: "3,000 malformed requests: none answered with 500, none hangs, every refusal a sentence",
  },
  {
    name: "kills",
    file: "src/server/jobs/kills.test.ts",
    env: { PROOF_KILLS: 100 },
    what: "100 kills under load: no acknowledged edit lost",
  },
  {
    name: "clients",
    file: "src/server/jobs/two-servers.test.ts",
    env: { PROOF_CLIENT_EDITS: 2000 },
    what: "2,000 edits by 8 clients through two servers on one libSQL database: none lost, none merged blindly",
  },
  {
    name: "outlines",
    file: "src/core/sketch/profile/profile.test.ts",
    env: { PROOF_SETS: 10_000 },
    what: "10,000 sets of curves: the regions of another finder, on fine chords",
  },
  {
    name: "interchange",
    file: "src/core/exchange/step/interchange.test.ts",
    env: {},
    what: "files that other programs wrote, read, written and read again: solids, units, names and volumes as another reader has them",
  },
  {
    name: "foreign",
    file: "src/core/testing/trust/foreign-cuts.test.ts",
    env: { PROOF_CUTS: 12 },
    what: "solids that other programs wrote, cut by 660 planes, bars, balls, cones and rings by chance: pieces closed, valid, and the whole together",
  },
  {
    name: "programs",
    file: "src/core/seam/other-programs.test.ts",
    env: {},
    what: "15 STEP files that other programs wrote: split by planes, and the room between them and six planes filled",
  },
  {
    name: "fills",
    file: "src/core/seam/fill-laws.test.ts",
    env: { PROOF_FILLS: 500 },
    what: "500 rooms among solids in a closed box, divided by planes: as the box within is, less the solids, divided by the planes",
  },
  {
    name: "mixed",
    file: "src/core/testing/trust/mixed.test.ts",
    env: { PROOF_MIXED: 500 },
    what: "500 solids divided by up to four cutters of mixed kinds, tangent and coincident ones among them: each cell as points and triangles say",
  },
  {
    name: "triangles",
    file: "src/core/triangles/divide.test.ts",
    env: { PROOF_TRIANGLES: 1000 },
    what: "1,000 divisions as triangles, for the eye: the same pieces as the exact ones, as large as triangles can tell",
  },
  {
    name: "table",
    file: "src/core/testing/trust/fates-table.test.ts",
    env: { PROOF_TABLE: 20 },
    what: "20 seam jobs under 10 edits each: decisions found or asked about, none wrong; rules all right",
  },
  {
    name: "thirty",
    file: "src/core/evaluate/thirty-steps.test.ts",
    env: {},
    what: "a part of thirty steps under every edit of the table: what is picked is what was meant",
  },
  {
    name: "purity",
    file: "src/core/evaluate/pure.test.ts",
    env: { PROOF_JOBS: 30 },
    what: "the demo and 30 jobs evaluated twice: the same ids, names, order, keys and words, whatever was evaluated before",
  },
  {
    name: "laws",
    file: [
      "src/core/testing/trust/defects.test.ts",
      "src/core/seam/fronts.test.ts",
      "src/core/seam/other-cutters.test.ts",
      "src/core/evaluate/memory.test.ts",
      "src/core/steps/shell/round-parts.test.ts",
    ],
    env: {},
    what: "every pair that once came out wrong; the sides of 60 cutters; 14 scenes that gain or lose a cutter; part turns of 40° and 200° hollowed; 120 evaluations within 40 MB",
  },
  {
    name: "memory",
    file: "src/core/testing/trust/memory.test.ts",
    env: { PROOF_EVALUATIONS: 1500 },
    what: "1,500 evaluations of a job with a ring cut and a rounding: nothing stays in the engine's memory",
  },
  {
    name: "screens",
    browser: true,
    env: { PROOF_JOBS: 30 },
    what: "every test in the browser, whole: the demo and 30 jobs the same there and in Node; every view with few, some and many of everything; every tool and what is told; both themes",
  },
];

/** Some names after the number run only those, as in `npm run proof 2000 edits`. */
const wanted = process.argv.slice(3);
const chosen = proofs.filter(({ name }) => wanted.length === 0 || wanted.includes(name));

/** As many edits or pairs are tried in one process; after each what they gave is written down, so that a run may be stopped. */
const BATCH = 100;

/** The runs that a proof takes: those by chance in batches, each with seeds of its own. */
function runsOf({ name, file, browser, counts, seed, env }) {
  if (!counts) return [{ name, file, browser, tried: 1, env, out: `test-results/proof-${name}.json` }];
  const first = Number(process.env.PROOF_SEED ?? seed);
  return Array.from({ length: Math.ceil(count / BATCH) }, (_, i) => {
    const tried = Math.min(BATCH, count - BATCH * i);
    const out = `test-results/proof-${name}-${i + 1}.json`;
    return { name, file, tried, env: { [counts]: tried, PROOF_SEED: first + BATCH * i }, out };
  });
}

function prove({ file, browser, env, out }) {
  rmSync(out, { force: true });
  const args = browser
    ? ["playwright", "test", "--timeout=7200000"]
    : ["vitest", "run", ...[file].flat(), "--testTimeout=7200000"];
  return new Promise((done) => {
    const run = spawn("npx", ["--no-install", ...args], {
      env: {
        ...process.env,
        // What the test command samples is tried whole in every proof.
        PROOF_WHOLE: "1",
        ...Object.fromEntries(Object.entries(env).map(([key, value]) => [key, String(value)])),
        PROOF_OUT: out,
      },
      stdio: "inherit",
    });
    run.on("exit", (code) => done({ code, verdicts: existsSync(out) ? JSON.parse(readFileSync(out, "utf8")) : [] }));
  });
}

if (chosen.some(({ browser }) => browser)) build();

// Two at a time: each takes a core. The proofs take turns, so that a run that is stopped has something of each.
const open = chosen.map(runsOf);
const ran = new Map();
const next = () => {
  const runs = open.shift();
  if (!runs) return null;
  const run = runs.shift();
  if (runs.length > 0) open.push(runs);
  return run;
};
await Promise.all(
  [0, 1].map(async () => {
    for (let run = next(); run; run = next()) {
      const { code, verdicts } = await prove(run);
      const before = ran.get(run.name) ?? { name: run.name, code: 0, tried: 0, verdicts: [] };
      ran.set(run.name, {
        ...before,
        code: before.code || code,
        tried: before.tried + run.tried,
        verdicts: [...before.verdicts, ...verdicts],
      });
      writeDown();
    }
  }),
);
console.log(readFileSync("docs/proof.md", "utf8"));
process.exit([...ran.values()].every(({ code }) => code === 0) ? 0 : 1);

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

/** What a proof says, by its heading; a proof that was not run leaves what is there. */
function sectionOf({ name, tried, verdicts }) {
  const seed = process.env.PROOF_SEED ?? proofs.find((proof) => proof.name === name).seed;
  const said = `Run on ${new Date().toISOString().slice(0, 10)}, seeds from ${seed} on.`;
  if (name === "edits") {
    const clear = verdicts.filter(
      ({ outcome, why }) => outcome === "right" || (outcome === "asked" && why.includes("; one answer")),
    );
    const asked = clear.filter(({ outcome }) => outcome === "asked").length;
    return [
      `## Edits: ${tried.toLocaleString("en")} by chance`,
      "",
      "Jobs of seven families, with something said of one piece: a decision, a name, a step that picks it. The job is edited by",
      "chance; points that go with the model say where the piece is now. *asked*: the program asked or told, and left it open.",
      "*open*: by the sizes drawn nobody can say which piece it is, or the cut itself was refused.",
      "",
      "| job | right | asked | wrong in silence | open |",
      "|---|---|---|---|---|",
      ...rows(verdicts, ({ scene }) => scene, ["right", "asked", "wrong", "skipped"]),
      "",
      `Where there was one answer, it was found without asking in ${((100 * (clear.length - asked)) / clear.length).toFixed(1)} %. ${said}`,
    ];
  }
  return [
    `## Pairs: ${tried.toLocaleString("en")} of solids`,
    "",
    "Each united, intersected, subtracted and split; held against closed and valid bodies, the identities of their volumes to 1e-6,",
    "and fine triangles (`manifold-3d`).",
    "",
    "| family | right | right, and told how nearly | refused | wrong in silence |",
    "|---|---|---|---|---|",
    ...rows(verdicts, ({ family }) => family, ["right", "told", "refused", "wrong"]),
    "",
    said,
  ];
}

/** Writes down what was proved so far; what was not run stays as it was. */
function writeDown() {
  const before = existsSync("docs/proof.md") ? readFileSync("docs/proof.md", "utf8") : "";
  const kept = (title) =>
    before
      .split(/^(?=## )/m)
      .find((section) => section.startsWith(`## ${title}`))
      ?.trimEnd() ?? "";
  const section = (name, title) => (ran.has(name) ? sectionOf(ran.get(name)).join("\n") : kept(title));
  const other = proofs.flatMap(({ name, what }) => {
    if (!what) return [];
    const result = ran.get(name);
    if (result) return [`| ${what} | ${result.code === 0 ? "yes" : "**no**"} |`];
    return kept("Other proofs")
      .split("\n")
      .filter((line) => line.startsWith(`| ${what} |`));
  });
  const text = [
    "# What the long proofs gave",
    "",
    "Made by `npm run proof`, which takes hours; `npm run proof 300 pairs` runs one of them and replaces what it said. The test command runs",
    "a sample of each ([what is sampled](decisions/0045-a-sample-and-the-whole.md)).",
    "",
    section("edits", "Edits"),
    "",
    section("pairs", "Pairs"),
    "",
    "## Other proofs",
    "",
    "| what | held |",
    "|---|---|",
    ...other,
    "",
  ].join("\n");
  writeFileSync("docs/proof.md", text);
}
