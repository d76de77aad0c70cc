// Takes the pictures of docs/screenshots from a running demo: npx tsx scripts/screenshots.ts http://127.0.0.1:3210 [name …]
import path from "node:path";
import type { Page } from "@playwright/test";
import { startChromium } from "./chromium";

const [address = "http://127.0.0.1:3210", ...wanted] = process.argv.slice(2);
const folder = path.join(process.cwd(), "docs", "screenshots");
const browser = await startChromium();

const idle = async (page: Page) => {
  await page.waitForTimeout(400);
  await page.locator('[data-engine="idle"]').waitFor({ state: "attached", timeout: 60_000 });
  await page.waitForTimeout(500);
};
const part = async (page: Page, label: string) => {
  await page.getByLabel("Part", { exact: true }).selectOption({ label });
  await idle(page);
};
const step = (page: Page, title: string) =>
  page.getByRole("complementary", { name: "Build sheet" }).getByRole("button", { name: title, exact: true }).click();
const at = async (page: Page, place: number[]) => {
  const point = await page.evaluate(
    (p) =>
      (window as never as { boldSeamView: { project(at: number[]): { x: number; y: number } } }).boldSeamView.project(
        p,
      ),
    place,
  );
  const box = (await page.locator("canvas[tabindex]").boundingBox())!;
  return { x: box.x + point.x, y: box.y + point.y };
};

async function job(document: object): Promise<string> {
  const answer = await fetch(`${address}/api/jobs`, {
    method: "POST",
    headers: { "Content-Type": "application/json" },
    body: JSON.stringify({ document: { format: "bold-seam-job", version: 1, ...document } }),
  });
  return ((await answer.json()) as { id: string }).id;
}
const remove = (id: string) => fetch(`${address}/api/jobs/${id}`, { method: "DELETE" });

const VIEWS: Record<string, (page: Page) => Promise<void>> = {
  workspace: async () => {},
  seam: async (page) => {
    await step(page, "Part the block");
    await idle(page);
    await page.getByRole("slider", { name: /Pull/ }).focus();
    for (let i = 0; i < 6; i++) await page.keyboard.press("PageUp");
    await page.waitForTimeout(400);
  },
  fill: async (page) => {
    await part(page, "Ballast flask");
    await step(page, "Fill with lead shot");
    await idle(page);
  },
  places: async (page) => {
    await page.getByLabel("Part", { exact: true }).selectOption("whole");
    await page
      .getByText(/8 parts/)
      .first()
      .waitFor({ timeout: 60_000 });
    await page.getByRole("button", { name: "Where Strap bracket, left stands" }).click();
    await page.waitForTimeout(800);
  },
  motion: async (page) => {
    await part(page, "Yoke");
    await step(page, "Room to tilt");
    await idle(page);
    await page.getByRole("slider", { name: "How far on its way" }).focus();
    await page.keyboard.press("End");
    await page.getByText("It goes into nothing on its way").waitFor({ timeout: 60_000 });
    await page.getByLabel("Standard view").selectOption("left");
    await page.waitForTimeout(600);
  },
  picked: async (page) => {
    const { x, y } = await at(page, [20, -20, 36]);
    await page.mouse.move(x, y);
    await page.mouse.click(x, y, { button: "right" });
    await page.waitForTimeout(400);
  },
  tools: async (page) => {
    await part(page, "Hub");
    await page.keyboard.press("2");
    await page.keyboard.press("ArrowRight");
    await page.waitForTimeout(300);
  },
  sketch: async (page) => {
    await part(page, "Cradle block");
    await step(page, "Section");
    await idle(page);
  },
  shaping: async (page) => {
    await part(page, "Ballast flask");
    await page.keyboard.press("x");
    await page.waitForTimeout(400);
  },
  measure: async (page) => {
    await part(page, "Strap bracket");
    await page.keyboard.press("m");
    const panel = page.getByRole("region", { name: "Measure" });
    // Along the pin, against the bracket that it sits in.
    await panel.getByText("Pick from a list").click();
    await panel.getByRole("button", { name: "Straight, 26 mm long" }).first().click();
    await panel.getByRole("group", { name: "Bracket block" }).getByRole("button", { name: "The whole body" }).click();
    await panel.getByText("Pick from a list").click();
    await panel.getByRole("button", { name: "Chart the gap" }).click();
    await panel.getByRole("region", { name: "Gap" }).waitFor({ timeout: 60_000 });
    await page.waitForTimeout(1500);
  },
  parameters: async (page) => {
    await part(page, "Cradle block");
    await page.keyboard.press("p");
    await page.waitForTimeout(400);
  },
  section: async (page) => {
    await part(page, "Cradle block");
    await page.keyboard.press("x");
    await page.waitForTimeout(500);
  },
  check: async (page) => {
    await part(page, "Electronics tray");
    await page
      .getByRole("button", { name: /^Select / })
      .first()
      .click();
    await page.waitForTimeout(500);
  },
  audit: async (page) => {
    await part(page, "Strap bracket");
    await page.getByRole("button", { name: /Check$/ }).click();
    await page.getByRole("button", { name: /^Fit audit/ }).click();
    const audit = page.getByRole("region", { name: "Fit audit" });
    await audit.getByRole("button", { name: /Strap end – Bracket block|Bracket block – Strap end/ }).click();
    await audit.getByRole("button", { name: "Cut through here" }).click();
    await page.waitForTimeout(600);
  },
  draft: async (page) => {
    await part(page, "Hub");
    await page.getByRole("navigation", { name: "Stages" }).getByRole("button", { name: "Check" }).click();
    await page.getByRole("button", { name: /Draft/ }).first().click();
    await page.waitForTimeout(1500);
  },
  release: async (page) => {
    await page.keyboard.press("r");
    await page.waitForTimeout(400);
  },
  graphite: async (page) => {
    await page.getByRole("button", { name: "Graphite" }).click();
    await part(page, "Top plate");
  },
};

