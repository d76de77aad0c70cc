import { addStep, bodyCard, built, clickModel, open, openStep, postJob, tool } from "./helpers";
import { expect, test } from "./server";

const block = { id: "a", type: "box", name: "Plate", size: [60, 40, 20] };
const pin = { id: "c", type: "cylinder", name: "Pin", diameter: 18, height: 60, at: [0, 0, -20] };

test("faces are moved out by clicking, and in again; what lies beside them runs on", async ({ page }) => {
  await page.goto(`/jobs/${await postJob(page, [block])}`);
  await built(page);
  await tool(page, "Fit", "Offset faces");
  await open(page).getByRole("button", { name: "Pick in the view" }).first().click();
  await clickModel(page, [5, 5, 20]);
  await open(page).getByLabel("Distance", { exact: true }).fill("2.5");
  await built(page);
  // 60 × 40 × 22.5 mm.
  await expect(bodyCard(page, "Plate")).toContainText("54 cm³");
  await addStep(page);
  await expect(page.locator('[data-step]:has-text("Offset faces")')).toHaveAttribute("data-state", "good");
});

test("a cut keeps a gap all round, and the least is told as measured; one that cannot be is refused with why", async ({
  page,
}) => {
  await openStep(
    page,
    [block, pin, { id: "s", type: "seam", preset: "subtract", stock: ["a"], cutters: ["c"] }],
    "s",
    "Subtract",
  );
  const tray = page.getByRole("region", { name: "Pieces" });
  // A bore of 18 mm through 20 mm: 48 − 5.089 cm³.
  await expect(tray).toContainText("42.91 cm³");
  await open(page).getByLabel("Gap to the cutters").fill("0.25");
  await built(page);
  // Of 18.5 mm: 48 − 5.376 cm³.
  await expect(tray).toContainText("42.62 cm³");
  await expect(open(page)).toContainText("Pin keeps off Plate by 0.25 mm at least.");
  await open(page).getByLabel("Gap to the cutters").fill("-9");
  await expect(open(page)).toContainText("has a radius that a gap of −9 mm uses up");
  await open(page).getByLabel("Gap to the cutters").fill("1/32 in");
  await built(page);
  await expect(open(page)).toContainText("Pin keeps off Plate by 0.794 mm at least.");
});
