import { addStep, bodyCard, built, newJob, open, saved, tool } from "./helpers";
import { expect, test } from "./server";

test("a body of another part is brought in, follows it, and is asked about before the part goes", async ({ page }) => {
  await newJob(page, "Plug and seat");
  await tool(page, "Shape", "Block");
  await addStep(page);
  const chooser = page.getByLabel("Part", { exact: true });
  await chooser.selectOption({ label: "Add a part" });
  await expect(page.getByText("The bench is empty")).toBeVisible();

  await tool(page, "Fit", "Bring in");
  await expect(open(page)).toContainText("Pick the part to bring something in from.");
  await open(page).getByLabel("Of the part").selectOption({ label: "Part 1" });
  await open(page).getByRole("checkbox", { name: "Block" }).click();
  await addStep(page);
  await expect(bodyCard(page, "Block")).toContainText("1000 cm³");

  // What is changed there is changed here.
  await chooser.selectOption({ label: "Part 1" });
  await built(page);
  await page.getByRole("listitem").getByRole("button", { name: "Block", exact: true }).click();
  await open(page).getByLabel("Size Z").fill("50");
  await built(page);
  await page.getByRole("button", { name: "Update the step" }).click();
  await saved(page);
  // And round the other way there is no way: the second part is made of this one.
  await tool(page, "Fit", "Bring in");
  await expect(open(page).getByRole("option", { name: /^Part 2: is made of Part 1/ })).toBeDisabled();
  await page.getByRole("button", { name: "Discard" }).click();
  await chooser.selectOption({ label: "Part 2" });
  await built(page);
  await expect(bodyCard(page, "Block")).toContainText("500 cm³");

  // A part that others need is not deleted unasked.
  await chooser.selectOption({ label: "Part 1" });
  await built(page);
  await page.getByRole("button", { name: "Delete the part", exact: true }).click();
  const dialog = page.getByRole("alertdialog");
  await expect(dialog).toContainText("Part 2: step 1, Bring in");
  await dialog.getByRole("button", { name: "Delete it all the same" }).click();
  await expect(chooser).toHaveValue("part2");
  await built(page);
  await expect(page.getByText("is no longer in the job. Pick another.")).toBeVisible();
  await expect(page.getByRole("button", { name: "Delete the part", exact: true })).toBeDisabled();
  await page.getByRole("button", { name: /^Undo/ }).click();
  await built(page);
  await expect(bodyCard(page, "Block")).toContainText("500 cm³");
});
