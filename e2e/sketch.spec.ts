import type { Page } from "@playwright/test";
import { addStep, bodyCard, built, clickModel, newJob, open, postJob, saved, tool } from "./helpers";
import { expect, test } from "./server";

const bar = (page: Page) => page.getByRole("region", { name: "Sketch", exact: true });
const use = (page: Page, name: string) => bar(page).getByRole("radio", { name, exact: true }).click();
const entity = (page: Page, id: string) => page.locator(`[data-entity="${id}"]`);
/** Clicks in the view at a place of a level sketch, mm. */
const at = (page: Page, x: number, y: number) => clickModel(page, [x, y, 0]);

test("draw, constrain, dimension by formula, extrude, go back, change, see it follow", async ({ page }) => {
  await newJob(page, "Drawn plate");
  await page.getByRole("button", { name: /^Parameters/ }).click();
  const table = page.getByRole("region", { name: "Parameters" });
  await table.getByRole("button", { name: "Add" }).last().click();
  await table.getByLabel("Name of value1").fill("wide");
  await table.getByLabel("Name of value1").press("Enter");
  await table.getByLabel("Formula of wide").fill("80");
  await table.getByLabel("Formula of wide").press("Enter");
  await page.keyboard.press("Escape");

  await tool(page, "Draw", "Sketch");
  await built(page);
  await expect(bar(page)).toContainText("nothing drawn yet");

  // A rectangle by clicks, from the origin; its size by formulas.
  await use(page, "Rectangle");
  await at(page, 0, 0);
  await at(page, 30, 20);
  await expect(bar(page)).toContainText("can still move 2 ways");
  await use(page, "Pick and drag");
  await entity(page, "l1").locator("path").last().click({ force: true });
  await bar(page).getByRole("button", { name: "Distance" }).click();
  await page.keyboard.press("Escape");
  await entity(page, "l2").locator("path").last().click({ force: true });
  await bar(page).getByRole("button", { name: "Distance" }).click();
  await expect(bar(page)).toContainText("nothing can move");
  await open(page).getByLabel("d1: distance of l1").fill("wide");
  await open(page).getByLabel("d2: distance of l2").fill("wide / 2");

  // A circle whose size is typed while it is drawn.
  await use(page, "Circle");
  await at(page, 15, 10);
  await bar(page).getByLabel("Diameter").fill("1/2 in");
  await bar(page).getByRole("button", { name: "Draw it" }).click();
  await expect(bar(page)).toContainText("can still move 2 ways");
  await use(page, "Pick and drag");
  // Without the pointer: the circle from the list, with what holds it.
  await open(page).getByText("Pick parts from a list").click();
  await open(page).getByRole("checkbox", { name: "circle c1" }).click();
  await expect(bar(page).getByRole("button", { name: "Let go of Diameter d3" })).toBeVisible();
  await addStep(page);
  await expect(bodyCard(page, "Sketch")).toContainText("5 curves, 2 regions");

  await tool(page, "Shape", "Extrude");
  await open(page).getByRole("checkbox", { name: "Sketch" }).click();
  await open(page).getByLabel("Distance").fill("10");
  await addStep(page);
  // 80 × 40 × 10 less a bore of half an inch: 32000 − 1266.8.
  await expect(bodyCard(page, "Solid")).toContainText("30.73 cm³");

  await page.getByRole("button", { name: /^Parameters/ }).click();
  await table.getByLabel("Formula of wide").fill("120");
  await table.getByLabel("Formula of wide").press("Enter");
  await page.keyboard.press("Escape");
  await built(page);
  await expect(bodyCard(page, "Solid")).toContainText("70.73 cm³");
  await page.locator('[data-step="s1"]').getByRole("button", { name: "Sketch", exact: true }).click();
  await expect(bar(page)).toContainText("can still move 2 ways");
  await expect(open(page).getByLabel("d1: distance of l1", { exact: true })).toHaveValue("wide");
});

