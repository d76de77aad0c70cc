import { addStep, bodyCard, built, open, openStep, postJob, project, tool } from "./helpers";
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
  await openStep(page, steps, "s", "Cut");
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

test("many picked and decided on together, in the tray and in the view; what lies behind is reached; what comes out is said before", async ({
  page,
}) => {
  await openStep(page, steps, "s", "Cut");
  const tray = page.getByRole("region", { name: "Pieces" });
  const picks = tray.getByRole("group", { name: "Picked pieces" });
  await tray.getByRole("button", { name: "Comes out: 27 bodies, all new" }).click();
  const out = page.getByRole("dialog", { name: "What comes out" });
  await expect(out.getByRole("listitem")).toHaveCount(27);
  await expect(out).toContainText("Used up: Block");
  await page.keyboard.press("Escape");

  // A piece knows those that it was cut from, in the tray and in the view.
  const second = tray.locator("[data-piece]").nth(1);
  await second.hover();
  await expect(second).toContainText("next to 1, 3, 5, 11");
  await expect(second).toContainText("seam 140 mm");
  await expect(tray.locator("[data-piece]").first()).toHaveAttribute("data-near", "true");
  const beside = page.locator("[data-beside]");
  await expect(beside).toHaveCount(4);
  await expect(page.locator("[data-number]")).toHaveCount(27);
  await expect(page.locator("[data-seam]")).toHaveText("seam 140 mm");

  // A section cuts the pieces open: the middle of the block is seen, in the colour of the piece that lies there.
  const centre = async () => {
    await tray.getByRole("heading").hover();
    const spot = await project(page, [8, 8, 8]);
    const box = (await page.locator("canvas[tabindex]").boundingBox())!;
    const clip = { x: box.x + spot.x - 4, y: box.y + spot.y - 4, width: 8, height: 8 };
    return (await page.screenshot({ clip })).toString("base64");
  };
  const whole = await centre();
  await page.getByRole("button", { name: "Section", exact: true }).click();
  await expect(page.getByRole("group", { name: "Section" })).toBeVisible();
  await expect.poll(centre).not.toEqual(whole);
  await page.getByRole("button", { name: "Section", exact: true }).click();
  await expect.poll(centre).toEqual(whole);

  // From one to another with Shift; one of them left out again; scrapped together.
  await tray.getByRole("checkbox", { name: "Pick piece 1", exact: true }).click();
  await tray.getByRole("checkbox", { name: "Pick piece 3", exact: true }).click({ modifiers: ["Shift"] });
  await expect(picks).toContainText("3 picked");
  await tray.getByRole("checkbox", { name: "Pick piece 2", exact: true }).click();
  await expect(picks).toContainText("2 picked");
  await picks.getByRole("button", { name: "Scrap the picked pieces" }).click();
  await built(page);
  await expect(tray).toContainText("25 stay");
  await picks.getByRole("button", { name: "Pick none" }).click();
  await expect(picks).not.toContainText("picked");

  // In the view: the corner piece that is seen, with Shift, and a menu of all that lies behind it.
  const corner: [number, number, number] = [25, -30, 25];
  const canvas = page.locator("canvas[tabindex]");
  const spot = await project(page, corner);
  await canvas.click({ position: spot, modifiers: ["Shift"] });
  await expect(picks).toContainText("1 picked");
  const picked = tray.getByRole("checkbox", { checked: true });
  await expect(picked).toHaveCount(1);
  const front = (await picked.getAttribute("aria-label"))!.replace("Pick piece ", "");
  await canvas.click({ position: spot, button: "right" });
  const menu = page.getByRole("menu");
  await expect(menu).toContainText(`Piece ${front}, the nearest`);
  const there = await menu
    .getByRole("menuitem")
    .filter({ hasText: /cm³|mm³/ })
    .count();
  expect(there).toBeGreaterThan(1);
  await menu.getByRole("menuitem", { name: "Scrap it" }).click();
  await built(page);
  await expect(tray).toContainText("24 stay");

  // Two neighbours joined are one body, which is told before the step is kept.
  await picks.getByRole("button", { name: "Pick none" }).click();
  await tray.getByRole("radio", { name: "Kept", exact: true }).click();
  await tray.getByLabel("Show pieces that lie").selectOption({ label: "behind Level 1" });
  await tray.getByLabel("Show pieces that lie").selectOption({ label: "behind Along 1" });
  await picks.getByRole("button", { name: "Pick all that are shown" }).click();
  const many = Number(/(\d+) picked/.exec(await picks.innerText())![1]);
  expect(many).toBeGreaterThan(1);
  await picks.getByRole("button", { name: "Join the picked pieces" }).click();
  await built(page);
  await tray.getByRole("button", { name: /^Comes out: \d+ bodies/ }).click();
  await expect(out).toContainText("Group 1");
  await page.keyboard.press("Escape");
  await open(page).getByRole("button", { name: "Update the step" }).click();
  await built(page);
  const bench = page.getByRole("region", { name: "Bench" });
  await bench
    .getByRole("article")
    .first()
    .evaluate((card) => card.closest(".overflow-x-auto")!.scrollBy(1e6, 0));
  await expect(bench.getByRole("article", { name: "Group 1", exact: true })).toBeVisible();
});

