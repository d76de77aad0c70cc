import { addStep, bodyCard, built, newJob, open, saved, tool } from "./helpers";
import { expect, test } from "./server";

test("a window through two parts: brought in and cut, behind when its source is edited, compared, refreshed; told when its source is gone", async ({
  page,
}) => {
  await newJob(page, "Housing");
  await tool(page, "Shape", "Block");
  await addStep(page);
  const chooser = page.getByLabel("Part", { exact: true });
  const go = async (label: string) => {
    await chooser.selectOption({ label });
    await built(page);
  };
  await go("Add a part");
  await expect(page.getByText("The bench is empty")).toBeVisible();

  // The other half, larger, and the window's tool brought in and cut out of it.
  await tool(page, "Shape", "Block");
  for (const [size, value] of [
    ["X", "150"],
    ["Y", "150"],
    ["Z", "60"],
  ] as const)
    await open(page).getByLabel(`Size ${size}`).fill(value);
  await addStep(page);
  await tool(page, "Fit", "Bring in");
  await expect(open(page)).toContainText("Pick the part to bring something in from.");
  await open(page).getByLabel("Of the part").selectOption({ label: "Part 1" });
  await open(page).getByRole("checkbox", { name: "Block" }).click();
  await addStep(page);
  await expect(bodyCard(page, "Block 2")).toContainText("1000 cm³");
  await tool(page, "Seam", "Subtract");
  await open(page).getByRole("group", { name: "Stock" }).getByRole("checkbox", { name: "Block", exact: true }).click();
  await open(page).getByRole("group", { name: "Cutters" }).getByRole("checkbox", { name: "Block 2" }).click();
  await addStep(page);
  // 150 × 150 × 60 less 100 × 100 × 60.
  await expect(bodyCard(page, "Block")).toContainText("750 cm³");
  await expect(page.getByRole("button", { name: "1 link, none behind" })).toBeVisible();

  // Its source is edited: here all stays, and is marked on the step, the part and the job.
  await go("Part 1");
  await page.getByRole("listitem").getByRole("button", { name: "Block", exact: true }).click();
  await open(page).getByLabel("Size X").fill("80");
  await built(page);
  await page.getByRole("button", { name: "Update the step" }).click();
  await saved(page);
  await expect(page.getByRole("button", { name: "1 link behind" })).toBeVisible({ timeout: 20_000 });
  await expect(chooser.getByRole("option", { name: "Part 2 (behind)" })).toBeAttached();
  // And round the other way there is no way: the second part is made of this one.
  await tool(page, "Fit", "Bring in");
  await expect(open(page).getByRole("option", { name: /^Part 2: is made of Part 1/ })).toBeDisabled();
  await page.getByRole("button", { name: "Discard" }).click();
  await go("Part 2 (behind)");
  await expect(bodyCard(page, "Block")).toContainText("750 cm³");
  const link = page.locator('[data-link="stale"]');
  await expect(link).toContainText("“Part 1” has changed since it was taken.", { timeout: 20_000 });

  // Old and new together, with what differs.
  await link.getByRole("button", { name: "Compare" }).click();
  const panel = page.getByRole("region", { name: "Compare" });
  await expect(panel).toContainText("1000 cm³ → 800 cm³: 200 cm³ less");
  await expect(panel).toContainText("Up to 10 mm apart");
  await panel.getByRole("button", { name: "Refresh" }).click();
  await built(page);
  await expect(panel).toBeHidden();
  // 1350 less 80 × 100 × 60.
  await expect(bodyCard(page, "Block")).toContainText("870 cm³");
  await expect(page.getByRole("button", { name: "1 link, none behind" })).toBeVisible({ timeout: 20_000 });

  // A part that others need is not deleted unasked; what was taken of it stays, and says so.
  await go("Part 1");
  await page.getByRole("button", { name: "Delete the part", exact: true }).click();
  const dialog = page.getByRole("alertdialog");
  await expect(dialog).toContainText("Part 2: step 2, Bring in");
  await dialog.getByRole("button", { name: "Delete it all the same" }).click();
  await expect(chooser).toHaveValue("part2");
  await built(page);
  await expect(bodyCard(page, "Block")).toContainText("870 cm³");
  await expect(page.locator('[data-step] >> text="“Part 1” is no longer in the job."')).toBeVisible({
    timeout: 20_000,
  });
  await page.getByRole("button", { name: "Cut the link" }).click();
  await built(page);
  await expect(page.getByText("A copy of its own, of “Part 1”")).toBeVisible();
  await expect(bodyCard(page, "Block")).toContainText("870 cm³");
  await page.getByRole("button", { name: /^Undo/ }).click();
  await page.getByRole("button", { name: /^Undo: Delete the part/ }).click();
  await built(page);

  // Where the job says so, it follows at once.
  await page.getByRole("button", { name: /^1 link/ }).click();
  const list = page.getByRole("dialog", { name: "Links between parts" });
  await expect(list.getByRole("list", { name: "Links" })).toContainText("Part 2 uses “Part 1”: step 2, Bring in");
  await list.getByLabel("What is brought in follows at once").click();
  await page.keyboard.press("Escape");
  await go("Part 1");
  await page.getByRole("listitem").getByRole("button", { name: "Block", exact: true }).click();
  await open(page).getByLabel("Size X").fill("50");
  await built(page);
  await page.getByRole("button", { name: "Update the step" }).click();
  await saved(page);
  await go("Part 2");
  await expect(bodyCard(page, "Block")).toContainText("1050 cm³");
});
