import { addStep, bodyCard, built, newJob, open, postJob, saved, tool } from "./helpers";
import { expect, test } from "./server";

test("turned from a sketch, hollowed, copied in a ring: by clicking", async ({ page }) => {
  const corners = [
    [0, 0],
    [20, 0],
    [20, 5],
    [8, 5],
    [8, 30],
    [0, 30],
  ] as const;
  const id = await postJob(page, [
    {
      id: "k",
      type: "sketch",
      entities: [
        ...corners.map(([x, y], i) => ({ id: `p${i}`, type: "point", x, y })),
        ...corners.map((_, i) => ({ id: `l${i}`, type: "line", from: `p${i}`, to: `p${(i + 1) % corners.length}` })),
      ],
    },
  ]);
  await page.goto(`/jobs/${id}`);
  await built(page);
  await tool(page, "Shape", "Revolve");
  await open(page).getByRole("group", { name: "Sketch" }).getByRole("checkbox", { name: "Sketch" }).click();
  // The sketch's own Y axis runs along an edge of it; X would turn it the other way.
  await built(page);
  // A disc of 20 by 5 with a neck of 8 by 25: 6283.2 + 5026.5.
  await expect(bodyCard(page, "Solid")).toContainText("11.31 cm³");
  await open(page).getByRole("radio", { name: "A line of it" }).click();
  await open(page).getByLabel("Line", { exact: true }).selectOption("l0");
  await built(page);
  await open(page).getByRole("radio", { name: "Its Y axis" }).click();
  await addStep(page);

  await tool(page, "Shape", "Shell");
  await open(page).getByRole("group", { name: "Solid" }).getByRole("checkbox", { name: "Solid" }).click();
  await open(page).getByLabel("Thickness of the walls").fill("1");
  // A form longer than the window scrolls within the sheet; the page itself has nowhere to scroll to.
  expect(await page.evaluate(() => document.documentElement.scrollHeight - window.innerHeight)).toBe(0);
  await addStep(page);
  await expect(bodyCard(page, "Solid")).not.toContainText("11.31 cm³");

  await tool(page, "Shape", "Pattern");
  await open(page).getByRole("group", { name: "Bodies" }).getByRole("checkbox", { name: "Solid" }).click();
  await open(page).getByLabel("How many, in all").fill("100000");
  await expect(open(page)).toContainText("at most 500");
  await open(page).getByLabel("How many, in all").fill("2 + 1");
  await open(page).getByLabel("From one to the next").fill("50");
  await addStep(page);
  const solids = page.getByRole("region", { name: "Bench" }).getByText("solid, closed");
  await expect(solids).toHaveCount(3);
  await saved(page);

  // A step cannot stand before what it needs, and the sheet says why.
  await page.getByRole("button", { name: "More for step 2" }).click();
  await page.getByRole("menuitem", { name: "Move up" }).click();
  const sheet = page.getByRole("complementary", { name: "Build sheet" });
  await expect(sheet.getByRole("alert")).toContainText("“Revolve” needs what “Sketch” makes");
  await expect(page.locator("[data-step]").first()).toHaveAttribute("data-step", "k");

  // What needs a step is told before it is deleted; all of it goes, and comes back, as one change.
  await page.getByRole("button", { name: "More for step 2" }).click();
  await page.getByRole("menuitem", { name: "Delete" }).click();
  const asked = page.getByRole("alertdialog");
  await expect(asked).toContainText("2 steps need what it makes");
  await expect(asked).toContainText("Shell");
  await asked.getByRole("button", { name: "Keep it" }).click();
  await expect(page.locator("[data-step]")).toHaveCount(4);
  await page.getByRole("button", { name: "More for step 2" }).click();
  await page.getByRole("menuitem", { name: "Delete" }).click();
  await asked.getByRole("button", { name: "Delete all 3" }).click();
  await expect(page.locator("[data-step]")).toHaveCount(1);
  await page.getByRole("button", { name: /^Undo/ }).click();
  await expect(page.locator("[data-step]")).toHaveCount(4);
  await built(page);
  await expect(solids).toHaveCount(3);
});

test("a fillet that does not fit is understood and repaired; what comes after follows", async ({ page }) => {
  await newJob(page, "Rounded block");
  await tool(page, "Shape", "Block");
  await addStep(page);
  await tool(page, "Shape", "Fillet");
  await open(page).getByRole("group", { name: "Edges" }).getByRole("button", { name: "Pick in the view" }).click();
  await built(page);
  await open(page).getByRole("button", { name: "Picking: click in the view" }).click();
  await open(page).getByText("Pick from a list").click();
  await open(page)
    .getByRole("checkbox", { name: /^Straight/ })
    .first()
    .click();
  await open(page).getByLabel("Radius").fill("400");
  await expect(open(page)).toContainText("is too large at the edge of Block");
  const repair = open(page).getByRole("button", { name: /^Make it / });
  await expect(repair).toBeVisible();
  await repair.click();
  await built(page);
  await expect(open(page)).not.toContainText("is too large");
  await addStep(page);
  await expect(bodyCard(page, "Block")).toContainText("solid, closed");
  await saved(page);
});
