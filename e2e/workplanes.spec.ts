import type { Page } from "@playwright/test";
import { addStep, bodyCard, built, clickModel, open, postJob, tool } from "./helpers";
import { expect, test } from "./server";

const field = (page: Page, name: string) => open(page).getByRole("group", { name, exact: true });

async function begin(page: Page, base: string): Promise<void> {
  await tool(page, "Draw", "Workplane");
  await open(page).getByRole("radio", { name: base, exact: true }).click();
}

async function pick(page: Page, name: string, points: [number, number, number][]): Promise<void> {
  await field(page, name).getByRole("button", { name: "Pick in the view" }).click();
  await built(page);
  for (const point of points) await clickModel(page, point);
  await expect(field(page, name)).toContainText(`(${points.length})`);
  await page.keyboard.press("Escape");
}

async function fromList(page: Page, name: string, words: string[]): Promise<void> {
  await field(page, name).getByText("Pick from a list").click();
  for (const word of words) await field(page, name).getByRole("checkbox", { name: word }).first().click();
}

test("every kind of workplane, picked in the view and from lists; one of them cuts", async ({ page }) => {
  const id = await postJob(page, [
    { id: "a", type: "box", size: [60, 40, 30] },
    { id: "c", type: "cylinder", diameter: 24, height: 50, at: [80, 0, 0] },
  ]);
  await page.goto(`/jobs/${id}`);
  await built(page);

  // The corners of the block: X −30 to 30, Y −20 to 20, Z 0 to 30. The view looks from the right front and above.
  await begin(page, "An edge, at an angle");
  await pick(page, "Straight edge", [[0, -20, 30]]);
  await open(page).getByLabel("Angle", { exact: true }).fill("30");
  await addStep(page);
  await expect(bodyCard(page, "Workplane")).toBeVisible();
  await bodyCard(page, "Workplane").getByRole("button", { name: "Hide Workplane" }).click();

  await begin(page, "Three corners");
  await pick(page, "Three corners", [
    [-30, -20, 30],
    [30, -20, 0],
    [30, 20, 30],
  ]);
  await addStep(page);
  await bodyCard(page, "Workplane 2").getByRole("button", { name: "Hide Workplane 2" }).click();

  await begin(page, "Midway");
  await fromList(page, "Two flat faces", ["Flat facing left", "Flat facing right"]);
  await addStep(page);
  await bodyCard(page, "Workplane 3").getByRole("button", { name: "Hide Workplane 3" }).click();

  await begin(page, "Touching a cylinder");
  await fromList(page, "Cylinder", ["Cylindrical"]);
  await open(page).getByLabel("Angle", { exact: true }).fill("45 deg");
  await addStep(page);

  await begin(page, "Square to a curve");
  await fromList(page, "Curve", ["Round"]);
  await open(page).getByLabel("Along it from where it begins").fill("500");
  await expect(open(page)).toContainText("The edge is 75.398 mm long, and 500 mm along it is past its end.");
  await open(page).getByLabel("Along it from where it begins").fill("10");
  await addStep(page);

  await begin(page, "Through a corner");
  await open(page).getByRole("radio", { name: "A workplane" }).last().click();
  await open(page).getByRole("checkbox", { name: "Workplane", exact: true }).click();
  await fromList(page, "Through the corner", ["30, 20, 0"]);
  await addStep(page);

  await begin(page, "A direction");
  const looks = field(page, "Its front looks along");
  for (const [axis, value] of [
    ["X", "0"],
    ["Y", "0"],
    ["Z", "0"],
  ] as const)
    await looks.getByLabel(`Its front looks along ${axis}`).fill(value);
  await expect(open(page)).toContainText("0, 0, 0 is no direction");
  await looks.getByLabel("Its front looks along X").fill("1");
  await addStep(page);
  await begin(page, "Turned about an axis");
  await open(page).getByLabel("Angle", { exact: true }).fill("30");
  await addStep(page);

  await begin(page, "A workplane");
  await open(page).getByRole("checkbox", { name: "Workplane 3" }).click();
  await open(page).getByLabel("Offset").fill("10");
  await open(page).getByRole("switch", { name: "Front to the other side" }).click();
  await addStep(page);
  await expect(bodyCard(page, "Workplane 9")).toBeVisible();

  // The plane midway, moved by 10 along its normal, which points left: it cuts the block at X = −10.
  await tool(page, "Seam", "Split");
  await open(page).getByRole("group", { name: "Stock" }).getByRole("checkbox", { name: "Block" }).click();
  await open(page).getByRole("group", { name: "Cutters" }).getByRole("checkbox", { name: "Workplane 9" }).click();
  const tray = page.getByRole("region", { name: "Pieces" });
  await expect(tray.getByRole("listitem")).toHaveCount(2);
  await expect(tray).toContainText("24 cm³");
  await expect(tray).toContainText("48 cm³");
});