const jobs = (await (await fetch(`${address}/api/jobs`)).json()) as { id: string; name: string }[];
const demo = jobs.find(({ name }) => name === "Star Pier")!.id;

async function take(name: string, id: string, set: (page: Page) => Promise<void>): Promise<void> {
  if (wanted.length > 0 && !wanted.includes(name)) return;
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
  await page.addInitScript(() => {
    if (!localStorage.getItem("bold-seam:settings")) localStorage.setItem("bold-seam:settings", '{"walked":true}');
  });
  await page.goto(id === "" ? address : `${address}/jobs/${id}`);
  if (id !== "") await idle(page);
  else await page.waitForTimeout(1500);
  await set(page);
  await page.screenshot({ path: path.join(folder, `${name}.png`) });
  await page.close();
  console.log(name);
}

await take("jobs", "", async () => {});
for (const [name, set] of Object.entries(VIEWS)) await take(name, demo, set);
const drawn = (id: string, points: number[][]) => ({
  id,
  type: "sketch",
  entities: points.flatMap(([x, y], i): Record<string, unknown>[] => [
    { id: `p${i}`, type: "point", x, y },
    ...(i > 0 ? [{ id: `l${i}`, type: "line", from: `p${i - 1}`, to: `p${i}` }] : []),
  ]),
});
const skin = (id: string, name: string, sketch: string) => ({
  id,
  type: "extrude",
  name,
  sketch: [sketch],
  as: "sheet",
  extent: "symmetric",
  distance: 60,
});
const leak = {
  name: "Tray skins",
  parts: [
    {
      id: "p",
      name: "Tray skins",
      steps: [
        drawn("k", [
          [-26, 0],
          [26, 0],
        ]),
        skin("a", "Floor", "k"),
        drawn("q", [
          [-20, 0.02],
          [-20, 18],
          [20, 18],
          [20, 0.05],
        ]),
        skin("b", "Hood", "q"),
        { id: "u", type: "workplane", name: "Front end", base: "xy", offset: -25 },
        { id: "v", type: "workplane", name: "Back end", base: "xy", offset: 25 },
        { id: "s", type: "seam", name: "Fill the tray", preset: "fill", stock: ["a", "b"], cutters: ["u", "v"] },
      ],
    },
  ],
};
if (wanted.length === 0 || wanted.includes("leak")) {
  const id = await job(leak);
  await take("leak", id, async (page) => {
    await step(page, "Fill the tray");
    await idle(page);
  });
  await remove(id);
}
await browser.close();
