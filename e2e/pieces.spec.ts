import { built, open, postJob } from "./helpers";
import { expect, test } from "./server";

const plane = (base: string) => (offset: number, i: number) => ({
  id: `${base}${i}`,
  type: "workplane",
  name: `${base === "xy" ? "Level" : base === "yz" ? "Across" : "Along"} ${i + 1}`,
  base,
  offset,
});
/** 27 pieces; the middles are 20 wide, the ends 10, 20 and 30. */
const steps = [
  { id: "b", type: "box", name: "Block", size: [60, 60, 60], at: [0, 0, -30] },
  ...[-20, 0].map(plane("yz")),
  ...[-20, 0].map(plane("zx")),
  ...[-20, 0].map(plane("xy")),
  {
    id: "s",
    type: "seam",
    name: "Cut",
    preset: "split",
    stock: ["b"],
    cutters: ["yz0", "yz1", "zx0", "zx1", "xy0", "xy1"],
  },
];

test("27 pieces by hand, by filter, by rule, by invert; rules hold when the cutters move", async ({ page }) => {
  const id = await postJob(page, steps);
  await page.goto(`/jobs/${id}`);
  await built(page);
  await page.locator('[data-step="s"]').getByRole("button", { name: "Cut", exact: true }).click();
  await built(page);
  const tray = page.getByRole("region", { name: "Pieces" });
  const only = tray.getByLabel("Show pieces that lie");
  await expect(tray).toContainText("27 pieces");

  // A filter of two conditions shows three, and one fate for all of them is a rule.
  await only.selectOption({ label: "behind Across 1" });
  await expect(tray).toContainText("9 of 27: behind Across 1");
  await only.selectOption({ label: "behind Along 1" });
  await expect(tray).toContainText("3 of 27: behind Across 1, behind Along 1");
  await expect(tray.locator("[data-piece]")).toHaveCount(3);
  await tray.getByRole("button", { name: "Scrap these" }).click();
  await built(page);
  await expect(tray).toContainText("24 stay");
  const rules = tray.getByRole("list", { name: "Rules" });
  await expect(rules.getByRole("listitem")).toHaveText("Scrapped: behind Across 1, behind Along 1");

  // By size, largest first; then all like one of them.
  await tray.getByLabel("Volume at least").fill("27000");
  await expect(tray).toContainText("1 of 27: 27 cm³ or more");
  await tray.getByRole("button", { name: "Show all pieces again" }).click();
  await tray.getByLabel("Order of the pieces").selectOption("largest");
  await expect(tray.locator("[data-piece]").first()).toContainText("27 cm³");
  await tray
    .locator("[data-piece]")
    .first()
    .getByRole("button", { name: /^All like piece/ })
    .click();
  await expect(tray.locator("[data-piece]")).toHaveCount(1);
  await tray.getByRole("button", { name: "Scrap these" }).click();
  await built(page);
  await expect(tray).toContainText("23 stay");
  await expect(rules.getByRole("listitem")).toHaveCount(2);

  // A single decision goes over a rule, which can be left out again.
  await tray.locator("[data-piece]").first().getByRole("radio", { name: "Keep" }).click();
  await built(page);
  await expect(tray).toContainText("24 stay");
  await rules.getByRole("button", { name: "Leave out the rule 2" }).click();
  await built(page);
  await expect(tray).toContainText("24 stay");

  // Invert turns every fate round.
  await tray.getByRole("button", { name: "Invert" }).click();
  await built(page);
  await expect(tray).toContainText("3 stay");
  await tray.getByRole("button", { name: "Invert" }).click();
  await built(page);
  await expect(tray).toContainText("24 stay");
  await open(page).getByRole("button", { name: "Update the step" }).click();
  await built(page);

  // The rule goes on when its cutter moves; the single decision stays on its piece.
  await page.locator('[data-step="yz0"]').getByRole("button", { name: "Across 1", exact: true }).click();
  await open(page).getByLabel("Offset", { exact: true }).fill("-12");
  await open(page).getByRole("button", { name: "Update the step" }).click();
  await built(page);
  await page.locator('[data-step="s"]').getByRole("button", { name: "Cut", exact: true }).click();
  await built(page);
  await expect(tray).toContainText("24 stay");
  await expect(rules.getByRole("listitem")).toHaveText("Scrapped: behind Across 1, behind Along 1");
});

test("a rule is kept with its step and goes on after an edit; one that speaks of nothing says so", async ({ page }) => {
  const ruled = steps.map((step) =>
    step.id === "s" ? { ...step, rules: [{ where: { sides: { yz0: "back" } }, fate: "scrap" }] } : step,
  );
  const id = await postJob(page, ruled);
  await page.goto(`/jobs/${id}`);
  await built(page);
  await page.locator('[data-step="s"]').getByRole("button", { name: "Cut", exact: true }).click();
  await built(page);
  const tray = page.getByRole("region", { name: "Pieces" });
  await expect(tray).toContainText("18 stay");
  await expect(tray.getByRole("list", { name: "Rules" })).toContainText("Scrapped: behind Across 1");
  // Without its cutter the rule means nothing: that is an error with a way on, not a rule that does nothing.
  await open(page).getByRole("group", { name: "Cutters" }).getByRole("checkbox", { name: "Across 1" }).click();
  await built(page);
  await expect(open(page)).toContainText("Rule 1 speaks of");
  await open(page).getByRole("button", { name: "Leave that rule out" }).click();
  await built(page);
  await expect(tray).toContainText("18 pieces");
  await expect(tray).toContainText("18 stay");
});
