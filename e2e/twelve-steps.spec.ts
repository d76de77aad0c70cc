import type { Page } from "@playwright/test";
import { addStep, bodyCard, built, clickModel, newJob, open, saved, tool } from "./helpers";
import { expect, test } from "./server";

/** A cylinder with its values typed in. */
async function cylinder(page: Page, diameter: string, height: string, at: [string, string, string]): Promise<void> {
  await tool(page, "Shape", "Cylinder");
  await open(page).getByLabel("Diameter").fill(diameter);
  await open(page).getByLabel("Height").fill(height);
  for (const [k, axis] of (["X", "Y", "Z"] as const).entries())
    await open(page).getByLabel(`Base centre ${axis}`).fill(at[k]!);
  await addStep(page);
}

/** A union or a difference of bodies by their names. */
async function seam(page: Page, preset: "Union" | "Subtract", stock: string[], cutters: string[] = []): Promise<void> {
  await tool(page, "Seam", preset);
  for (const name of stock)
    await open(page).getByRole("group", { name: "Stock" }).getByRole("checkbox", { name }).click();
  for (const name of cutters)
    await open(page).getByRole("group", { name: "Cutters" }).getByRole("checkbox", { name, exact: true }).click();
  if (preset === "Subtract") await open(page).getByRole("switch", { name: "Keep the cutters" }).click();
  await addStep(page);
}

