// What a movement of a number in the view costs on every part of the demo, in Chromium, against a tenth of a second, which is ten
// pictures a second: the time for scripts, styles and layout of the page and that of the engine, and beside it how long it is until a
// picture of that number stands, with what the browser takes to draw it without a graphics card: the exact one, or where that keeps
// somebody waiting, triangles. The application as it is delivered, with the demo as `npm run demo` stores it.
import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import path from "node:path";
import { chromium } from "@playwright/test";
import { build, root, run } from "../scripts/lib.mjs";
import { answering, median, serve } from "./serve.mjs";

const MOVEMENTS = 9;
const folder = mkdtempSync(path.join(tmpdir(), "bold-seam-drag-"));
const database = path.join(folder, "jobs.db");
process.env.DATABASE_URL = `file:${database}`;
build();
run("npx", ["--no-install", "tsx", "scripts/seed-demo.ts"], { stdio: "ignore" });
const { server, address } = serve(root, 3479, database);
try {
  await answering(address);
  const [demo] = await (await fetch(`${address}/api/jobs`)).json();
  const { document } = await (await fetch(`${address}/api/jobs/${demo.id}`)).json();
  const browser = await chromium.launch({
    executablePath: process.env.CHROMIUM ?? "/usr/bin/chromium",
    args: ["--no-sandbox", "--enable-unsafe-swiftshader"],
  });
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
  // When the page asked its engines first since it was last looked at, when one answered last, and what is not answered yet.
  await page.addInitScript(() => {
    const Given = window.Worker;
    window.engine = { asked: 0, answered: 0, waiting: new Set() };
    window.Worker = class extends Given {
      constructor(...given) {
        super(...given);
        this.addEventListener("message", ({ data }) => {
          if (window.engine.waiting.delete(data?.id)) window.engine.answered = performance.now();
        });
      }
      postMessage(...given) {
        window.engine.asked ||= performance.now();
        if (given[0]?.id) window.engine.waiting.add(given[0].id);
        return super.postMessage(...given);
      }
    };
  });
  const session = await page.context().newCDPSession(page);
  await session.send("Performance.enable");
  await page.goto(`${address}/jobs/${demo.id}`);
  const idle = () => page.locator('[data-engine="idle"]').waitFor({ state: "attached", timeout: 120_000 });
  await idle();
  // What the engines do by themselves when they have come is over by then.
  await page.waitForTimeout(12_000);
  for (const part of document.parts) {
    await page.getByLabel("Part", { exact: true }).selectOption({ label: part.name });
    await idle();
    let [worst, cost, where, kind] = [0, 0, "", ""];
    // Of each kind the last: there the most is built.
    const kinds = new Map(part.steps.filter(({ suppressed }) => !suppressed).map(({ type, id }) => [type, id]));
    for (const id of kinds.values()) {
      const title = page.locator(`[data-step="${id}"] button.truncate`);
      // In a group that is folded up.
      if ((await title.count()) === 0) continue;
      await title.click();
      await page.locator("[data-open-step]").waitFor();
      await idle();
      const grip = page.locator('[data-handle][aria-disabled="false"]').first();
      if ((await grip.count()) > 0) {
        const times = [];
        await hold(grip);
        for (let i = 1; i <= MOVEMENTS; i++) {
          const before = await worked(session);
          const made = await movement(grip, 12 * (1 + (i % 3)));
          if (made) times.push({ ...made, cost: (await worked(session)) - before + made.engine });
        }
        const middle = (of) => (times.length > 2 ? median(times.slice(2).map(of)) : 0);
        if (middle((one) => one.cost) > cost)
          [worst, cost, where, kind] = [
            middle((one) => one.took),
            middle((one) => one.cost),
            await grip.getAttribute("aria-label"),
            times.slice(2).some((one) => one.triangles) ? "triangles" : "exact",
          ];
        // What is exact comes when the hand rests.
        await page.waitForTimeout(400);
        await idle();
      }
      await page.locator("[data-open-step] button", { hasText: "Discard" }).click();
      await idle();
    }
    if (worst === 0) continue;
    show(`“${part.name}” dragged: the slowest, ${where}`, cost / 100, "≤ 1");
    show(`  until its picture stands: ${kind}`, worst / 100, "(to compare)");
  }
  await browser.close();
} finally {
  server.kill();
  rmSync(folder, { recursive: true, force: true });
}

/** ms of the page's own work so far. */
async function worked(session) {
  const { metrics } = await session.send("Performance.getMetrics");
  const of = (name) => metrics.find((metric) => metric.name === name)?.value ?? 0;
  return 1000 * (of("ScriptDuration") + of("LayoutDuration") + of("RecalcStyleDuration"));
}

/**
 * ms from a movement of the pointer to the picture of the number that it makes, how long the engine was at it, and whether that picture
 * is one of triangles; null where it makes none.
 */
function movement(grip, pixels) {
  return grip.evaluate(
    (slider, pixels) =>
      new Promise((resolve) => {
        const before = slider.getAttribute("aria-valuenow");
        const start = performance.now();
        const { engine } = window;
        engine.asked = 0;
        const { x, y } = window.held;
        slider.dispatchEvent(
          new PointerEvent("pointermove", { bubbles: true, clientX: x + pixels, clientY: y - pixels, pointerId: 1 }),
        );
        const look = () => {
          const idle = document.querySelector("[data-engine]").getAttribute("data-engine") === "idle";
          const triangles = document.querySelector("[data-triangles]") !== null;
          const took = performance.now() - start;
          const { asked, answered, waiting } = engine;
          if (asked > 0 && answered > asked && waiting.size === 0 && (idle || triangles))
            requestAnimationFrame(() =>
              resolve({ took: performance.now() - start, engine: answered - asked, triangles }),
            );
          else if (took > 3000 || (took > 500 && slider.getAttribute("aria-valuenow") === before)) resolve(null);
          else requestAnimationFrame(look);
        };
        requestAnimationFrame(look);
      }),
    pixels,
  );
}

/** Takes hold of a grip, as a pointer does. */
function hold(grip) {
  return grip.evaluate((slider) => {
    const { x, y } = slider.getBoundingClientRect();
    window.held = { x: x + 14, y: y + 14 };
    // A real pointer brings the focus with it, and what it holds stays while its step fails. This one is not really down.
    slider.focus();
    slider.setPointerCapture = () => {};
    const { x: clientX, y: clientY } = window.held;
    slider.dispatchEvent(new PointerEvent("pointerdown", { bubbles: true, button: 0, clientX, clientY, pointerId: 1 }));
  });
}

function show(what, ratio, goal) {
  console.log(`${what.padEnd(84)} ${ratio.toFixed(3).padStart(8)}   goal ${goal}`);
}
