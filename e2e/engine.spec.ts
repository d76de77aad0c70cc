import { bodyCard, built, open, postJob, saved } from "./helpers";
import { expect, test } from "./server";

// As people have it: an engine in reserve, both practised.
test.use({ lean: false });
// In servers of their own: both cores take a part.
test.describe.configure({ mode: "parallel" });

const block = { id: "a", type: "box", size: [40, 40, 40] };

test("killing the engine in the middle of its work loses nothing: it starts again and finishes", async ({ page }) => {
  const planes = Array.from({ length: 5 }, (_, i) => ({
    id: `p${i}`,
    type: "workplane",
    base: "xy",
    offset: 5 + 6 * i,
  }));
  const id = await postJob(page, [
    block,
    { id: "b", type: "sphere", diameter: 30, at: [10, 5, 25] },
    { id: "c", type: "cylinder", diameter: 20, height: 90, at: [-45, 0, 20], axis: "x" },
    ...planes,
    { id: "cut", type: "seam", preset: "subtract", stock: ["a"], cutters: ["b", "c"] },
    { id: "s", type: "seam", stock: ["cut"], cutters: planes.map((plane) => plane.id) },
  ]);
  await page.goto(`/jobs/${id}`);
  await built(page);
  await page.locator('[data-step="b"]').getByRole("button", { name: "Sphere", exact: true }).click();
  await open(page).getByLabel("Diameter").fill("31");
  await page.getByRole("button", { name: "Update the step" }).click();
  await saved(page);
  // All engines die: the one at work and the one in reserve.
  for (const worker of page.workers()) void worker.evaluate(() => self.close()).catch(() => {});
  await page.locator('[data-step="b"]').getByRole("button", { name: "Sphere", exact: true }).click();
  await open(page).getByLabel("Diameter").fill("32");
  await built(page);
  for (const worker of page.workers()) void worker.evaluate(() => setTimeout(() => self.close(), 0)).catch(() => {});
  await page.getByRole("button", { name: "Update the step" }).click();
  await built(page);
  await saved(page);
  await expect(page.locator('[data-state="good"]')).toHaveCount(10);
  const stored = await (await page.request.get(`/api/jobs/${id}`)).json();
  expect(stored.document.parts[0].steps[1].diameter).toBe(32);
});

test("stopping a long evaluation leaves the last good picture and the next edit builds", async ({ page }) => {
  // Four thousand pieces: many times as long as a person waits before being told what goes on, on any machine.
  const planes = ["xy", "yz", "zx"].flatMap((base) =>
    Array.from({ length: 15 }, (_, i) => ({
      id: `${base}${i}`,
      type: "workplane",
      base,
      offset: base === "xy" ? 2 + 2.4 * i : -17 + 2.4 * i,
    })),
  );
  const id = await postJob(
    page,
    [block, ...planes, { id: "s", type: "seam", stock: ["a"], cutters: planes.map((plane) => plane.id) }],
    { units: "mm" },
  );
  await page.goto(`/jobs/${id}`);
  // Who waits is told at which step it is, at what of it, and since when.
  await expect(page.locator("[data-building]")).toContainText(/Split.*\d+ s/, { timeout: 30_000 });
  await page.getByRole("button", { name: "Stop" }).click();
  await expect(page.locator('[data-engine="stopped"]')).toBeVisible();
  await page.locator('[data-step="s"], [data-step="a"]').first().waitFor();
  await page.getByRole("button", { name: "More for step 47" }).click();
  await page.getByRole("menuitem", { name: "Leave out" }).click();
  await built(page);
  await expect(bodyCard(page, "Block")).toBeVisible();
});
