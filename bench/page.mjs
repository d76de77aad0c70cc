// How soon each part of the demo is on screen, in Chromium, against a page that has no model: the application as it is delivered,
// with the demo as `npm run demo` stores it.
import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import path from "node:path";
import { chromium } from "@playwright/test";
import { build, root, run } from "../scripts/lib.mjs";
import { answering, median, serve } from "./serve.mjs";

const ROUNDS = 7;
const folder = mkdtempSync(path.join(tmpdir(), "bold-seam-page-"));
const database = path.join(folder, "jobs.db");
process.env.DATABASE_URL = `file:${database}`;
build();
run("npx", ["--no-install", "tsx", "scripts/seed-demo.ts"], { stdio: "ignore" });
const { server, address } = serve(root, 3478, database);
try {
  await answering(address);
  const [demo] = await (await fetch(`${address}/api/jobs`)).json();
  const empty = await (
    await fetch(`${address}/api/jobs`, {
      method: "POST",
      headers: { "Content-Type": "application/json" },
      body: JSON.stringify({ name: "Empty", units: "mm" }),
    })
  ).json();
  const { document } = await (await fetch(`${address}/api/jobs/${demo.id}`)).json();
  const browser = await chromium.launch({
    executablePath: process.env.CHROMIUM ?? "/usr/bin/chromium",
    args: ["--use-gl=swiftshader", "--enable-unsafe-swiftshader", "--ignore-gpu-blocklist"],
  });
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
  // Once for what every visit has by then: the scripts in the browser's cache.
  await opened(page, demo.id, "article[data-body]");
  await opened(page, empty.id, "text=The bench is empty");
  await page.waitForTimeout(2000);
  const bare = [];
  const first = [];
  const switched = new Map(document.parts.slice(1).map(({ name }) => [name, []]));
  for (let i = 0; i < ROUNDS; i++) {
    bare.push(await opened(page, empty.id, "text=The bench is empty"));
    first.push(await opened(page, demo.id, "article[data-body] canvas"));
    for (const [name, times] of switched) {
      const start = performance.now();
      await page.getByLabel("Part", { exact: true }).selectOption({ label: name });
      await page.locator("article[data-body] canvas").first().waitFor();
      times.push(performance.now() - start);
      await page.locator('[data-engine="idle"]').waitFor({ state: "attached" });
    }
  }
  const page0 = median(bare);
  show(
    `first mesh of “${document.parts[0].name}” after opening, to a page without a model`,
    median(first) / page0,
    "≤ 1.5",
  );
  for (const [name, times] of switched)
    show(`first mesh of “${name}” after it is chosen`, median(times) / page0, "≤ 1");
  await browser.close();
} finally {
  server.kill();
  rmSync(folder, { recursive: true, force: true });
}

async function opened(page, id, selector) {
  // From a page with nothing at work: the engines of the one before would take part of the machine, of one more than of another.
  await page.goto("about:blank");
  await page.waitForTimeout(1500);
  const start = performance.now();
  await page.goto(`${address}/jobs/${id}`, { waitUntil: "commit" });
  await page.locator(selector).first().waitFor();
  return performance.now() - start;
}

function show(what, ratio, goal) {
  console.log(`${what.padEnd(72)} ${ratio.toFixed(3).padStart(8)}   goal ${goal}`);
}
