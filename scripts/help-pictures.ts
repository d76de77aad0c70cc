// Takes the pictures of the tools' pages: each example is opened in the running application and its view is kept.
// npx tsx scripts/help-pictures.ts http://127.0.0.1:3210 [tool …]
import { writeFileSync } from "node:fs";
import path from "node:path";
import { startChromium } from "./chromium";
import { EXAMPLES } from "./help-examples";

const [address = "http://127.0.0.1:3210", ...wanted] = process.argv.slice(2);
const folder = path.join(process.cwd(), "public", "help");
const browser = await startChromium();
const page = await browser.newPage({ viewport: { width: 1180, height: 610 }, deviceScaleFactor: 0.6 });

/** The view of a job's part, without what lies over it. */
async function take(tool: string, id: string, part?: string): Promise<void> {
  await page.goto(`${address}/jobs/${id}`);
  if (part) await page.getByLabel("Part", { exact: true }).selectOption({ label: part });
  await page.locator('[data-engine="idle"]').waitFor({ state: "attached", timeout: 60_000 });
  await page.addStyleTag({
    content: "[data-view] > *:not(:first-child), header, nav, aside { visibility: hidden !important }",
  });
  await page.keyboard.press("Home");
  await page.waitForTimeout(600);
  const view = page.locator("[data-view]");
  const box = (await view.boundingBox())!;
  const width = Math.min(box.width, (box.height * 440) / 260);
  const height = (width * 260) / 440;
  const clip = { x: box.x + (box.width - width) / 2, y: box.y + (box.height - height) / 2, width, height };
  writeFileSync(path.join(folder, `${tool}.png`), await page.screenshot({ clip, scale: "device" }));
  const failed = await page.locator('[data-step][data-state="failed"]').count();
  console.log(`${tool}: ${failed > 0 ? `${failed} steps failed` : "good"}`);
}

for (const [tool, steps] of Object.entries(EXAMPLES)) {
  if (wanted.length > 0 && !wanted.includes(tool)) continue;
  const document = {
    format: "bold-seam-job",
    version: 1,
    name: `Help ${tool}`,
    parts: [{ id: "p", name: "Part", steps }],
  };
  const answer = await fetch(`${address}/api/jobs`, {
    method: "POST",
    headers: { "Content-Type": "application/json" },
    body: JSON.stringify({ document }),
  });
  const made = (await answer.json()) as { id: string; message?: string };
  if (!answer.ok) throw new Error(`${tool}: ${made.message}`);
  await take(tool, made.id);
  await fetch(`${address}/api/jobs/${made.id}`, { method: "DELETE" });
}
// What the demo itself shows.
const jobs = (await (await fetch(`${address}/api/jobs`)).json()) as { id: string; name: string }[];
const demo = jobs.find(({ name }) => name === "Star Pier");
for (const [tool, part] of [
  ["import", "Foot pad mould"],
  ["bring-in", "Electronics tray"],
] as const)
  if (demo && (wanted.length === 0 || wanted.includes(tool))) await take(tool, demo.id, part);
await browser.close();
