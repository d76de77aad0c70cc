import { type CDPSession, chromium, type Page } from "@playwright/test";
import { TestServer } from "../e2e/server";
import { median } from "./ratios";

/**
 * What an action costs with many pieces, in the page's own time for scripts, styles and layout, against one frame of 16.7 ms.
 * The application has to be built.
 */
const FRAME = 16.7;

/** A block cut into nx · ny pieces. */
const grid = (nx: number, ny: number) => {
  const plane = (id: string, base: string) => (_: unknown, i: number) => ({
    id: `${id}${i}`,
    type: "workplane",
    base,
    offset: (i + 1) * 10,
  });
  const planes = [
    ...Array.from({ length: nx - 1 }, plane("x", "yz")),
    ...Array.from({ length: ny - 1 }, plane("y", "zx")),
  ];
  return [
    { id: "block", type: "box", size: [nx * 10, ny * 10, 12], at: [nx * 5, ny * 5, 0] },
    ...planes,
    { id: "cut", type: "seam", preset: "split", stock: ["block"], cutters: planes.map(({ id }) => id) },
  ];
};

/** What the page's scripts may take of a frame, ms: the rest is the browser's. */
const SCRIPT = 8;

/** ms of scripts a frame, while something goes on for half a second. */
async function scripts(session: CDPSession, page: Page, going: (i: number) => Promise<unknown>): Promise<number> {
  const script = async () =>
    1000 * (await session.send("Performance.getMetrics")).metrics.find(({ name }) => name === "ScriptDuration")!.value;
  // As a text: what runs this file names inner functions by a helper that the page does not have.
  await page.evaluate("frames = 0; (count = () => { frames++; requestAnimationFrame(count); })()");
  const before = await script();
  for (let i = 0; i < 30; i++) await going(i);
  const frames = await page.evaluate<number>("frames");
  return ((await script()) - before) / Math.max(frames, 1);
}

/** The page's time for its own work so far, ms. */
async function worked(session: CDPSession): Promise<number> {
  const { metrics } = await session.send("Performance.getMetrics");
  const of = (name: string) => metrics.find((metric) => metric.name === name)?.value ?? 0;
  return 1000 * (of("ScriptDuration") + of("LayoutDuration") + of("RecalcStyleDuration"));
}

async function cost(
  session: CDPSession,
  page: Page,
  times: number,
  action: (i: number) => Promise<unknown>,
): Promise<number> {
  const all: number[] = [];
  for (let i = 0; i < times; i++) {
    const before = await worked(session);
    await action(i);
    await page.evaluate(() => new Promise((resolve) => requestAnimationFrame(() => requestAnimationFrame(resolve))));
    all.push((await worked(session)) - before);
  }
  return median(all);
}

const server = new TestServer(0, false);
await server.start();
const browser = await chromium.launch({
  executablePath: process.env.CHROMIUM ?? "/usr/bin/chromium",
  args: ["--no-sandbox", "--enable-unsafe-swiftshader"],
});
try {
  const address = `http://127.0.0.1:${process.env.E2E_PORT ?? "3299"}`;
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
  const session = await page.context().newCDPSession(page);
  await session.send("Performance.enable");
  for (const [nx, ny] of [
    [2, 1],
    [9, 6],
    [25, 5],
    [17, 17],
    [25, 20],
  ] as const) {
    const document = {
      format: "bold-seam-job",
      version: 1,
      name: "Pieces",
      parts: [{ id: "p", name: "P", steps: grid(nx, ny) }],
    };
    const made = await page.request.post(`${address}/api/jobs`, { data: { document } });
    await page.goto(`${address}/jobs/${(await made.json()).id}`);
    const idle = () => page.locator('[data-engine="idle"]').waitFor({ state: "attached", timeout: 120_000 });
    await idle();
    const title = page.locator('[data-step="cut"]').getByRole("button", { name: "Split", exact: true });
    const opening = async () => {
      const before = await worked(session);
      await title.click();
      // Plain selectors: what a test asks the page by its words is the page's own time, too.
      await page.locator("[data-piece] >> nth=0").waitFor({ timeout: 120_000 });
      await idle();
      return (await worked(session)) - before;
    };
    // The first time the browser compiles what the form needs; each later time is what opening costs.
    const rows: [string, number][] = [["open the step, the first time", await opening()]];
    const again: number[] = [];
    for (let i = 0; i < 5; i++) {
      await page.locator("[data-open-step] button", { hasText: "Discard" }).click();
      await idle();
      again.push(await opening());
    }
    rows.push(["open the step", median(again)]);
    const slider = page.getByRole("slider", { name: "Pull pieces apart" });
    await slider.focus();
    rows.push(["pull apart, a step", await cost(session, page, 15, () => page.keyboard.press("ArrowRight"))]);
    const cards = page.locator("[data-piece]");
    rows.push(["hover over a card", await cost(session, page, 10, (i) => cards.nth(i % 2).hover())]);
    rows.push([
      "a fate",
      await cost(session, page, 6, (i) =>
        page
          .locator(`[data-piece] [role=radio] >> nth=${i % 2 ? 0 : 1}`)
          .click()
          .then(idle),
      ),
    ]);
    const tray = (await page.locator("[data-piece]").first().boundingBox())!;
    await page.mouse.move(tray.x + 40, tray.y + 40);
    const frames: [string, number][] = [
      ["the tray scrolled", await scripts(session, page, (i) => page.mouse.wheel(i < 15 ? 240 : -240, 0))],
      [
        "pieces pulled apart",
        await slider
          .focus()
          .then(() => scripts(session, page, (i) => page.keyboard.press(i < 15 ? "ArrowRight" : "ArrowLeft"))),
      ],
    ];
    for (const [what, ms] of frames)
      console.log(
        `${`${nx * ny} pieces: scripts a frame, ${what}`.padEnd(64)} ${(ms / SCRIPT).toFixed(3).padStart(8)}   goal ≤ 1 (8 ms)`,
      );
    for (const [what, ms] of rows)
      console.log(`${`${nx * ny} pieces: ${what}`.padEnd(64)} ${(ms / FRAME).toFixed(3).padStart(8)}   goal ≤ 1 frame`);
  }
} finally {
  await browser.close();
  await server.close();
}
