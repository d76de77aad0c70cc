import { readFileSync } from "node:fs";
import { addStep, bodyCard, built, clickModel, newJob, open, tool } from "./helpers";
import { expect, test } from "./server";

test("a curve through points: drawn by its form, piped along, measured, released", async ({ page }) => {
  await newJob(page, "Handrail");
  await tool(page, "Draw", "Curve");
  const form = open(page);
  // The second point is 100 mm up; what is added goes on as far again.
  await form.getByRole("button", { name: "Add a point" }).click();
  await expect(form.getByLabel("Point 3 Z", { exact: true })).toHaveValue("200");
  await form.getByLabel("Point 3 X", { exact: true }).fill("3 in");
  await form.getByLabel("Point 3 Z", { exact: true }).fill("100");
  await form.getByRole("button", { name: "Add a point" }).click();
  await form.getByLabel("Point 4 Y", { exact: true }).fill("40 + 20");
  const from = (name: string) => form.getByRole("radiogroup", { name });
  await expect(from("From point 3 to the next")).toBeVisible();
  await expect(from("From point 4 to the first")).toHaveCount(0);
  await addStep(page);
  const card = bodyCard(page, "Curve");
  await expect(card).toContainText("236.2 mm long");
  await expect(card).toContainText("curve, open");

  // A point twice is told at its place, by its number; nothing is lost.
  await page.getByRole("listitem").getByRole("button", { name: "Curve", exact: true }).click();
  await form.getByRole("button", { name: "Add a point" }).click();
  await expect(form).toContainText("Points 4 and 5 are one place");
  await form.getByRole("button", { name: "Take out point 5" }).click();
  await built(page);
  await form.getByRole("button", { name: "Update the step" }).click();

  // What it measures: picked in the view.
  await page.getByRole("button", { name: "Measure", exact: true }).click();
  await clickModel(page, [0, 0, 40]);
  const measure = page.getByRole("region", { name: "Measure" });
  await expect(measure).toContainText("Length236.2 mm");
  await measure.getByRole("button", { name: "Close" }).click();

  await tool(page, "Shape", "Pipe");
  await form.getByRole("group", { name: "Path" }).getByRole("button", { name: "Pick in the view" }).click();
  await built(page);
  await clickModel(page, [40, 0, 100]);
  await expect(form.getByRole("group", { name: "Path" })).toContainText("(1)");
  await page.keyboard.press("Escape");
  await addStep(page);
  await expect(page.getByRole("region", { name: "Bench" }).getByRole("article")).toHaveCount(1);
  await expect(page.getByRole("button", { name: "1 that has served" })).toBeVisible();

  // Released as curves.
  await page.getByRole("navigation", { name: "Stages" }).getByRole("button", { name: "Release" }).click();
  const dialog = page.getByRole("dialog");
  await dialog.getByRole("radio", { name: "DXF, curves" }).click();
  await expect(dialog.getByRole("checkbox", { name: "Curve" })).toBeChecked();
  const download = page.waitForEvent("download");
  await dialog.getByRole("button", { name: "Write the file" }).click();
  const file = readFileSync((await (await download).path())!, "utf8");
  expect(file.match(/^LINE$/gm)).toHaveLength(3);
});
