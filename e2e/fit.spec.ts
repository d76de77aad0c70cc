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
  await open(page).getByLabel("Gap to the cutters", { exact: true }).fill("0.25");
  await built(page);
  // Of 18.5 mm: 48 − 5.376 cm³.
  await expect(tray).toContainText("42.62 cm³");
  await expect(open(page)).toContainText("Pin keeps off Plate by 0.25 mm at least.");
  await open(page).getByLabel("Gap to the cutters", { exact: true }).fill("-9");
  await expect(open(page)).toContainText("has a radius that a gap of −9 mm uses up");
  await open(page).getByLabel("Gap to the cutters", { exact: true }).fill("1/32 in");
  await built(page);
  await expect(open(page)).toContainText("Pin keeps off Plate by 0.794 mm at least.");
});

test("a gap set by a rule, by the way of making and by a fit: what it comes to is read", async ({ page }) => {
  const stepped = { id: "d", type: "box", name: "Foot", size: [30, 30, 5], at: [0, 0, -5] };
  const both = { id: "u", type: "seam", preset: "union", stock: ["c", "d"] };
  await openStep(
    page,
    [block, pin, stepped, both, { id: "s", type: "seam", preset: "subtract", stock: ["a"], cutters: ["u"] }],
    "s",
    "Subtract",
  );
  const tray = page.getByRole("region", { name: "Pieces" });
  await open(page).getByRole("radiogroup", { name: "Gaps" }).getByText("Two").click();
  await open(page).getByRole("group", { name: "Faces with the second gap" }).getByText("Pick from a list").click();
  await open(page)
    .getByRole("group", { name: "Faces with the second gap" })
    .getByLabel(/^Cylindrical, Ø18/)
    .first()
    .check();
  await open(page).getByLabel("Faces that come with it").selectOption({ label: "and all of its radius" });
  await expect(open(page).getByText("2 faces", { exact: true })).toBeVisible();
  // The pin goes on below the foot. The way of making puts its gap among the job's parameters, and its name into the box.
  await open(page)
    .getByLabel("Second gap by way of making")
    .selectOption({ label: "Printed: 0.01 in (common practice)" });
  await built(page);
  // A bore of 18.508 mm: 48 − 5.381 cm³.
  await expect(tray).toContainText("42.62 cm³");
  await expect(open(page)).toContainText("0.254 mm");
  await open(page).getByLabel("Second fit of round faces").fill("H7/g6");
  await built(page);
  await expect(open(page)).toContainText("Ø18 H7/g6: the hole is drawn at 18.009 mm");
  await expect(open(page)).toContainText("of play");
  await open(page).getByLabel("Second fit of round faces").fill("H7");
  await expect(open(page)).toContainText("is no fit");
  await open(page).getByLabel("Second fit of round faces").fill("");
  await built(page);
  await open(page).getByRole("button", { name: "Update the step" }).click();
  await page.getByRole("button", { name: /^Parameters/ }).click();
  await expect(page.getByLabel("Formula of gap_printed")).toHaveValue("0.01");
});

test("an audit: a row lights both bodies and is cut through; a fit is wanted, kept with the job, and marked when it breaks", async ({
  page,
}) => {
  const cut = { id: "s", type: "seam", preset: "subtract", stock: ["a"], cutters: ["c"], gap: 0.25 };
  await page.goto(`/jobs/${await postJob(page, [block, pin, cut])}`);
  await built(page);
  await page.getByRole("button", { name: /Check$/ }).click();
  await page.getByRole("button", { name: /^Fit audit/ }).click();
  const audit = page.getByRole("region", { name: "Fit audit" });
  await expect(audit).toContainText("Of 1 pair of bodies none shares room, 0 touch: nothing has to be looked at.");
  await audit.getByRole("button", { name: /Pin/ }).click();
  await expect(audit.getByRole("row").nth(1)).toContainText("apart0.25 mm");
  await audit.getByRole("button", { name: "Cut through here" }).click();
  await expect(page.getByRole("group", { name: "Section" })).toBeVisible();
  await audit.getByText("A gap").click();
  await audit.getByLabel("At least").fill("0.2");
  await audit.getByLabel("At least").press("Enter");
  await expect(page.getByRole("button", { name: "1 fit holds" })).toBeVisible();
  const [csv] = await Promise.all([page.waitForEvent("download"), audit.getByRole("button", { name: "CSV" }).click()]);
  expect(csv.suggestedFilename()).toBe("fit.csv");
  await audit.getByRole("button", { name: "Close" }).click();
  // The cutter grows: what was cut with it follows, and holds; without the gap it does not.
  await page
    .locator('[data-step="s"]')
    .getByRole("button", { name: /Subtract/ })
    .first()
    .click();
  await open(page).getByLabel("Gap to the cutters", { exact: true }).fill("0.1");
  await built(page);
  await open(page).getByRole("button", { name: "Update the step" }).click();
  const mark = page.getByRole("button", { name: "1 fit of 1 does not hold" });
  await expect(mark).toBeVisible();
  await expect(mark).toHaveAttribute("title", /at least 0.2 mm wanted: 0.1 mm apart/);
  await mark.click();
  await expect(audit).toContainText("at least 0.2 mm wanted: 0.1 mm apart");
});

