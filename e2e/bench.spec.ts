import { addStep, bodyCard, built, clickModel, open, postJob, saved, tool } from "./helpers";
import { expect, test } from "./server";

const plate = { id: "a", type: "box", name: "Plate", size: [80, 50, 12] };
const plane = { id: "w", type: "workplane", base: "yz" };
const parted = { id: "s", type: "seam", preset: "split", stock: ["a"], cutters: ["w"] };

test("colours, materials and masses, groups and notes: kept, and inherited by pieces", async ({ page }) => {
  const id = await postJob(page, [plate, { id: "b", type: "sphere", diameter: 20, at: [100, 0, 0] }]);
  await page.goto(`/jobs/${id}`);
  await built(page);

  // A colour and a material: the card tells the mass. 48 cm³ of steel.
  await bodyCard(page, "Plate").getByRole("button", { name: "Colour, material and group of Plate" }).click();
  const looks = page.getByRole("dialog");
  await looks.getByRole("button", { name: "clay" }).click();
  await looks.getByLabel("Material", { exact: true }).selectOption("Steel");
  await expect(bodyCard(page, "Plate")).toContainText("48 cm³, 376.8 g");
  await looks.getByLabel("Group").fill("Frame");
  await page.keyboard.press("Enter");
  await page.keyboard.press("Escape");
  const frame = page.getByRole("group", { name: "Group Frame" });
  await expect(frame).toContainText("376.8 g");

  // A material of one's own; nonsense is refused in place.
  await bodyCard(page, "Sphere").getByRole("button", { name: "Colour, material and group of Sphere" }).click();
  await looks.getByLabel("Material", { exact: true }).selectOption({ label: "Another …" });
  await looks.getByLabel("Name of the material").fill("Lead");
  await looks.getByLabel("Density, g/cm³").fill("heavy");
  await looks.getByRole("button", { name: "Add" }).click();
  await expect(looks.getByRole("alert")).toContainText("a density between 0 and 30");
  await looks.getByLabel("Density, g/cm³").fill("11,34");
  await looks.getByRole("button", { name: "Add" }).click();
  await expect(bodyCard(page, "Sphere")).toContainText("47.5 g");
  await looks.getByRole("switch", { name: "Seen through" }).click();
  await page.keyboard.press("Escape");

  // A note on a face that is clicked, with its flag in the view; and one on the body.
  await clickModel(page, [10, 10, 12]);
  await page.getByRole("textbox", { name: "Note on the clicked face" }).fill("Grind flat");
  await page.keyboard.press("Enter");
  await expect(page.locator("[data-note]")).toHaveCount(1);
  await expect(bodyCard(page, "Plate").getByRole("button", { name: "1 note on Plate" })).toBeVisible();
  await saved(page);

  // The group is hidden and shown at once.
  await frame.getByRole("button", { name: "Hide the group Frame" }).click();
  await expect(page.locator("[data-note]")).toHaveCount(0);
  await frame.getByRole("button", { name: "Show the group Frame" }).click();

  // Pieces look as the whole did and stay in its group; one of them can be other.
  await tool(page, "Draw", "Workplane");
  await open(page).getByRole("radio", { name: "YZ" }).click();
  await addStep(page);
  // The selected body is the stock already.
  await tool(page, "Seam", "Split");
  await open(page).getByRole("group", { name: "Cutters" }).getByRole("checkbox", { name: "Workplane" }).click();
  await addStep(page);
  await expect(bodyCard(page, "Plate 1")).toContainText("188.4 g");
  await bodyCard(page, "Plate 2")
    .getByRole("button", { name: /^Colour, material and group/ })
    .click();
  await looks.getByLabel("Material", { exact: true }).selectOption("Aluminium");
  await expect(bodyCard(page, "Plate 2")).toContainText("64.8 g");
  await expect(bodyCard(page, "Plate 1")).toContainText("188.4 g");
  await page.keyboard.press("Escape");
  await expect(frame).toContainText("253.2 g");
  await page.reload();
  await built(page);
  await expect(bodyCard(page, "Plate 2")).toContainText("64.8 g");
});

test("what was found by its looks is told in one place; kept, nothing is left to warn of", async ({ page }) => {
  const edge = (name: string, at: number[]) => ({
    body: "a:block",
    edge: name,
    print: { kind: "line", length: 12, at },
  });
  const id = await postJob(page, [
    plate,
    { id: "f", type: "fillet", edges: [edge("gone:1", [40, 25, 6]), edge("gone:2", [-40, 25, 6])], radius: 5 },
    {
      id: "g",
      type: "workplane",
      base: "face",
      face: [{ body: "a:block", face: "gone:3", print: { kind: "plane", direction: [0, 0, 1], centre: [0, 0, 12] } }],
    },
  ]);
  await page.goto(`/jobs/${id}`);
  await built(page);
  const band = page.getByRole("region", { name: "Found by their looks" });
  await expect(band).toContainText("3 picked things have lost the name");
  await expect(page.locator('[data-step="f"]')).toContainText("2 times: A picked edge has lost its name");

  // One of them is picked again in its step: its form opens with the field ready to pick.
  await band.getByRole("button", { name: "Pick again in step 3" }).click();
  await expect(open(page).getByRole("button", { name: "Picking: click in the view" })).toBeVisible();
  // The form shows what the engine found, though it is called otherwise by now; a click on it takes it out.
  const face = open(page).getByRole("group", { name: "Face" });
  await expect(face).toContainText(/Plate.*: Flat facing up, .* – guessed/);
  await face.getByText("Pick from a list").click();
  await expect(face.getByRole("checkbox", { checked: true })).toHaveCount(1);
  await page.keyboard.press("Escape");
  await page.keyboard.press("Escape");

  await band.getByRole("button", { name: "Keep all that were found" }).click();
  await built(page);
  await expect(band).toBeHidden();
  await expect(page.locator('[data-step][data-state="good"]')).toHaveCount(3);
  await saved(page);
  await page.reload();
  await built(page);
  await expect(page.locator('[data-step][data-state="good"]')).toHaveCount(3);
});