test("the key for what lies behind goes from piece to piece under the pointer", async ({ page }) => {
  await openStep(page, steps, "s", "Cut");
  const tray = page.getByRole("region", { name: "Pieces" });
  const canvas = page.locator("canvas[tabindex]");
  const spot = await project(page, [25, -30, 25]);
  await canvas.click({ position: spot });
  const lit = async () => {
    const card = tray.locator("[data-piece].border-ink:not([data-near])").first();
    return await card.getAttribute("data-piece");
  };
  const first = await lit();
  expect(first).not.toBeNull();
  const seen = new Set([first]);
  for (let i = 0; i < 6; i++) {
    await page.keyboard.press("u");
    await page.waitForTimeout(100);
    seen.add(await lit());
  }
  expect(seen.size).toBeGreaterThan(1);
});

test("a side of a trim is turned round by its own mark in the view, by mouse and by key; two sheets trim each other", async ({
  page,
}) => {
  const id = await postJob(page, [
    { id: "b", type: "box", name: "Block", size: [60, 40, 20], anchor: "centre" },
    { id: "w", type: "workplane", name: "Across", base: "yz", offset: 10 },
    { id: "v", type: "workplane", name: "Along", base: "zx", offset: 4 },
    { id: "t", type: "seam", name: "Trim it", preset: "trim", stock: ["b"], cutters: ["w", "v"] },
  ]);
  await page.goto(`/jobs/${id}`);
  await built(page);
  await page.locator('[data-step="t"]').getByRole("button", { name: "Trim it", exact: true }).click();
  await built(page);
  const tray = page.getByRole("region", { name: "Pieces" });
  const across = page.getByRole("button", { name: /Across stays/ });
  const along = page.getByRole("button", { name: /Along stays/ });
  // In front of both: 20 by 16 by 20; behind the first: 40 by 16 by 20; behind both: 40 by 24 by 20.
  await expect(tray).toContainText("1 stays, 6400 mm³");
  await expect(across).toHaveAttribute("data-side", "front");
  await across.click();
  await built(page);
  await expect(tray).toContainText("1 stays, 12.8 cm³");
  await expect(across).toHaveAttribute("data-side", "back");
  await along.focus();
  await page.keyboard.press("Enter");
  await built(page);
  await expect(tray).toContainText("1 stays, 19.2 cm³");
  await open(page).getByRole("button", { name: "Update the step" }).click();
  await built(page);
  await expect(page.getByRole("article", { name: "Block", exact: true })).toContainText("19.2 cm³");
  await expect(across).toBeHidden();

  // Two sheets that stand on one another, each cut by the other.
  const line = (from: number[], to: number[]) => [
    { id: "a", type: "point", x: from[0], y: from[1] },
    { id: "c", type: "point", x: to[0], y: to[1] },
    { id: "l", type: "line", from: "a", to: "c" },
  ];
  const sheets = await postJob(page, [
    { id: "ps", type: "sketch", on: "xy", entities: line([-30, 0], [30, 0]) },
    { id: "p", type: "extrude", name: "Wall", sketch: ["ps"], as: "sheet", extent: "symmetric", distance: 40 },
    { id: "qs", type: "sketch", on: "xy", entities: line([7, -25], [7, 25]) },
    { id: "q", type: "extrude", name: "Fin", sketch: ["qs"], as: "sheet", extent: "symmetric", distance: 40 },
    { id: "t", type: "seam", name: "Trim both", preset: "trim", stock: ["p", "q"], cutters: [] },
  ]);
  await page.goto(`/jobs/${sheets}`);
  await built(page);
  await page.locator('[data-step="t"]').getByRole("button", { name: "Trim both", exact: true }).click();
  await expect(open(page)).toContainText("Pick something to cut with");
  await open(page).getByRole("switch", { name: "Stock divides stock" }).click();
  await built(page);
  await expect(tray).toContainText("4 pieces");
  await expect(tray).toContainText("2 stay");
  const fin = page.getByRole("button", { name: /Fin stays/ });
  const side = await fin.getAttribute("data-side");
  const of = tray.locator('[data-fate="keep"]');
  const sizes = async () => (await of.allInnerTexts()).map((text) => /[\d.]+ (?:mm|cm)²/.exec(text)?.[0]).sort();
  const before = await sizes();
  await fin.click();
  await built(page);
  await expect(fin).not.toHaveAttribute("data-side", side!);
  expect(await sizes()).not.toEqual(before);
  // The form says the same and turns it back.
  await open(page)
    .getByLabel("Side of Fin that stays")
    .getByRole("radio", { name: side === "front" ? "Keep front" : "Keep back" })
    .click();
  await built(page);
  expect(await sizes()).toEqual(before);
});