test("a face is taken to the round wall of another body by clicking, and a solid grown as a tool", async ({ page }) => {
  const vessel = { id: "v", type: "cylinder", name: "Vessel", diameter: 60, height: 20, at: [70, 0, 0] };
  await page.goto(`/jobs/${await postJob(page, [block, vessel])}`);
  await built(page);
  await tool(page, "Fit", "Replace face");
  const pick = (field: string) => open(page).getByRole("group", { name: field, exact: true });
  await pick("Face").getByText("Pick from a list").click();
  await pick("Face").getByLabel("Flat facing right, 800 mm²").check();
  await pick("Face that it goes to").getByText("Pick from a list").click();
  await pick("Face that it goes to").getByLabel("Cylindrical, Ø60 mm").check();
  await built(page);
  // 48 cm³ to the old face, and 20 mm high what lies between it and the wall: ∫ (40 − √(900 − y²)) dy over y from −20 to 20.
  await expect(bodyCard(page, "Plate")).toContainText("57.92 cm³");
  await addStep(page);
  await tool(page, "Fit", "Clearance copy");
  await pick("Solid").getByLabel("Vessel").check();
  await open(page).getByLabel("Distance", { exact: true }).fill("1");
  await open(page).getByRole("radiogroup", { name: "Corners" }).getByText("Round").click();
  await built(page);
  await addStep(page);
  await expect(page.locator('[data-step]:has-text("Clearance copy")')).toHaveAttribute("data-state", "good");
});

test("a locking slot is cut, and its pin played along it", async ({ page }) => {
  const tube = [
    { id: "o", type: "cylinder", name: "Tube", diameter: 60, height: 60 },
    { id: "i", type: "cylinder", diameter: 50, height: 60 },
    { id: "u", type: "seam", preset: "subtract", stock: ["o"], cutters: ["i"], keepCutters: false },
  ];
  const square = { id: "p", type: "box", name: "Pin", size: [30, 10, 10], at: [30, 0, 55] };
  await page.goto(`/jobs/${await postJob(page, [...tube, square])}`);
  await built(page);
  await tool(page, "Fit", "Motion clearance");
  await expect(open(page)).toContainText("Pick the solid that moves.");
  await open(page).getByRole("group", { name: "What moves" }).getByRole("checkbox", { name: "Pin" }).click();
  await open(page).getByLabel("By Z, move 1").fill("-25");
  await open(page).getByRole("button", { name: "Add a move" }).click();
  await open(page).getByRole("radiogroup", { name: "How move 2 goes" }).getByText("Turn").click();
  await open(page).getByLabel("Turned by, move 2").fill("45");
  await open(page).getByRole("radiogroup", { name: "As" }).getByText("A cut").click();
  await open(page).getByRole("group", { name: "With" }).getByRole("checkbox", { name: "Tube" }).click();
  await built(page);
  // 51.84 cm³ of tube, less what the pin passes through of its wall.
  await expect(bodyCard(page, "Tube")).toContainText("49.");
  // Played: the pin is drawn on its way.
  const shot = () => page.locator("canvas[tabindex]").screenshot();
  const before = await shot();
  await open(page).getByLabel("How far on its way").focus();
  await page.keyboard.press("End");
  await expect(open(page)).toContainText("100 %");
  await expect.poll(async () => (await shot()).equals(before)).toBe(false);
  await open(page).getByRole("button", { name: "Play the moves" }).click();
  await expect(open(page).getByRole("button", { name: "Stop playing the moves" })).toBeVisible();
  await open(page).getByRole("button", { name: "Stop playing the moves" }).click();
  await open(page).getByLabel("Gap", { exact: true }).fill("0.25");
  await built(page);
  await expect(open(page)).toContainText("by 0.25 mm at least");
  await addStep(page);
  await expect(page.locator('[data-step]:has-text("Motion clearance")')).toHaveAttribute("data-state", "good");
});

test("a lever swings by three numbers; what it goes into on its way is said, lit, and gone to by a press", async ({
  page,
}) => {
  await page.goto(
    `/jobs/${await postJob(page, [
      { id: "post", type: "cylinder", name: "Post", diameter: 6, height: 30, at: [0, 0, -10] },
      { id: "lever", type: "box", name: "Lever", size: [40, 4, 5], at: [25, 0, 0] },
      { id: "stop", type: "box", name: "Stop", size: [10, 10, 5], at: [0, 25, 0] },
    ])}`,
  );
  await built(page);
  await tool(page, "Fit", "Motion clearance");
  await open(page).getByRole("group", { name: "What moves" }).getByRole("checkbox", { name: "Lever" }).click();
  await open(page).getByRole("radiogroup", { name: "Its way" }).getByText("Swings").click();
  await open(page).getByRole("group", { name: "Round face to turn about" }).getByText("Pick from a list").click();
  await open(page)
    .getByRole("group", { name: "Round face to turn about" })
    .getByLabel(/^Cylindrical, Ø6/)
    .first()
    .click();
  await open(page).getByLabel("Turned from", { exact: true }).fill("0");
  await open(page).getByLabel("To", { exact: true }).fill("180");
  await built(page);
  await expect(bodyCard(page, "Lever on its way")).toBeVisible();

  await open(page).getByLabel("How far on its way").focus();
  await page.keyboard.press("End");
  const touched = open(page).getByRole("list", { name: "Touched on the way" });
  // Its edge meets the corner of the stop at 70°, and leaves it at 110°.
  const line = touched.getByRole("button", { name: "Into Stop, 39 to 61 %" });
  await expect(line).toBeVisible({ timeout: 30_000 });
  await expect(touched.getByRole("listitem")).toHaveCount(1);
  await expect(line).toHaveAttribute("aria-current", "false");
  await line.click();
  await expect(line).toHaveAttribute("aria-current", "true");
  await expect(open(page)).toContainText("39 %");
  // Far enough from it there is nothing in the way.
  await open(page).getByLabel("To", { exact: true }).fill("60");
  await built(page);
  await expect(open(page)).toContainText("It goes into nothing on its way", { timeout: 30_000 });
});