test("steps are copied, and folded up in groups; a cut is done again by a pattern of steps", async ({ page }) => {
  const id = await postJob(page, [
    { ...plate, size: [100, 50, 12] },
    {
      id: "k",
      type: "sketch",
      entities: [
        { id: "c", type: "point", x: -40, y: 0 },
        { id: "o", type: "circle", centre: "c", radius: 3 },
      ],
    },
    { id: "e", type: "extrude", name: "Hole", sketch: ["k"], into: "cut", targets: ["a"], extent: "through" },
  ]);
  await page.goto(`/jobs/${id}`);
  await built(page);
  await tool(page, "Shape", "Pattern");
  await open(page).getByRole("radio", { name: "Steps" }).click();
  await open(page).getByRole("checkbox", { name: "3 Hole, cut" }).click();
  await open(page).getByLabel("How many, in all").fill("5");
  await addStep(page);
  // 60 cm³ less five holes of 339.3 mm³.
  await expect(bodyCard(page, "Plate")).toContainText("58.3 cm³");

  await page.getByRole("button", { name: "More for step 4" }).click();
  await page.getByRole("menuitem", { name: "Group with the one above" }).click();
  const sheet = page.getByRole("complementary", { name: "Build sheet" });
  await expect(sheet.locator('[data-group="Group 1"]')).toContainText("3 to 4");
  await sheet.getByRole("button", { name: "Group 1", exact: true }).click();
  await page.getByLabel("New name").fill("Holes");
  await page.keyboard.press("Enter");
  await sheet.getByRole("button", { name: "Fold up Holes" }).click();
  await expect(page.locator("[data-step]")).toHaveCount(2);
  await sheet.getByRole("button", { name: "Unfold Holes" }).click();
  await expect(page.locator("[data-step]")).toHaveCount(4);

  await page.getByRole("button", { name: "More for step 1", exact: true }).click();
  await page.getByRole("menuitem", { name: "Copy" }).click();
  await expect(page.locator("[data-step]")).toHaveCount(5);
  await expect(sheet).toContainText("Plate copy");
  await saved(page);
});

test("parted: pieces of a sheet of steps are measured by their whole", async ({ page }) => {
  const id = await postJob(page, [plate, plane, parted]);
  await page.goto(`/jobs/${id}`);
  await built(page);
  await page.getByRole("button", { name: "Measure" }).click();
  const panel = page.getByRole("region", { name: "Measure" });
  await panel.getByText("Pick from a list").click();
  await panel.getByRole("button", { name: "The whole body" }).first().click();
  await expect(panel).toContainText("24 cm³");
  await panel.getByRole("button", { name: "The whole body" }).last().click();
  await expect(panel).toContainText("they touch");
});

test("of many bodies those in sight have a card: scrolled to, picked, typed in, in groups", async ({ page }) => {
  const planes = Array.from({ length: 39 }, (_, i) => ({
    id: `p${i}`,
    type: "workplane",
    base: "yz",
    offset: 2 * i - 38,
  }));
  const cut = { ...parted, cutters: planes.map(({ id }) => id) };
  const id = await postJob(page, [plate, ...planes, cut]);
  await page.goto(`/jobs/${id}`);
  await built(page);
  const bench = page.getByRole("region", { name: "Bench" });
  const cards = bench.getByRole("article");
  await expect(bodyCard(page, "Plate 1")).toBeVisible();
  const few = await cards.count();
  expect(few).toBeGreaterThan(3);
  expect(few).toBeLessThan(15);
  const strip = bench.locator("> div");
  const scroll = (left: number) => strip.evaluate((element, to) => element.scrollTo({ left: to }), left);

  // The end of it: the last body, and what has served; unfolded, that has cards, too.
  await scroll(1e6);
  await expect(bodyCard(page, "Plate 40")).toBeVisible();
  await bench.getByRole("button", { name: "39 that have served" }).click();
  await scroll(1e6);
  await expect(bodyCard(page, "Workplane 39")).toBeVisible();
  await bench.getByRole("button", { name: "Fold away what has served" }).click();

  // A name that is being typed stays while its card is scrolled out of sight.
  await scroll(0);
  await bodyCard(page, "Plate 1").getByTitle("Rename").click();
  await page.keyboard.type("First");
  await scroll(1e6);
  await expect(bodyCard(page, "Plate 40")).toBeVisible();
  await page.keyboard.press("Enter");
  await scroll(0);
  await expect(bodyCard(page, "First")).toBeVisible();

  // A body that is picked in the view has its card brought into sight.
  await clickModel(page, [39, 0, 12]);
  await expect(bodyCard(page, "Plate 40")).toBeInViewport();
  await expect(bodyCard(page, "First")).toHaveCount(1);

  // By the keyboard from card to card, as far as they go.
  await scroll(0);
  await bodyCard(page, "Plate 2").getByRole("button", { name: "Select Plate 2" }).focus();
  for (let i = 0; i < 60; i++) await page.keyboard.press("Tab");
  await expect(bodyCard(page, "Plate 2")).toHaveCount(0);
  await expect(bench.locator("article:focus-within")).toBeInViewport();
});
