// Whether a screen got slower: the application as it stands beside the one of an earlier commit, each built and served by itself,
// the same screens of the same job in turns. Usage: npm run bench:screens -- COMMIT|FOLDER [rounds [word]]; a folder holds a checkout that
// is built. Takes some minutes; a word after the rounds takes only the screens whose names have it. Beside the time until a screen
// stands is the work of the page's own thread until then, which what else the machine does disturbs less.
import { spawnSync } from "node:child_process";
import { createHash } from "node:crypto";
import { existsSync, mkdtempSync, readFileSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import path from "node:path";
import { chromium } from "@playwright/test";
import { build, root } from "../scripts/lib.mjs";
import { answering, median, serve } from "./serve.mjs";

/** ms: what a page's engine works at by itself when it has come is over by then. */
const WARMING = 4000;

const [commit, rounds = "7", word = ""] = process.argv.slice(2);
if (!commit) {
  console.error("Usage: npm run bench:screens -- COMMIT|FOLDER [rounds]: what to compare with.");
  process.exit(2);
}
const folder = mkdtempSync(path.join(tmpdir(), "bold-seam-screens-"));
const earlier = existsSync(path.join(commit, ".next")) ? path.resolve(commit) : checkout();
build();
// The earlier demo opens in both.
const document = JSON.parse(readFileSync(path.join(earlier, "demo", "star-pier.json"), "utf8"));
const contents = new Map();
for (const file of document.files) {
  const bytes = readFileSync(path.join(earlier, "demo", file.path ?? file.name));
  contents.set(file.name, bytes);
  file.sha256 = createHash("sha256").update(bytes).digest("hex");
  delete file.path;
}

const servers = [serve(earlier, 3481, path.join(folder, "earlier.db")), serve(root, 3482, path.join(folder, "now.db"))];
try {
  const browser = await chromium.launch({
    executablePath: process.env.CHROMIUM ?? "/usr/bin/chromium",
    args: ["--no-sandbox", "--enable-unsafe-swiftshader"],
  });
  const sides = await Promise.all(servers.map((server) => side(browser, server.address)));
  // The job is opened in every round: the others are in it.
  const screens = screensOf(document).filter(({ name }) => name.includes(word) || name.startsWith("a job"));
  const times = new Map(screens.map(({ name }) => [name, [[], []]]));
  // The first round is for what every later visit has by then: scripts in the browser's cache, views that are stored.
  for (let round = 0; round <= Number(rounds); round++)
    for (const which of round % 2 ? [1, 0] : [0, 1])
      for (const screen of screens) {
        const taken = await shown(screen, sides[which]).catch((error) => {
          throw new Error(`${screen.name}, ${which ? "as it is now" : commit}: ${error.message}`);
        });
        if (round > 0) times.get(screen.name)[which].push(taken);
      }
  console.log(`${"screen, ms".padEnd(48)} ${commit.padStart(12)}    now  ratio    work    now  ratio`);
  for (const [name, [then, now]] of times) {
    const columns = ["until", "work"].map((what) => {
      const both = [then, now].map((taken) =>
        median(taken.map((one) => one[what]))
          .toFixed(0)
          .padStart(6),
      );
      // Pair by pair, since the machine's speed drifts while this runs.
      const ratio = median(now.map((taken, i) => taken[what] / then[i][what]));
      return `${both.join(" ")} ${ratio.toFixed(2).padStart(6)}`;
    });
    console.log(`${name.padEnd(54)} ${columns.join("  ")}`);
  }
  await browser.close();
} finally {
  for (const { server } of servers) server.kill();
  rmSync(folder, { recursive: true, force: true });
}

/** What is shown and when it stands: only what both ages of the page have in common is asked for. */
function screensOf({ parts }) {
  const steps = parts.flatMap((part) => part.steps.map((step) => ({ part: part.name, step })));
  const first = (what) => steps.find(what);
  const sketch = first(({ step }) => step.type === "sketch");
  const seam = first(({ step }) => step.type === "seam");
  const box = first(({ step }) => step.type === "box");
  const card = (page) => page.locator("article[data-body] canvas").first().waitFor();
  const opening = (name, { part, step }, ready) => ({
    name,
    before: ({ page }) => choose(page, part),
    shown: async ({ page }) => {
      await page.locator(`[data-step="${step.id}"] button.truncate`).click();
      await page.locator(`[data-open-step="${step.id}"]`).waitFor();
      await ready?.(page);
    },
    after: ({ page }) => page.getByRole("button", { name: "Discard" }).click(),
  });
  return [
    {
      name: "the jobs page",
      shown: async ({ page, address }) => {
        await page.goto(address, { waitUntil: "commit" });
        await page.getByText(document.name).first().waitFor();
      },
    },
    {
      name: "a job, to its first mesh",
      shown: async ({ page, address, id }) => {
        await page.goto(`${address}/jobs/${id}`, { waitUntil: "commit" });
        await card(page);
      },
      // The engine warms up behind a page that has just come, on a core that what comes next would share.
      after: ({ page }) => page.waitForTimeout(WARMING),
    },
    ...parts.slice(1).map(({ name }) => ({
      name: `the part “${name}”, to its first mesh`,
      shown: async ({ page }) => {
        await page.getByLabel("Part", { exact: true }).selectOption({ label: name });
        await card(page);
      },
    })),
    opening("the form of a sketch", sketch),
    opening("the form of a block", box),
    opening("the form of a division, to its first piece", seam, (page) =>
      page.locator("[data-piece] >> nth=0").waitFor(),
    ),
    {
      name: "the form of a new block, from the stage",
      shown: async ({ page }) => {
        await page.getByRole("navigation", { name: "Stages" }).getByRole("button", { name: "Shape" }).click();
        await page.getByRole("region", { name: "Shape tools" }).getByRole("button", { name: "Block" }).first().click();
        await page.locator("[data-open-step]").waitFor();
      },
      after: ({ page }) => page.getByRole("button", { name: "Discard" }).click(),
    },
    {
      name: "the release dialog",
      shown: async ({ page }) => {
        await page.getByRole("navigation", { name: "Stages" }).getByRole("button", { name: "Release" }).click();
        await page.getByRole("dialog").waitFor();
      },
      after: ({ page }) => page.keyboard.press("Escape"),
    },
  ];
}

/** How long until a screen stands, and what of it the page's own thread worked, ms. */
async function shown(screen, side) {
  await screen.before?.(side);
  const before = await worked(side);
  const start = performance.now();
  await screen.shown(side);
  const until = performance.now() - start;
  const after = await worked(side);
  await screen.after?.(side);
  await idle(side);
  // A page that came anew counts from its beginning.
  return { until, work: after < before ? after : after - before };
}

/** What the page's own thread has worked so far, ms. */
async function worked({ metrics }) {
  const all = (await metrics.send("Performance.getMetrics")).metrics;
  return 1000 * all.find(({ name }) => name === "TaskDuration").value;
}

async function choose(page, part) {
  await page.getByLabel("Part", { exact: true }).selectOption({ label: part });
  await page.locator('[data-engine="idle"]').waitFor({ state: "attached", timeout: 60_000 });
  await page.locator("article[data-body]").first().waitFor();
}

async function idle({ page }) {
  if (page.url().includes("/jobs/"))
    await page.locator('[data-engine="idle"]').waitFor({ state: "attached", timeout: 60_000 });
}

/** A page of one of the two, with the job in it. */
async function side(browser, address) {
  await answering(address);
  for (const file of document.files)
    await post(
      `${address}/api/files?name=${encodeURIComponent(file.name)}`,
      "application/octet-stream",
      contents.get(file.name),
    );
  const { id } = await post(`${address}/api/jobs`, "application/json", JSON.stringify({ document }));
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
  page.setDefaultTimeout(60_000);
  const metrics = await page.context().newCDPSession(page);
  await metrics.send("Performance.enable");
  return { page, address, id, metrics };
}

/** The commit to compare with, built in a folder of its own. */
function checkout() {
  const home = path.join(folder, "earlier");
  sh(root, "git", "clone", "--quiet", root, home);
  sh(home, "git", "checkout", "--quiet", commit);
  sh(home, "npm", "ci", "--no-audit", "--no-fund", "--silent");
  sh(home, "node", "scripts/prepare-kernel.mjs");
  sh(home, "npx", "--no-install", "next", "build");
  return home;
}

async function post(address, type, body) {
  const answer = await fetch(address, { method: "POST", headers: { "Content-Type": type }, body });
  if (!answer.ok) throw new Error(`${address}: ${answer.status} ${await answer.text()}`);
  return await answer.json();
}

function sh(cwd, command, ...args) {
  const { status, stdout } = spawnSync(command, args, { cwd, stdio: ["ignore", "pipe", "inherit"], maxBuffer: 1e9 });
  if (status === 0) return stdout;
  console.error(`${command} ${args.join(" ")} failed.`);
  process.exit(1);
}