test("a piece is joined to a body, which goes on; and a cut is done again on the other side", async ({ page }) => {
  const id = await postJob(page, [
    { id: "b", type: "box", name: "Beam", size: [100, 40, 20] },
    { id: "p", type: "box", name: "Post", size: [20, 40, 30], at: [60, 0, 0] },
    { id: "w", type: "workplane", name: "Level", base: "yz", offset: 30 },
    { id: "s", type: "seam", name: "Cut", preset: "split", stock: ["b"], cutters: ["w"] },
  ]);
  await page.goto(`/jobs/${id}`);
  await built(page);
  await page.locator('[data-step="s"]').getByRole("button", { name: "Cut", exact: true }).click();
  await built(page);
  const tray = page.getByRole("region", { name: "Pieces" });
  const end = tray.locator("[data-piece]").filter({ hasText: "in front of Level" });
  await end.getByRole("radio", { name: "Group" }).click();
  await built(page);
  await tray.getByLabel("Group 1 becomes").selectOption({ label: "joined to Post" });
  await built(page);
  await tray.getByRole("button", { name: /^Comes out/ }).click();
  const out = page.getByRole("dialog", { name: "What comes out" });
  await expect(out.getByRole("listitem").filter({ hasText: "Post" })).toContainText("40 cm³");
  await page.keyboard.press("Escape");
  await open(page).getByRole("button", { name: "Update the step" }).click();
  await built(page);
  await expect(bodyCard(page, "Post")).toContainText("40 cm³");
  const bench = page.getByRole("region", { name: "Bench" });
  await expect(bench.getByRole("article", { name: /Group/ })).toHaveCount(0);
});

test("a cut is done again on the other side: by clicking", async ({ page }) => {
  const id = await postJob(page, [
    { id: "b", type: "cylinder", name: "Tube", diameter: 20, height: 120, at: [-60, 0, 0], axis: "x" },
    { id: "w", type: "workplane", name: "Mitre", base: "normal", through: [50, 0, 0], normal: [1, 0, 0.4] },
    { id: "s", type: "seam", name: "Cut", preset: "trim", stock: ["b"], cutters: ["w"], keepSide: { w: "back" } },
  ]);
  await page.goto(`/jobs/${id}`);
  await built(page);
  await tool(page, "Shape", "Mirror");
  await open(page).getByRole("radio", { name: "Steps" }).click();
  const steps = open(page).getByRole("group", { name: "Steps that join, cut or divide" });
  await expect(steps).toContainText("Cut, trimmed");
  await steps.getByRole("checkbox", { name: /Cut/ }).click();
  await built(page);
  await addStep(page);
  // π·100·100 of the 120 that it was.
  await expect(bodyCard(page, "Tube")).toContainText("31.42 cm³");
});

