import { addStep, bodyCard, built, open, postJob, tool } from "./helpers";
import { expect, test } from "./server";

/** An open trough, 60 × 40 × 30, its walls 5: 50 × 30 within, 25 deep. */
const trough = [
  { id: "a", type: "box", name: "Trough", size: [60, 40, 30] },
  { id: "h", type: "shell", body: ["a"], open: [{ body: "a:block", face: "a:side:z+" }], thickness: 5 },
];

test("a trough is filled to a level, and to its brim; what encloses nothing says so, with a way on", async ({
  page,
}) => {
  const level = { id: "w", type: "workplane", name: "Level", base: "xy", offset: 15 };
  const id = await postJob(page, [...trough, level]);
  await page.goto(`/jobs/${id}`);
  await built(page);

  // Nothing is enclosed yet: the error says what closes it, and one press does.
  await tool(page, "Seam", "Fill");
  await open(page).getByRole("group", { name: "Bodies around it" }).getByRole("checkbox", { name: "Trough" }).click();
  await built(page);
  await expect(open(page)).toContainText("Trough encloses nothing: it is open here. Add what closes it");
  await open(page).getByRole("button", { name: "Close the openings" }).click();
  await built(page);
  const tray = page.getByRole("region", { name: "Pieces" });
  await expect(tray).toContainText("1 piece");
  await expect(tray.getByText("enclosed by Trough")).toBeVisible();
  await expect(tray).toContainText("37.5 cm³");

  // A level in it makes two of it; scrapped above, what is below is read off.
  await open(page).getByRole("group", { name: "What else bounds it" }).getByRole("checkbox", { name: "Level" }).click();
  await built(page);
  await expect(tray).toContainText("2 pieces");
  await open(page).getByRole("switch", { name: "Close openings" }).click();
  await built(page);
  await expect(tray).toContainText("1 piece");
  await expect(tray.locator("[data-piece]")).toContainText("15 cm³");
  await expect(tray.locator("[data-piece]")).toContainText("behind Level");
  await addStep(page);
  await expect(bodyCard(page, "Fill")).toContainText("15 cm³");
  await expect(bodyCard(page, "Trough")).toBeVisible();

  // The level rises: so does what is filled.
  await page.locator('[data-step="w"]').getByRole("button", { name: "Level", exact: true }).click();
  await open(page).getByLabel("Offset", { exact: true }).fill("25");
  await page.keyboard.press("Enter");
  await built(page);
  await expect(bodyCard(page, "Fill")).toContainText("30 cm³");
});

test("a split becomes a fill and a split again, with what was picked", async ({ page }) => {
  const level = { id: "w", type: "workplane", name: "Level", base: "xy", offset: 15 };
  const cut = { id: "s", type: "seam", name: "Cut", preset: "split", stock: ["a"], cutters: ["w"] };
  const id = await postJob(page, [...trough, level, cut]);
  await page.goto(`/jobs/${id}`);
  await built(page);
  await page.locator('[data-step="s"]').getByRole("button", { name: "Cut", exact: true }).click();
  await built(page);
  const tray = page.getByRole("region", { name: "Pieces" });
  await expect(tray).toContainText("2 pieces");
  // Of two pieces, too, those like one are shown, and all again.
  await tray.getByRole("button", { name: "All like piece 1" }).click();
  await expect(tray.locator("[data-piece]")).toHaveCount(1);
  await tray.getByRole("button", { name: "Show all pieces again" }).click();
  await expect(tray.locator("[data-piece]")).toHaveCount(2);
  await open(page).getByRole("radio", { name: "Fill", exact: true }).click();
  await built(page);
  await expect(tray.locator("[data-piece]")).toHaveCount(1);
  await expect(tray).toContainText("15 cm³");
  await open(page).getByRole("radio", { name: "Split", exact: true }).click();
  await built(page);
  await expect(tray).toContainText("2 pieces");
  await expect(open(page).getByRole("checkbox", { name: "Level" })).toBeChecked();
});
