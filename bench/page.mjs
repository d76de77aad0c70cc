// How soon each part of the demo is on screen, in Chromium, against a page that has no model: the application as it is delivered,
// with the demo as `npm run demo` stores it.
import { spawn } from "node:child_process";
import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import path from "node:path";
import { chromium } from "@playwright/test";
import { build, run } from "../scripts/lib.mjs";

const ROUNDS = 5;
const port = "3478";
const address = `http://127.0.0.1:${port}`;
const folder = mkdtempSync(path.join(tmpdir(), "bold-seam-page-"));
process.env.DATABASE_URL = `file:${path.join(folder, "jobs.db")}`;
build();
run("npx", ["--no-install", "tsx", "scripts/seed-demo.ts"], { stdio: "ignore" });
const server = spawn(process.execPath, ["node_modules/next/dist/bin/next", "start", "-H", "127.0.0.1", "-p", port], {
  stdio: "ignore",
});
try {
  await answering();
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
  const start = performance.now();
  await page.goto(`${address}/jobs/${id}`, { waitUntil: "commit" });
  await page.locator(selector).first().waitFor();
  return performance.now() - start;
}

async function answering() {
  for (let i = 0; i < 100; i++) {
    const answer = await fetch(`${address}/api/health`).catch(() => null);
    if (answer?.ok) return;
    await new Promise((resolve) => setTimeout(resolve, 100));
  }
  throw new Error("The server does not answer.");
}

function median(values) {
  return [...values].sort((a, b) => a - b)[Math.floor(values.length / 2)];
}

function show(what, ratio, goal) {
  console.log(`${what.padEnd(72)} ${ratio.toFixed(3).padStart(8)}   goal ${goal}`);
}
