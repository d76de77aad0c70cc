import type { Page } from "@playwright/test";
import { addStep, bodyCard, built, newJob, open, postJob, saved, tool } from "./helpers";
import { expect, test } from "./server";

const block = { id: "a", type: "box", size: [40, 40, 40] };

async function setSize(page: Page, step: string, axis: "X" | "Y" | "Z", value: string): Promise<void> {
  await page.locator(`[data-step="${step}"]`).getByRole("button", { name: "Block", exact: true }).click();
  await open(page).getByLabel(`Size ${axis}`).fill(value);
  await built(page);
  await page.getByRole("button", { name: "Update the step" }).click();
}

test("a second tab's stale write is refused and explained; each way out loses nothing", async ({ page, context }) => {
  const id = await postJob(page, [block]);
  const other = await context.newPage();
  for (const tab of [page, other]) {
    await tab.goto(`/jobs/${id}`);
    await built(tab);
  }
  // A tab behind another one draws once a second.
  await page.bringToFront();
  await setSize(page, "a", "X", "60");
  await saved(page);

  await other.bringToFront();
  await setSize(other, "a", "Y", "70");
  const notice = other.getByRole("alert").filter({ hasText: "changed in another window" });
  await expect(notice).toContainText("“Change Block”");
  await expect(notice).toContainText("is not saved, and not lost");
  await expect(other.locator('[data-save="stale"]')).toBeVisible();
  // The server has the first tab's value, untouched.
  const stored = await (await page.request.get(`/api/jobs/${id}`)).json();
  expect(stored.document.parts[0].steps[0].size).toEqual([60, 40, 40]);
  // Even a reload of the stale tab keeps its edit.
  await other.reload();
  await expect(other.locator('[data-save="stale"]')).toBeVisible();
  await other.getByRole("button", { name: "Put mine on top" }).click();
  await saved(other);
  const merged = await (await page.request.get(`/api/jobs/${id}`)).json();
  expect(merged.document.parts[0].steps[0].size[1]).toBe(70);

  // The first tab is stale now; it saves its edit as a copy.
  await page.bringToFront();
  await setSize(page, "a", "Z", "80");
  await page.getByRole("button", { name: "Save mine as a copy" }).click();
  await expect(page.getByRole("heading", { name: "Test job (copy)", level: 1 })).toBeVisible();
  const copy = await (await page.request.get(`/api/jobs/${page.url().split("/").pop()}`)).json();
  expect(copy.document.parts[0].steps[0].size).toEqual([60, 40, 80]);
});

test("killing the server between two edits loses neither", async ({ page, server }) => {
  const id = await postJob(page, [block]);
  await page.goto(`/jobs/${id}`);
  await built(page);
  await setSize(page, "a", "X", "50");
  await saved(page);
  await server.kill();
  await setSize(page, "a", "Y", "55");
  await expect(page.locator('[data-save="waiting"]')).toBeVisible();
  await expect(page.getByRole("alert").filter({ hasText: "kept in this browser" })).toBeVisible();
  await server.start();
  await saved(page);
  const stored = await (await page.request.get(`/api/jobs/${id}`)).json();
  expect(stored.document.parts[0].steps[0].size).toEqual([50, 55, 40]);
  expect(stored.revision).toBe(3);
});

test("hold point, leaving out, renaming and moving steps, by keyboard too", async ({ page }) => {
  await newJob(page, "Sheet work");
  await tool(page, "Shape", "Block");
  await addStep(page);
  await tool(page, "Shape", "Sphere");
  await addStep(page);
  await tool(page, "Shape", "Cylinder");
  await addStep(page);
  const names = () =>
    page.locator("[data-step]").evaluateAll((rows) => rows.map((row) => row.getAttribute("data-step")));
  expect(await names()).toEqual(["s1", "s2", "s3"]);

  await page.getByRole("button", { name: "More for step 1" }).click();
  await page.getByRole("menuitem", { name: "Hold after this step" }).click();
  await expect(page.locator('[data-state="held"]')).toHaveCount(2);
  await built(page);
  await expect(bodyCard(page, "Sphere")).toBeHidden();
  await page.getByRole("button", { name: "Build all" }).click();
  await expect(page.locator('[data-state="held"]')).toHaveCount(0);

  await page.getByRole("button", { name: "More for step 2" }).click();
  await page.getByRole("menuitem", { name: "Leave out" }).click();
  await expect(page.locator('[data-step="s2"]')).toHaveAttribute("data-state", "suppressed");

  await page.getByRole("button", { name: "Move step 3. Space to pick up, arrow keys to move." }).focus();
  await page.keyboard.press("Space");
  await page.waitForTimeout(300);
  await page.keyboard.press("ArrowUp");
  await page.waitForTimeout(300);
  await page.keyboard.press("Space");
  await expect.poll(names).toEqual(["s1", "s3", "s2"]);

  await page.getByRole("button", { name: "More for step 1" }).click();
  await page.getByRole("menuitem", { name: "Rename" }).click();
  await page.getByLabel("New name").fill("Base plate");
  await page.keyboard.press("Enter");
  await expect(
    page.getByRole("complementary", { name: "Build sheet" }).getByRole("button", { name: "Base plate" }),
  ).toBeVisible();

  // The body is called as its step, until it has a name of its own.
  await bodyCard(page, "Base plate").getByRole("button", { name: "Base plate", exact: true }).click();
  await page.getByLabel("New name").fill("Plate");
  await page.keyboard.press("Enter");
  await expect(bodyCard(page, "Plate")).toBeVisible();
  await saved(page);
  await page.keyboard.press("Control+z");
  await expect(bodyCard(page, "Base plate")).toBeVisible();
  await page.keyboard.press("Control+Shift+z");
  await expect(bodyCard(page, "Plate")).toBeVisible();
});
