// One command from a clean clone to the tested product: packages, browser, types, lint, layers, unit tests, build,
// tests in the real browser. The last line counts them all.
import { spawn, spawnSync } from "node:child_process";
import { existsSync, mkdirSync, readFileSync, rmSync } from "node:fs";
import { build, install, run, title } from "./lib.mjs";

install();
browser();
mkdirSync("test-results", { recursive: true });
for (const file of ["unit.json", "e2e.json"]) rmSync(`test-results/${file}`, { force: true });

const npx = (...args) => spawnSync("npx", ["--no-install", ...args], { stdio: "inherit" }).status === 0;
let passed = 0;
let failed = 0;
/** What failed, by its title: said again at the end, where a long output is read first. */
const broken = [];

// Each takes one core: together.
await Promise.all([
  check("Types", "tsc", "--noEmit"),
  check("Lint", "biome", "check", ".").then(() =>
    check("Layers", "depcruise", "src", "--config", ".dependency-cruiser.cjs"),
  ),
]);

title("Unit tests");
const unit = npx("vitest", "run", "--reporter=default", "--reporter=json", "--outputFile.json=test-results/unit.json");
tally(unit, "unit.json", (report) => [report.numPassedTests, report.numFailedTests]);

build();

title("Tests in the browser");
const e2e = npx("playwright", "test");
tally(e2e, "e2e.json", ({ stats }) => [stats.expected, stats.unexpected + stats.flaky]);

if (broken.length > 0) console.log(`\nFailed: ${broken.join(", ")}`);
console.log(`\n${passed} passed, ${failed} failed`);
process.exit(failed === 0 ? 0 : 1);

/** Runs one check that either holds or does not; what it says is shown when it has ended. */
async function check(name, ...args) {
  const run = spawn("npx", ["--no-install", ...args], { stdio: ["ignore", "pipe", "pipe"] });
  const said = [];
  for (const stream of [run.stdout, run.stderr]) stream.on("data", (data) => said.push(data));
  const code = await new Promise((done) => run.on("close", done));
  title(name);
  process.stdout.write(Buffer.concat(said));
  if (code === 0) passed++;
  else {
    failed++;
    broken.push(name);
  }
}

/** Adds a runner's own count; a runner that failed without failing a test counts as one failure. */
function tally(ok, file, read) {
  const path = `test-results/${file}`;
  const [good, bad] = existsSync(path) ? read(JSON.parse(readFileSync(path, "utf8"))) : [0, 0];
  passed += good;
  failed += ok ? bad : Math.max(bad, 1);
  if (ok && good === 0) failed++;
  if (!ok || good === 0) broken.push(path);
}

/** Debian's Chromium: installed where that is allowed, else asked for. */
function browser() {
  const path = process.env.CHROMIUM ?? "/usr/bin/chromium";
  if (existsSync(path)) return;
  const root = process.getuid?.() === 0;
  const command = "apt-get update && apt-get install -y --no-install-recommends chromium";
  if (root && existsSync("/usr/bin/apt-get")) {
    title("Installing Chromium");
    run("sh", ["-c", command], { env: { ...process.env, DEBIAN_FRONTEND: "noninteractive" } });
  } else {
    console.error(
      `The tests need Chromium. Run this once:\n\n  sudo sh -c '${command}'\n\nor set CHROMIUM to where it is.`,
    );
    process.exit(1);
  }
}
