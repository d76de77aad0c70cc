// What a movement of a number in the view costs on every part of the demo, in Chromium, against a tenth of a second, which is ten
// pictures a second: the processor's time for scripts, styles and layout of the page for each movement, and for its engines for the
// picture that comes of it (Linux counts those thread by thread). Beside it how many pictures came in a second, and how many of them
// were triangles: those have in them what the browser takes to draw without a graphics card, and what else the machine is at. The
// application as it is delivered, with the demo as `npm run demo` stores it.
import { existsSync, mkdtempSync, readdirSync, readFileSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import path from "node:path";
import { chromium } from "@playwright/test";
import { build, root, run } from "../scripts/lib.mjs";
import { answering, serve } from "./serve.mjs";

/** A movement each 40 ms, as a pointer makes them. */
const MOVEMENTS = 90;
/** A part by its name, for that one alone. */
const [only] = process.argv.slice(2);
const folder = mkdtempSync(path.join(tmpdir(), "bold-seam-drag-"));
const database = path.join(folder, "jobs.db");
process.env.DATABASE_URL = `file:${database}`;
// built
run("npx", ["--no-install", "tsx", "scripts/seed-demo.ts"], { stdio: "ignore" });
const { server, address } = serve(root, 3481, database);
try {
  await answering(address);
  const [demo] = await (await fetch(`${address}/api/jobs`)).json();
  const { document } = await (await fetch(`${address}/api/jobs/${demo.id}`)).json();
  const browser = await chromium.launch({
    executablePath: process.env.CHROMIUM ?? "/usr/bin/chromium",
    args: ["--no-sandbox", "--enable-unsafe-swiftshader"],
  });
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
  // Told of each answer of the engines to what the page asked.
  await page.addInitScript(() => {
    const Given = window.Worker;
    window.engine = { answered: () => {} }; window.oplog = []; let wn=0; const t0=performance.now();
    window.Worker = class extends Given {
      constructor(...given) {
        super(...given);
        const asked = new Map(); const begun = new Map(); const me = ++wn; window.oplog.push(`${Math.round(performance.now())} worker ${me} spawned`);
        this.post = (m) => { const { id, argumentList } = m; asked.set(id, argumentList?.[0]?.value); begun.set(id, [performance.now(), (m.path||[]).join('.')]); };
        this.addEventListener("message", ({ data }) => {
          const operation = asked.get(data?.id); const b = begun.get(data?.id); if (b) { begun.delete(data.id); const took = performance.now()-b[0]; if (took>3 || operation) window.oplog.push(`${Math.round(performance.now())} w${me} ${b[1]} ${operation} ${Math.round(took)} ms ${data.rawValue?.heapBytes ?? data.value?.heapBytes ?? ''}`); }
          if (asked.delete(data?.id) && operation) window.engine.answered(operation);
        });
      }
      postMessage(...given) {
        this.post(given[0]);
        return super.postMessage(...given);
      }
    };
  });
  const session = { browser: await browser.newBrowserCDPSession(), page: await page.context().newCDPSession(page) };
  await session.page.send("Performance.setTimeDomain", { timeDomain: "threadTicks" });
  await session.page.send("Performance.enable");
  await page.goto(`${address}/jobs/${demo.id}`);
  const idle = () => page.locator('[data-engine="idle"]').waitFor({ state: "attached", timeout: 120_000 });
  await idle();
  await quiet(page, session);
  for (const part of document.parts.filter(({ name }) => !only || name === only)) {
    await page.getByLabel("Part", { exact: true }).selectOption({ label: part.name });
    await idle();
    let worst = null;
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
        const what = await grip.getAttribute("aria-label");
        await hold(grip);
        // What has never run yet is slower.
        await moved(grip, MOVEMENTS / 3); await page.evaluate(() => { window.oplog.push('--- measured'); });
        const before = await worked(session);
        const made = await moved(grip, MOVEMENTS);
        const after = await worked(session);
        const cost = (after.page - before.page) / MOVEMENTS + (after.engines - before.engines) / made.pictures;
        console.log('  ', part.name, what, 'page', Math.round(after.page-before.page), 'engines', Math.round(after.engines-before.engines), made, cost); if (cost > 100) console.log((await page.evaluate(() => window.oplog.slice(-140))).join('\n')); if (made.pictures > 2 && cost > (worst?.cost ?? 0)) worst = { ...made, cost, what };
      }
      await page.locator("[data-open-step] button", { hasText: "Discard" }).click();
      await idle();
    }
    if (!worst) continue;
    show(`“${part.name}” dragged: the slowest, ${worst.what}`, worst.cost / 100, "≤ 1");
    const share = Math.round((100 * worst.triangles) / worst.pictures);
    show(`  pictures a second, ${share} % of them triangles`, (1000 * worst.pictures) / worst.took, "(to compare)");
  }
  await browser.close();
} finally {
  server.kill();
  rmSync(folder, { recursive: true, force: true });
}

/** Waits until the engines are done with what they do by themselves when they have come. */
async function quiet(page, session) {
  for (let still = 0, left = 120; still < 4 && left > 0; left--) {
    const before = await worked(session);
    await page.waitForTimeout(500);
    still = (await worked(session)).engines - before.engines < 25 ? still + 1 : 0;
  }
}

/** ms of the processor's time so far that scripts, styles and layout of the page took, and its engines. */
async function worked({ browser, page: target }) {
  const { metrics } = await target.send("Performance.getMetrics");
  const of = (name) => metrics.find((metric) => metric.name === name)?.value ?? 0;
  const { processInfo } = await browser.send("SystemInfo.getProcessInfo");
  let engines = 0;
  for (const { id } of processInfo.filter(({ type }) => type === "renderer"))
    for (const thread of readdirSync(`/proc/${id}/task`)) {
      const about = `/proc/${id}/task/${thread}`;
      // One may end while they are looked through.
      if (!existsSync(`${about}/schedstat`)) continue;
      if (readFileSync(`${about}/comm`, "utf8").startsWith("DedicatedWorker"))
        engines += Number(readFileSync(`${about}/schedstat`, "utf8").split(" ")[0]);
    }
  const page = 1000 * (of("ScriptDuration") + of("LayoutDuration") + of("RecalcStyleDuration"));
  return { page, engines: engines / 1e6 };
}

/** Moves what is held to and fro. @returns how many pictures came, of them of triangles, and how long it took, ms. */
function moved(grip, movements) {
  return grip.evaluate(
    (slider, movements) =>
      new Promise((resolve) => {
        const { engine } = window;
        const { x, y } = window.held;
        const made = { pictures: 0, triangles: 0 };
        engine.answered = (operation) => {
          made.pictures++;
          if (operation === "rough") made.triangles++;
        };
        const start = performance.now();
        let count = 0;
        const timer = setInterval(() => {
          const far = 24 + 6 * Math.abs((count % 12) - 6);
          const at = { bubbles: true, clientX: x + far, clientY: y - far, pointerId: 1 };
          slider.dispatchEvent(new PointerEvent("pointermove", at));
          if (++count < movements) return;
          clearInterval(timer);
          resolve({ ...made, took: performance.now() - start });
        }, 40);
      }),
    movements,
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