test("a part of twelve steps: built by hand, reordered, edited at step 3, measured, held back and built on", async ({
  page,
}) => {
  test.setTimeout(360_000);
  await newJob(page, "Bearing foot");

  // 1 and 2: a block with two rounded edges; too large a radius is understood and mended.
  await tool(page, "Shape", "Block");
  for (const [axis, size] of [
    ["X", "80"],
    ["Y", "50"],
    ["Z", "12"],
  ] as const)
    await open(page).getByLabel(`Size ${axis}`).fill(size);
  await addStep(page);
  await tool(page, "Shape", "Fillet");
  await open(page).getByText("Pick from a list").click();
  const upright = open(page).getByRole("checkbox", { name: "Straight, 12 mm long" });
  await upright.nth(0).click();
  await upright.nth(1).click();
  await open(page).getByLabel("Radius", { exact: true }).fill("200");
  await expect(open(page)).toContainText("is too large at the edge of Block that is 12 mm long");
  await open(page)
    .getByRole("button", { name: /^Make it / })
    .click();
  await built(page);
  await expect(open(page)).not.toContainText("is too large");
  await open(page).getByLabel("Radius", { exact: true }).fill("8");
  await addStep(page);

  // 3 to 5: a post joined on, its rim broken.
  await cylinder(page, "24", "30", ["0", "0", "0"]);
  await seam(page, "Union", ["Block", "Cylinder"]);
  await tool(page, "Shape", "Chamfer");
  await open(page).getByText("Pick from a list").click();
  await open(page).getByRole("checkbox", { name: "Round, Ø24 mm" }).last().click();
  await open(page).getByLabel("Distance", { exact: true }).fill("1.5");
  await addStep(page);

  // 6 to 10: a bore, and two holes by a pattern.
  await cylinder(page, "10", "60", ["0", "0", "-10"]);
  await seam(page, "Subtract", ["Block"], ["Cylinder"]);
  await cylinder(page, "5", "60", ["-30", "0", "-10"]);
  await tool(page, "Shape", "Pattern");
  await open(page).getByRole("group", { name: "Bodies" }).getByRole("checkbox", { name: "Cylinder" }).click();
  await open(page).getByLabel("How many, in all").fill("2");
  await open(page).getByLabel("From one to the next").fill("60");
  await addStep(page);
  await seam(page, "Subtract", ["Block"], ["Cylinder", "Cylinder 2"]);

  // 11 and 12: parted in the middle.
  await tool(page, "Draw", "Workplane");
  await open(page).getByRole("radio", { name: "YZ" }).click();
  await addStep(page);
  await tool(page, "Seam", "Split");
  await open(page).getByRole("group", { name: "Stock" }).getByRole("checkbox", { name: "Block" }).click();
  await open(page).getByRole("group", { name: "Cutters" }).getByRole("checkbox", { name: "Workplane" }).click();
  await addStep(page);
  await expect(page.locator("[data-step]")).toHaveCount(12);
  await expect(page.locator('[data-step][data-state="good"]')).toHaveCount(12);
  await expect(bodyCard(page, "Block 1")).toContainText("solid, closed");
  await expect(bodyCard(page, "Block 2")).toContainText("solid, closed");

  // Reordered: the rounding comes after the post's bore; the chamfer of the post cannot come before the post.
  const order = () =>
    page.locator("[data-step]").evaluateAll((rows) => rows.map((row) => row.getAttribute("data-step")));
  const before = await order();
  await page.getByRole("button", { name: "More for step 11" }).click();
  await page.getByRole("menuitem", { name: "Move up" }).click();
  await built(page);
  const moved = [...before];
  [moved[9], moved[10]] = [before[10]!, before[9]!];
  expect(await order()).toEqual(moved);
  await expect(page.locator('[data-step][data-state="good"]')).toHaveCount(12);
  await page.getByRole("button", { name: "More for step 4" }).click();
  await page.getByRole("menuitem", { name: "Move up" }).click();
  await expect(page.getByRole("complementary", { name: "Build sheet" }).getByRole("alert")).toContainText(
    "Nothing was moved",
  );

  // Edited at step 3: everything later follows.
  const volume = await bodyCard(page, "Block 1").textContent();
  await page.locator("[data-step]").nth(2).getByRole("button", { name: "Cylinder" }).click();
  await open(page).getByLabel("Diameter").fill("30");
  await built(page);
  await page.getByRole("button", { name: "Update the step" }).click();
  await built(page);
  await expect(page.locator('[data-step][data-state="good"]')).toHaveCount(12);
  expect(await bodyCard(page, "Block 1").textContent()).not.toBe(volume);

  // Measured: across the block, by clicking; the distance is drawn in the view.
  await page.getByRole("button", { name: "Measure" }).click();
  const panel = page.getByRole("region", { name: "Measure" });
  await clickModel(page, [40, 10, 6]);
  await expect(panel).toContainText("Area");
  await page.getByLabel("Standard view").selectOption("left");
  await clickModel(page, [-40, 10, 6]);
  await expect(panel).toContainText("Between planes");
  await expect(panel).toContainText("80 mm");
  await expect(page.locator("[data-measured]").first()).toHaveAttribute("data-measured", "80.000000");
  // Without the pointer: a bore and the post, from the list.
  await panel.getByRole("button", { name: "Begin anew" }).click();
  await panel.getByText("Pick from a list").click();
  await panel.getByRole("button", { name: "Cylindrical, Ø10 mm" }).first().click();
  await expect(panel).toContainText("Diameter");
  await panel.getByRole("button", { name: "Cylindrical, Ø5 mm" }).first().click();
  await expect(panel).toContainText("Between axes");
  await expect(panel).toContainText("30 mm");
  await page.keyboard.press("Escape");
  await expect(panel).toBeHidden();

  // The hold point dragged up, and down again.
  const bar = page.getByRole("button", { name: /^Hold point: the part is built up to here/ });
  const drag = async (to: number, edge: "top" | "bottom") => {
    const from = (await bar.boundingBox())!;
    const x = from.x + 8;
    await page.mouse.move(x, from.y + from.height / 2);
    await page.mouse.down();
    await page.mouse.move(x, from.y + (edge === "top" ? -20 : 20), { steps: 4 });
    // The sheet may scroll while something is dragged near its end: the row is looked for where it has come to lie.
    for (let round = 0; round < 3; round++) {
      const row = (await page.locator("[data-step]").nth(to).boundingBox())!;
      await page.mouse.move(x, edge === "top" ? row.y + 4 : row.y + row.height + 6, { steps: 6 });
      await page.waitForTimeout(250);
    }
    await page.mouse.up();
    await built(page);
  };
  await bar.scrollIntoViewIfNeeded();
  await drag(8, "top");
  const held = page.locator('[data-step][data-state="held"]');
  await expect.poll(() => held.count()).toBeGreaterThan(2);
  await expect(bodyCard(page, "Block")).toBeVisible();
  await drag(11, "bottom");
  await expect(held).toHaveCount(0);
  await expect(bodyCard(page, "Block 2")).toBeVisible();
  await saved(page);
});
