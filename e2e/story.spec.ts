import { readFileSync } from "node:fs";
import { addStep, bodyCard, built, clickModel, newJob, open, PAD, saved, tool } from "./helpers";
import { expect, test } from "./server";

test("a mould from a STEP file, by clicking: block, hollow, parting sheet, pieces, two halves out as STEP", async ({
  page,
}) => {
  await newJob(page, "Foot mould");

  // A solid from a STEP file.
  await tool(page, "Shape", "Import STEP");
  await open(page).getByLabel("STEP file").setInputFiles(PAD);
  await addStep(page);
  await expect(bodyCard(page, "Foot pad")).toContainText("solid, closed");
  await expect(bodyCard(page, "Foot pad")).toContainText("29.45 cm³");

  // A block round it.
  await tool(page, "Shape", "Block");
  await open(page).getByRole("radio", { name: "Around bodies" }).click();
  await open(page).getByRole("checkbox", { name: "Foot pad" }).click();
  await open(page).getByLabel("Margin on each side X").fill("14");
  await open(page).getByLabel("Margin on each side Y").fill("9/16 in");
  await addStep(page);
  await expect(bodyCard(page, "Block")).toBeVisible();

  // Hollow the block out with it. The block is picked in the view.
  await tool(page, "Seam", "Subtract");
  await open(page).getByRole("group", { name: "Stock" }).getByRole("button", { name: "Pick in the view" }).click();
  await clickModel(page, [0, 0, 34]);
  await expect(open(page).getByRole("group", { name: "Stock" }).getByRole("checkbox", { name: "Block" })).toBeChecked();
  await page.keyboard.press("Escape");
  await open(page).getByRole("group", { name: "Cutters" }).getByRole("checkbox", { name: "Foot pad" }).click();
  await expect(page.getByRole("region", { name: "Pieces" })).toContainText("2 pieces");
  await addStep(page);
  await expect(bodyCard(page, "Block")).toContainText("226.6 cm³");

  // A sheet offset from one of the pad's faces, picked in the view from below with the block hidden.
  await bodyCard(page, "Block").getByRole("button", { name: "Hide Block" }).click();
  await page.getByLabel("Standard view").selectOption("below");
  await tool(page, "Sheets", "Offset sheet");
  await open(page).getByRole("button", { name: "Pick in the view" }).click();
  await clickModel(page, [8, 8, 0]);
  await expect(open(page).getByText("Foot pad: Flat facing down")).toBeVisible();
  await page.keyboard.press("Escape");
  await open(page).getByLabel("Distance").fill("-6");
  await open(page).getByLabel("Extend past open edges").fill("40");
  await addStep(page);
  await expect(bodyCard(page, "Sheet")).toContainText("sheet, open");
  await bodyCard(page, "Block").getByRole("button", { name: "Show Block", exact: true }).click();

  // Divide the block; look at the pieces.
  await tool(page, "Seam", "Split");
  await open(page).getByRole("group", { name: "Stock" }).getByRole("checkbox", { name: "Block" }).click();
  await open(page).getByRole("group", { name: "Cutters" }).getByRole("checkbox", { name: "Sheet" }).click();
  const tray = page.getByRole("region", { name: "Pieces" });
  await expect(tray.getByRole("listitem")).toHaveCount(2);
  await expect(tray).toContainText("behind Sheet");
  await expect(tray).toContainText("in front of Sheet");
  const frames = () => page.locator("canvas[tabindex]").getAttribute("data-frames");
  const before = await frames();
  await tray.getByLabel("Pull pieces apart").focus();
  for (let i = 0; i < 10; i++) await page.keyboard.press("ArrowRight");
  await expect.poll(frames).not.toBe(before);

  // Scrap one, see it ghosted, invert, and keep both in the end.
  await tray.getByRole("listitem").first().getByRole("radio", { name: "Scrap" }).click();
  await built(page);
  await expect(tray.locator('[data-fate="scrap"]')).toHaveCount(1);
  await expect(tray).toContainText("1 stay");
  await tray.getByRole("radio", { name: "Scrapped" }).click();
  await expect(tray.getByRole("listitem")).toHaveCount(1);
  await tray.getByRole("radio", { name: "Both" }).click();
  const scrapped = await tray.locator('[data-fate="scrap"]').getAttribute("data-piece");
  await tray.getByRole("button", { name: "Invert" }).click();
  await expect(tray.locator('[data-fate="keep"]')).toHaveAttribute("data-piece", scrapped!);
  await built(page);
  await tray.locator('[data-fate="scrap"]').getByRole("radio", { name: "Keep" }).click();
  await expect(tray.locator('[data-fate="keep"]')).toHaveCount(2);
  await addStep(page);
  await expect(bodyCard(page, "Block 1")).toContainText("solid, closed");
  await expect(bodyCard(page, "Block 2")).toContainText("solid, closed");

  // Send the two halves out.
  await page.getByRole("button", { name: "Release" }).click();
  const dialog = page.getByRole("dialog");
  await dialog.getByRole("checkbox", { name: "Foot pad" }).click();
  const download = page.waitForEvent("download");
  await dialog.getByRole("button", { name: "Write the file" }).click();
  const file = await download;
  expect(file.suggestedFilename()).toBe("Part 1.step");
  const text = readFileSync((await file.path())!, "utf8");
  expect(text).toMatch(/^ISO-10303-21;/);
  expect([...text.matchAll(/PRODUCT\('(Block \d)'/g)].map((match) => match[1]).sort()).toEqual(["Block 1", "Block 2"]);
  // And as triangles for a printer, with names and colours.
  await dialog.getByRole("radio", { name: "3MF, triangles" }).click();
  await expect(dialog).toContainText("each body with its name and colour");
  const triangles = page.waitForEvent("download");
  await dialog.getByRole("button", { name: "Write the file" }).click();
  expect((await triangles).suggestedFilename()).toBe("Part 1.3mf");
  expect(readFileSync((await (await triangles).path())!).toString("latin1", 0, 2)).toBe("PK");
  await dialog.getByRole("button", { name: "Close" }).click();

  // Reload and find it as it was, shown from what is stored.
  await page.reload();
  await expect(bodyCard(page, "Block 1")).toBeVisible();
  await built(page);
  await expect(page.locator("[data-step]")).toHaveCount(5);
  await expect(page.locator('[data-state="good"]')).toHaveCount(5);

  // Undo three, redo two.
  for (const left of [4, 3, 2]) {
    await page.getByRole("button", { name: /^Undo: / }).click();
    await expect(page.locator("[data-step]")).toHaveCount(left);
    await saved(page);
  }
  for (const left of [3, 4]) {
    await page.getByRole("button", { name: /^Redo: / }).click();
    await expect(page.locator("[data-step]")).toHaveCount(left);
    await saved(page);
  }
  await built(page);
  await expect(page.locator('[data-state="good"]')).toHaveCount(4);
});

test("hovering a card lights the piece up and hovering the piece lights the card", async ({ page }) => {
  await newJob(page, "Hover");
  await tool(page, "Shape", "Block");
  await addStep(page);
  await tool(page, "Draw", "Workplane");
  await open(page).getByLabel("Offset").fill("40");
  await addStep(page);
  await tool(page, "Seam", "Split");
  await open(page).getByRole("group", { name: "Stock" }).getByRole("checkbox", { name: "Block" }).click();
  await open(page).getByRole("group", { name: "Cutters" }).getByRole("checkbox", { name: "Workplane" }).click();
  const tray = page.getByRole("region", { name: "Pieces" });
  await expect(tray.getByRole("listitem")).toHaveCount(2);
  await built(page);
  const frames = () => page.locator("canvas[tabindex]").getAttribute("data-frames");
  const before = await frames();
  await tray.getByRole("listitem").first().hover();
  await expect.poll(frames).not.toBe(before);
  await page.getByLabel("Standard view").selectOption("top");
  const canvas = (await page.locator("canvas[tabindex]").boundingBox())!;
  await page.mouse.move(canvas.x + canvas.width / 2 + 20, canvas.y + canvas.height / 2 + 15);
  await expect(tray.locator("li.bg-pick-wash")).toHaveCount(1);
  await expect(tray.locator("li.bg-pick-wash")).toContainText("in front of Workplane");
});