test("lines level and upright as shown before the click; dragging; what would collapse is refused", async ({
  page,
}) => {
  const id = await postJob(page, [
    { id: "k", type: "sketch", entities: [] },
    { id: "b", type: "box", size: [60, 60, 1], at: [0, 0, -20] },
  ]);
  await page.goto(`/jobs/${id}`);
  await built(page);
  await page.locator('[data-step="k"]').getByRole("button", { name: "Sketch", exact: true }).click();
  await built(page);
  await use(page, "Lines");
  await at(page, 5, 5);
  await at(page, 25, 5.4);
  await at(page, 25.5, 20);
  // Back to the beginning: the chain closes.
  await at(page, 5, 5);
  await expect(page.locator("[data-sketch-tool]")).toHaveAttribute("aria-label", "Sketch of 6 parts");
  await page.keyboard.press("Escape");
  await expect(bar(page).getByRole("radio", { name: "Pick and drag" })).toBeChecked();
  // Three corners, less level and upright.
  await expect(bar(page)).toContainText("can still move 4 ways");

  const corner = entity(page, "p3").locator("rect").first();
  const before = await corner.boundingBox();
  await page.mouse.move(before!.x + 4, before!.y + 4);
  await page.mouse.down();
  await page.mouse.move(before!.x + 4, before!.y - 40, { steps: 5 });
  await page.mouse.up();
  await expect.poll(async () => (await corner.boundingBox())!.y).toBeLessThan(before!.y - 30);

  await entity(page, "l1").locator("path").last().click({ force: true });
  await bar(page).getByRole("button", { name: "Upright", exact: true }).click();
  await expect(bar(page).getByRole("alert")).toContainText("That would leave l1 without length.");
  // What holds the line can be let go of.
  await bar(page).getByRole("button", { name: "Let go of Level" }).click();
  await expect(bar(page)).toContainText("can still move 5 ways");
  await expect(bar(page).getByRole("alert")).toBeHidden();
  // A line that lies level can be made upright: it turns.
  await bar(page).getByRole("button", { name: "Upright", exact: true }).click();
  await expect(bar(page)).toContainText("can still move 4 ways");
  await expect(bar(page).getByRole("alert")).toBeHidden();
  await bar(page).getByRole("button", { name: "Take out" }).click();
  await expect(page.locator("[data-sketch-tool]")).toHaveAttribute("aria-label", "Sketch of 5 parts");
});

test("a sketch is a knife: a line across a block divides it", async ({ page }) => {
  const entities = [
    { id: "a", type: "point", x: -60, y: 10 },
    { id: "b", type: "point", x: 60, y: 10 },
    { id: "l", type: "line", from: "a", to: "b" },
  ];
  const id = await postJob(page, [
    { id: "k", type: "sketch", entities },
    { id: "a", type: "box", size: [100, 60, 20] },
  ]);
  await page.goto(`/jobs/${id}`);
  await built(page);
  await tool(page, "Seam", "Split");
  await open(page).getByRole("group", { name: "Stock" }).getByRole("checkbox", { name: "Block" }).click();
  await open(page).getByRole("group", { name: "Cutters" }).getByRole("checkbox", { name: "Sketch" }).click();
  const tray = page.getByRole("region", { name: "Pieces" });
  await expect(tray.getByRole("listitem")).toHaveCount(2);
  await expect(tray).toContainText("40 cm³");
  await expect(tray).toContainText("80 cm³");
  await addStep(page);
  await saved(page);
});

test("a drawn line that ends within the stock is run on straight by one press; its form says so", async ({ page }) => {
  const entities = [
    { id: "a", type: "point", x: -10, y: 10 },
    { id: "b", type: "point", x: 10, y: 10 },
    { id: "l", type: "line", from: "a", to: "b" },
  ];
  const id = await postJob(page, [
    { id: "k", type: "sketch", entities },
    { id: "p", type: "workplane", base: "yz" },
    { id: "a", type: "box", size: [100, 60, 20] },
    { id: "s", type: "seam", stock: ["a"], cutters: ["k"] },
  ]);
  await page.goto(`/jobs/${id}`);
  await built(page);
  const row = page.locator('[data-step="s"]');
  await row.getByRole("button", { name: "Run the open ends of the drawing straight on" }).click();
  await built(page);
  await expect(row).toHaveAttribute("data-state", "good");
  await row.getByRole("button", { name: "Split", exact: true }).click();
  const tray = page.getByRole("region", { name: "Pieces" });
  await expect(tray).toContainText("40 cm³");
  const runOn = open(page).getByRole("switch", { name: "Run cutters on" });
  await expect(runOn).toBeChecked();
  await runOn.click();
  await built(page);
  await expect(open(page)).toContainText("stops short inside");
  // With nothing that could run on it is not asked for.
  const cutters = open(page).getByRole("group", { name: "Cutters" });
  await cutters.getByRole("checkbox", { name: "Sketch" }).click();
  await cutters.getByRole("checkbox", { name: "Workplane" }).click();
  await expect(runOn).toBeHidden();
});