test("a decision whose piece is divided is asked about, with the pieces that it may be; one click answers", async ({
  page,
}) => {
  test.setTimeout(60_000);
  await openStep(
    page,
    [
      { id: "a", type: "box", name: "Block", size: [60, 40, 20] },
      { id: "w", type: "workplane", name: "Across", base: "yz", offset: 10 },
      { id: "v", type: "workplane", name: "Along", base: "zx", offset: 5 },
      { id: "s", type: "seam", name: "Cut", stock: ["a"], cutters: ["w"] },
    ],
    "s",
    "Cut",
  );
  const tray = page.getByRole("region", { name: "Pieces" });
  // The one behind the plane is scrapped: 40 by 40 by 20.
  const behind = tray.getByRole("listitem").filter({ hasText: "32 cm³" });
  await behind.getByRole("radio", { name: "Scrap", exact: true }).click();
  await built(page);
  await expect(tray).toContainText("1 stays, 16 cm³");
  // Another cutter goes through it: nobody guesses which half was meant.
  await open(page).getByRole("group", { name: "Cutters" }).getByRole("checkbox", { name: "Along" }).click();
  await built(page);
  await expect(open(page)).toContainText("A piece that you scrapped is divided now");
  await expect(open(page).getByRole("button", { name: /^Scrap piece \d$/ })).toHaveCount(2);
  await open(page)
    .getByRole("button", { name: /^Scrap piece \d$/ })
    .first()
    .click();
  await built(page);
  await expect(open(page)).not.toContainText("is divided now");
  await expect(tray.getByRole("radio", { name: "Scrap", exact: true, checked: true })).toHaveCount(1);
  await expect(tray).toContainText("3 stay");
});

test("a piece that was not there when others were decided on is told as new; one click says that it is right", async ({
  page,
}) => {
  test.setTimeout(60_000);
  await openStep(
    page,
    [
      { id: "a", type: "box", name: "Plate", size: [100, 20, 10], at: [40, 0, 0] },
      { id: "b", type: "box", name: "Post", size: [4, 4, 20], at: [0, 0, 5] },
      { id: "r", type: "pattern", name: "Posts", bodies: ["b"], kind: "rows", axis: "x", count: 2, spacing: 20 },
      { id: "u", type: "seam", name: "Body", preset: "union", stock: ["a", "b", "r"] },
      { id: "w", type: "workplane", name: "Level", base: "xy", offset: 10 },
      { id: "s", type: "seam", name: "Cut", stock: ["u"], cutters: ["w"] },
    ],
    "s",
    "Cut",
  );
  const tray = page.getByRole("region", { name: "Pieces" });
  await expect(tray).toContainText("3 pieces");
  await tray
    .getByRole("listitem")
    .filter({ hasText: "in front of Level" })
    .first()
    .getByRole("radio", { name: "Scrap" })
    .click();
  await built(page);
  await open(page).getByRole("button", { name: "Update the step" }).click();
  await built(page);
  await expect(page.locator('[data-step="s"]')).not.toHaveAttribute("data-state", "warned");

  await page.locator('[data-step="r"]').getByRole("button", { name: "Posts", exact: true }).click();
  await open(page).getByLabel("How many, in all").fill("3");
  await page.keyboard.press("Enter");
  await built(page);
  await expect(page.locator('[data-step="s"]')).toHaveAttribute("data-state", "warned");
  await page.locator('[data-step="s"]').getByRole("button", { name: "Cut", exact: true }).click();
  await built(page);
  await expect(open(page)).toContainText("is new since somebody decided on the pieces of this step");
  await expect(tray.getByRole("listitem").filter({ hasText: "asked about" })).toHaveCount(2);
  await open(page).getByRole("button", { name: "That is right" }).click();
  await built(page);
  await expect(open(page)).not.toContainText("is new since");
  await open(page).getByRole("button", { name: "Update the step" }).click();
  await built(page);
  await expect(page.locator('[data-step="s"]')).not.toHaveAttribute("data-state", "warned");
});
