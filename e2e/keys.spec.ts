import { readFileSync } from "node:fs";
import AxeBuilder from "@axe-core/playwright";
import type { Page } from "@playwright/test";
import { WHOLE } from "../src/core/testing/sample";
import { bodyCard, built, clickModel, newJob, open, postJob, project, saved, violations } from "./helpers";
import { expect, test } from "./server";

const block = { id: "a", type: "box", size: [60, 40, 30] };

/** Finds something by typing and takes it. */
async function find(page: Page, words: string): Promise<void> {
  await page.keyboard.press("/");
  await expect(page.getByRole("dialog", { name: "Find anything" })).toBeVisible();
  await page.keyboard.type(words);
  await page.keyboard.press("Enter");
  await expect(page.getByRole("dialog", { name: "Find anything" })).toBeHidden();
}

/** Goes from field to field until one has the focus that is called so. */
async function tabTo(page: Page, name: RegExp, most = 60): Promise<void> {
  for (let i = 0; i < most; i++) {
    const called = await page.evaluate(() => {
      const at = document.activeElement as HTMLElement | null;
      if (!at?.closest("[data-open-step], [role=dialog], [aria-label=Pieces]")) return "";
      const labels = [...((at as HTMLInputElement).labels ?? [])].map((one) => one.textContent ?? "");
      return [at?.getAttribute("aria-label") ?? "", ...labels, at?.textContent ?? ""].join(" ").trim();
    });
    if (name.test(called)) return;
    await page.keyboard.press("Tab");
  }
  throw new Error(`${name} is not reached by Tab`);
}

async function keep(page: Page): Promise<void> {
  await page.keyboard.press("Control+Enter");
  await expect(page.locator("[data-open-step]")).toBeHidden();
  await built(page);
}

test("the main story by keys alone: stock, tool, cut, pieces, a section, a file", async ({ page }) => {
  await newJob(page, "By keys");
  await page.locator("body").press("Escape");

  await find(page, "block");
  await tabTo(page, /^Size X/);
  await page.keyboard.press("Control+A");
  await page.keyboard.type("90");
  await keep(page);
  await expect(bodyCard(page, "Block")).toContainText("900 cm³");

  // The digits open the stages; the arrows go among the tools as they lie.
  await page.keyboard.press("2");
  await expect(page.getByRole("region", { name: "Shape tools" }).getByRole("button", { name: "Block" })).toBeFocused();
  await page.keyboard.press("ArrowRight");
  await expect(page.getByRole("region", { name: "Shape tools" })).toContainText("A round bar or pin");
  await page.keyboard.press("Enter");
  await tabTo(page, /^Diameter/);
  await page.keyboard.press("Control+A");
  await page.keyboard.type("40");
  await keep(page);

  // The step opens in its first field, so that what is picked is a few keys away.
  await find(page, "split");
  await tabTo(page, /^Block/);
  await page.keyboard.press("Space");
  // The cylinder stands among the stock first, then among the cutters.
  await tabTo(page, /^Cylinder/);
  await page.keyboard.press("Tab");
  await tabTo(page, /^Cylinder/);
  await page.keyboard.press("Space");
  const tray = page.getByRole("region", { name: "Pieces" });
  await expect(tray.getByRole("listitem")).toHaveCount(2);
  // A decision on a single piece: the first is scrapped.
  await tabTo(page, /^Keep$/);
  await page.keyboard.press("ArrowRight");
  await expect(tray.getByRole("radio", { name: "Scrap", exact: true }).first()).toBeFocused();
  await page.keyboard.press("Space");
  await expect(tray).toContainText("1 stay");
  await keep(page);
  await expect(page.locator('[data-step][data-state="good"]')).toHaveCount(3);

  // Undone and done again, hidden, seen from above and cut open: each by its key.
  await page.keyboard.press("Control+z");
  await expect(page.locator("[data-step]")).toHaveCount(2);
  await page.keyboard.press("Control+Shift+z");
  await expect(page.locator("[data-step]")).toHaveCount(3);
  await built(page);
  await find(page, "Cylinder");
  // The tool, as what was used last: its form is left again.
  await expect(open(page)).toBeVisible();
  await page.keyboard.press("Escape");
  await expect(open(page)).toBeHidden();
  await page.keyboard.press("Shift+T");
  await page.keyboard.press("x");
  await expect(page.getByRole("button", { name: "Section", exact: true })).toHaveAttribute("aria-pressed", "true");
  await page.keyboard.press("x");

  const download = page.waitForEvent("download");
  await page.keyboard.press("r");
  const release = page.getByRole("dialog");
  await expect(release).toBeVisible();
  await tabTo(page, /^Write/);
  await page.keyboard.press("Enter");
  expect((await download).suggestedFilename()).toMatch(/\.step$/);
});

test("finding: steps, bodies, parts and views; what was used last stands first; what cannot be done says why", async ({
  page,
}) => {
  const id = await postJob(page, [
    { ...block, name: "Cradle plate" },
    { id: "w", type: "workplane", name: "Middle" },
  ]);
  await page.goto(`/jobs/${id}`);
  await built(page);
  await page.getByRole("button", { name: "Find /" }).click();
  const dialog = page.getByRole("dialog", { name: "Find anything" });
  await expect(dialog.getByRole("option", { name: /^Undo/ })).toHaveAttribute("aria-disabled", "true");
  await page.keyboard.type("crad");
  await expect(dialog.getByRole("option")).toHaveCount(2);
  await expect(dialog.getByRole("option").first()).toContainText("1 Cradle plate");
  await dialog.getByRole("option", { name: /Select it/ }).click();
  await expect(page.getByRole("button", { name: "Select Cradle plate" })).toHaveAttribute("aria-pressed", "true");
  // What can be done with it stands under the view.
  await expect(page.getByRole("toolbar", { name: "What is selected" })).toContainText("Split");

  await find(page, "measure");
  await expect(page.getByRole("region", { name: "Measure" })).toBeVisible();
  await page.keyboard.press("m");
  await expect(page.getByRole("region", { name: "Measure" })).toBeHidden();
  await page.keyboard.press("/");
  await expect(dialog.getByText("Used last")).toBeVisible();
  await expect(dialog.getByRole("option").first()).toContainText("Measure");
  await page.keyboard.type("no such thing");
  await expect(dialog).toContainText("Nothing here is called like that.");
  await page.keyboard.press("Escape");

  // Letters typed into a field stay there.
  await page.getByRole("button", { name: "Rename the part" }).click();
  await page.keyboard.type("x/2r");
  await page.keyboard.press("Enter");
  await saved(page);
  await expect(page.getByLabel("Part", { exact: true }).locator("option").nth(1)).toHaveText("x/2r");
});

test("settings stay: places, fractions, theme, text; a key is changed, and taken from what had it", async ({
  page,
}) => {
  const id = await postJob(page, [{ ...block, size: [10.1234, 25.4 * 1.25, 30] }]);
  await page.goto(`/jobs/${id}`);
  await built(page);
  await page.keyboard.press(",");
  const dialog = page.getByRole("dialog", { name: "Settings" });
  await dialog
    .getByLabel(/Places after the point/)
    .getByRole("radio", { name: "1" })
    .click();
  await dialog.getByLabel("Inches as fractions").getByRole("radio", { name: "to 1/16" }).click();
  await dialog.getByLabel("Theme").getByRole("radio", { name: "Graphite" }).click();
  await dialog.getByLabel("Text").getByRole("radio", { name: "Large" }).click();
  await dialog.getByRole("tab", { name: "Keys" }).click();
  await dialog.getByRole("button", { name: "Change the key of Measure: M" }).click();
  await page.keyboard.press("p");
  await expect(dialog.getByRole("status")).toHaveText("P was taken from “Parameters”, which has no key now.");
  await dialog.getByRole("button", { name: "Change the key of Shell: none" }).click();
  await page.keyboard.press("Tab");
  await expect(dialog.getByRole("status")).toContainText("Tab is needed by the page itself.");
  await page.keyboard.press("Escape");

  await page.reload();
  await built(page);
  await expect(page.locator("html")).toHaveAttribute("data-theme", "dark");
  await expect(page.locator("html")).toHaveAttribute("data-text", "large");
  await page.keyboard.press("p");
  await expect(page.getByRole("region", { name: "Measure" })).toBeVisible();
  await page.keyboard.press("Escape");
  await page.getByRole("button", { name: "Select Block" }).click();
  await expect(page.getByText("10.1 mm × 31.8 mm × 30 mm")).toBeVisible();
  await page.getByRole("radio", { name: "in", exact: true }).click();
  await expect(page.getByText("0.4 in × 1 1/4 in × 1.18 in")).toBeVisible();
});

test("the menu at the pointer lists what lies there; a face is drawn on by one press; what lies behind is stepped to", async ({
  page,
}) => {
  const id = await postJob(page, [block, { ...block, id: "b", at: [0, 90, 0] }]);
  await page.goto(`/jobs/${id}`);
  await built(page);
  await clickModel(page, [0, 0, 30]);
  const bar = page.getByRole("toolbar", { name: "What is selected" });
  await expect(bar).toContainText("Block: Flat facing up");
  await bar.getByRole("button", { name: "Draw on it" }).click();
  await expect(open(page)).toContainText("Block: Flat facing up");
  await page.keyboard.press("Escape");
  await page.keyboard.press("Escape");

  const canvas = page.locator("canvas[tabindex]");
  const box = (await canvas.boundingBox())!;
  await page.keyboard.press("Shift+F");
  await page.waitForTimeout(200);
  const middle = { x: box.x + box.width / 2, y: box.y + box.height / 2 };
  await page.mouse.move(middle.x, middle.y);
  await page.mouse.click(middle.x, middle.y, { button: "right" });
  const menu = page.getByRole("menu");
  await expect(menu.getByRole("menuitem", { name: /^1 Block: Flat facing front/ })).toBeVisible();
  await expect(menu.getByRole("menuitem", { name: /^4 Block 2: Flat facing back/ })).toBeVisible();
  await menu.getByRole("menuitem", { name: /^3 Block 2: Flat facing front/ }).click();
  await expect(page.getByRole("button", { name: "Select Block 2" })).toHaveAttribute("aria-pressed", "true");
  // The panel with its facts has moved the part into the middle of what is free.
  await page.waitForTimeout(300);
  const now = await project(page, [0, -20, 15]);
  await page.mouse.move(box.x + now.x, box.y + now.y);
  await page.keyboard.press("u");
  await expect(bar).toContainText("Block: Flat facing back");
  await page.keyboard.press("u");
  await expect(bar).toContainText("Block 2: Flat facing front");
  await page.keyboard.press("h");
  await expect(page.getByRole("button", { name: "Show Block 2", exact: true })).toBeVisible();
  // And the menu by its key.
  await page.getByRole("button", { name: "Select Block", exact: true }).click();
  await page.keyboard.press("d");
  await expect(menu.getByRole("menuitem", { name: "Hollow" })).toBeVisible();
  await page.keyboard.press("Escape");
  await expect(menu).toBeHidden();
});

test("a view is kept under a name with its section, found by typing, the same in another window; renamed, thrown away", async ({
  page,
}) => {
  const id = await postJob(page, [block]);
  await page.goto(`/jobs/${id}`);
  await built(page);
  const corner: [number, number, number] = [30, -20, 30];
  await page.keyboard.press("Shift+R");
  await page.keyboard.press("+");
  await page.locator("canvas[tabindex]").focus();
  for (const key of ["ArrowLeft", "ArrowUp", "+", "Shift+ArrowLeft"]) await page.keyboard.press(key);
  await page.keyboard.press("x");
  const [a, b] = [await project(page, corner), await project(page, [0, 0, 0])];

  await page.keyboard.press("w");
  const views = page.getByRole("dialog", { name: "Views of the part" });
  await expect(views).toContainText("keep that under a name");
  await views.getByLabel("Name").fill("Into the seat");
  await page.keyboard.press("Enter");
  await expect(views.getByRole("button", { name: "Into the seat cut open" })).toBeVisible();
  await page.keyboard.press("Escape");
  await saved(page);

  await page.keyboard.press("x");
  await page.keyboard.press("Shift+T");
  await page.keyboard.press("Home");
  expect(Math.abs((await project(page, corner)).x - a.x)).toBeGreaterThan(5);
  await find(page, "into the seat");
  await expect(page.getByRole("group", { name: "Section" })).toBeVisible();
  const near = (now: { x: number; y: number }, was: { x: number; y: number }, far = 1.5) =>
    expect(Math.hypot(now.x - was.x, now.y - was.y)).toBeLessThan(far);
  near(await project(page, corner), a);
  near(await project(page, [0, 0, 0]), b);

  // In another window and after loading: the same way of looking, as large as that window has room for.
  await page.setViewportSize({ width: 1600, height: 1000 });
  await page.reload();
  await built(page);
  await find(page, "into the seat");
  await expect(page.getByRole("group", { name: "Section" })).toBeVisible();
  const [c, d] = [await project(page, corner), await project(page, [0, 0, 0])];
  const turned = Math.atan2(d.y - c.y, d.x - c.x) - Math.atan2(b.y - a.y, b.x - a.x);
  expect(Math.abs(turned)).toBeLessThan(0.01);
  expect(Math.hypot(d.x - c.x, d.y - c.y)).toBeGreaterThan(Math.hypot(b.x - a.x, b.y - a.y) * 1.1);

  await page.keyboard.press("w");
  await views.getByRole("button", { name: "Rename Into the seat" }).press("Enter");
  await page.keyboard.type("Seat");
  await page.keyboard.press("Enter");
  await expect(views.getByRole("button", { name: "Seat cut open", exact: true })).toBeVisible();
  expect((await new AxeBuilder({ page }).include("[role=dialog]").analyze()).violations).toEqual([]);
  // A name that another has is not taken in silence.
  await views.getByRole("textbox", { name: "Name" }).fill("Other");
  await views.getByRole("button", { name: "Keep this view" }).click();
  await views.getByRole("button", { name: "Rename Other" }).click();
  await page.keyboard.type("Seat");
  await page.keyboard.press("Enter");
  await expect(views.getByRole("alert")).toContainText("Another view is called “Seat”. Nothing was renamed.");
  await views.getByRole("button", { name: "Throw away Other" }).click();
  await views.getByRole("textbox", { name: "Name" }).fill("Seat");
  await views.getByRole("button", { name: "Replace it" }).click();
  await expect(views.getByRole("list", { name: "Kept views" }).getByRole("listitem")).toHaveCount(1);
  await views.getByRole("button", { name: "Throw away Seat" }).click();
  await expect(views).toContainText("keep that under a name");
  await page.keyboard.press("Escape");
  await page.keyboard.press("Control+z");
  await page.keyboard.press("w");
  await expect(views.getByRole("button", { name: "Seat cut open", exact: true })).toBeVisible();
});

test("directions, floor and place: said and pressed; the part stands in the middle of what is free", async ({
  page,
}) => {
  const id = await postJob(page, [block]);
  await page.goto(`/jobs/${id}`);
  await built(page);
  const across = () => project(page, [0, 0, 15]);
  const canvas = (await page.locator("canvas[tabindex]").boundingBox())!;
  await page
    .getByRole("toolbar", { name: "Directions" })
    .getByRole("button", { name: "Look from the top (+Z)" })
    .click();
  await page.waitForTimeout(200);
  expect((await across()).x).toBeCloseTo(canvas.width / 2, 0);
  await page.mouse.move(canvas.x + canvas.width / 2, canvas.y + (await across()).y);
  const status = page.getByRole("region", { name: "Where the pointer is" });
  await expect(status).toContainText(/X −?[0-2](\.\d+)? +Y −?[0-2](\.\d+)? +Z 30/);
  await expect(status).toContainText(/Floor: \d+ mm a field/);

  // A panel over the left moves the part into the middle of the rest.
  await page.getByRole("button", { name: "Select Block" }).click();
  const panel = (await page.locator("[data-covers=left]").boundingBox())!;
  await expect
    .poll(async () => (await across()).x)
    .toBeCloseTo((panel.x + panel.width - canvas.x + canvas.width) / 2, 0);
  await page.getByRole("button", { name: "Select Block" }).click();
  await expect.poll(async () => (await across()).x).toBeCloseTo(canvas.width / 2, 0);

  // In perspective and back: what the view turns about stays where it is.
  await page.keyboard.press("v");
  await expect(status).toContainText("In perspective");
  expect((await across()).x).toBeCloseTo(canvas.width / 2, 0);
  await page.keyboard.press("v");
  await page.keyboard.press("g");
  await expect(status).not.toContainText("Floor");
});

test("what is seen whole stays whole when a panel covers part of the view, until somebody has gone nearer", async ({
  page,
}) => {
  await page.setViewportSize({ width: 1024, height: 700 });
  // As wide as the view itself: moved aside only, half of it would be out of sight.
  const id = await postJob(page, [{ ...block, size: [300, 60, 30] }]);
  await page.goto(`/jobs/${id}`);
  await built(page);
  await page.keyboard.press("Shift+F");
  await page.keyboard.press("Home");
  await page.waitForTimeout(200);
  const view = (await page.locator("canvas[tabindex]").boundingBox())!;
  const ends = async () => [await project(page, [-150, 0, 15]), await project(page, [150, 0, 15])] as const;
  const [left, right] = await ends();
  await page.getByRole("navigation", { name: "Stages" }).getByRole("button", { name: "Check" }).click();
  await page.getByRole("list", { name: "Checks" }).getByRole("button", { name: "Draft" }).click();
  const panel = page.getByRole("region", { name: "Draft" });
  await expect(panel.getByRole("status")).toContainText("draft");
  await page.waitForTimeout(300);
  const covered = (await panel.boundingBox())!;
  const edge = covered.x + covered.width - view.x;
  expect(edge).toBeGreaterThan(view.width / 2);
  const [a, b] = await ends();
  expect(a.x).toBeGreaterThanOrEqual(edge);
  expect(b.x).toBeLessThanOrEqual(view.width);
  expect(b.x - a.x).toBeLessThan(right.x - left.x);
  // Nearer: from then on it is moved aside, and stays as large as it was made.
  await panel.getByRole("button", { name: "Close" }).click();
  await page.locator("canvas[tabindex]").focus();
  await page.keyboard.press("+");
  await page.keyboard.press("+");
  await page.waitForTimeout(200);
  const [c, d] = await ends();
  await page.getByRole("list", { name: "Checks" }).getByRole("button", { name: "Draft" }).click();
  await expect(panel).toBeVisible();
  await page.waitForTimeout(300);
  const [e, f] = await ends();
  expect(f.x - e.x).toBeCloseTo(d.x - c.x, 3);
});

test("every tool has its page, reached from its form and by typing", async ({ page }) => {
  const id = await postJob(page, [block]);
  await page.goto(`/jobs/${id}`);
  await built(page);
  await find(page, "shell");
  await open(page).getByRole("button", { name: "How it works" }).click();
  const help = page.getByRole("dialog", { name: "Shell" });
  await expect(help).toContainText("Comes out");
  await expect(help.getByRole("img")).toHaveJSProperty("complete", true);
  expect(await help.getByRole("img").evaluate((img: HTMLImageElement) => img.naturalWidth)).toBeGreaterThan(300);
  await page.keyboard.press("Escape");
  await expect(open(page)).toBeVisible();
  await page.keyboard.press("Escape");
  await find(page, "how split");
  await expect(page.getByRole("dialog", { name: "Split" })).toContainText("All pieces");
});

test("the walk through the demo: offered once, shows what it tells of, left at any time, changes nothing", async ({
  page,
}) => {
  const demo = JSON.parse(readFileSync("demo/star-pier.json", "utf8"));
  // Without the file, the first part is the hub.
  demo.parts = demo.parts.filter((part: { name: string }) => part.name === "Hub");
  demo.files = [];
  const made = await page.request.post("/api/jobs", { data: { document: demo } });
  const { id } = await made.json();
  await page.goto(`/jobs/${id}`);
  await built(page);
  await page.getByRole("complementary", { name: "New here?" }).getByRole("button", { name: "Begin" }).click();
  const card = page.getByRole("region", { name: "Walk through the demo" });
  await expect(card).toContainText("1 of 8");
  await page.keyboard.press("Enter");
  await page.keyboard.press("Enter");
  await expect(card).toContainText("Pieces, each in hand");
  await expect(page.getByRole("region", { name: "Pieces" })).toBeVisible();
  await card.getByRole("button", { name: "Back" }).click();
  await expect(card).toContainText("The build sheet");
  for (let i = 0; i < 6; i++) await card.getByRole("button", { name: "Next" }).click();
  await card.getByRole("button", { name: "Done" }).click();
  await expect(card).toBeHidden();
  await expect(page.getByRole("button", { name: "Nothing to undo" })).toBeVisible();
  await page.reload();
  await built(page);
  await expect(page.getByRole("complementary", { name: "New here?" })).toBeHidden();
  await find(page, "walk");
  await expect(card).toContainText("1 of 8");
  await card.getByRole("button", { name: "Leave the walk" }).click();
  await expect(card).toBeHidden();
});

test("a frame over the view, and panels that are folded and keep their sizes", async ({ page }) => {
  const id = await postJob(page, [block]);
  await page.goto(`/jobs/${id}`);
  await built(page);
  await page.keyboard.press("Shift+T");
  await page.waitForTimeout(200);
  const canvas = (await page.locator("canvas[tabindex]").boundingBox())!;
  const [a, b] = [await project(page, [10, 5, 30]), await project(page, [30, 20, 30])];
  await page.keyboard.press("z");
  await page.mouse.move(canvas.x + a.x, canvas.y + a.y);
  await page.mouse.down();
  await page.mouse.move(canvas.x + b.x, canvas.y + b.y, { steps: 4 });
  await page.mouse.up();
  await expect(page.locator("[data-framing]")).toBeHidden();
  const [c, d] = [await project(page, [10, 5, 30]), await project(page, [30, 20, 30])];
  // As large as it goes, in the middle of what is free.
  expect((c.x + d.x) / 2).toBeCloseTo(canvas.width / 2, -0.5);
  expect(Math.abs(d.x - c.x) / Math.abs(b.x - a.x)).toBeGreaterThan(1.9);
  expect(Math.max(c.x, d.x)).toBeLessThanOrEqual(canvas.width + 1);
  expect(Math.min(c.y, d.y)).toBeGreaterThanOrEqual(-1);

  const sheet = page.getByRole("complementary", { name: "Build sheet" });
  const edge = page.getByRole("separator", { name: "Width of the build sheet" });
  await edge.focus();
  await page.keyboard.press("ArrowLeft");
  await page.keyboard.press("ArrowLeft");
  await expect.poll(async () => (await sheet.boundingBox())!.width).toBe(360);
  await page.getByRole("button", { name: "Fold the bench away" }).click();
  await expect(page.getByRole("region", { name: "Bench" })).toContainText("Bench, 1 item");
  await page.reload();
  await built(page);
  await expect.poll(async () => (await sheet.boundingBox())!.width).toBe(360);
  await expect(page.getByRole("region", { name: "Bench" })).toContainText("Bench, 1 item");
  await page.getByRole("button", { name: "Fold the build sheet away" }).click();
  await expect.poll(async () => (await sheet.boundingBox())!.width).toBeLessThan(40);
  // What is opened is never folded away.
  await find(page, "sphere");
  await expect(open(page)).toBeVisible();
});

test("finding, settings, keys, help, menus and the open tools break no rule of accessibility that can be checked", async ({
  page,
}) => {
  const id = await postJob(page, [block, { id: "w", type: "workplane", base: "yz" }]);
  await page.goto(`/jobs/${id}`);
  await built(page);
  for (const theme of WHOLE ? ["light", "dark"] : ["light"]) {
    if (theme === "dark") await page.getByRole("button", { name: "Graphite" }).click();
    const rules = theme === "dark" ? "of colour" : "all";
    for (const key of ["/", ",", "?"]) {
      await page.keyboard.press(key);
      await expect(page.getByRole("dialog")).toBeVisible();
      expect(await violations(page, rules), `${key}, ${theme}`).toEqual([]);
      await page.keyboard.press("Escape");
      await expect(page.getByRole("dialog")).toBeHidden();
    }
    await find(page, "how trim works");
    expect(await violations(page, rules), `help, ${theme}`).toEqual([]);
    await page.keyboard.press("Escape");
    await page.keyboard.press("2");
    expect(await violations(page, rules), `tools, ${theme}`).toEqual([]);
    await page.keyboard.press("Escape");
    await page.getByRole("button", { name: "Select Block" }).click();
    expect(await violations(page, rules), `picked, ${theme}`).toEqual([]);
    await page.keyboard.press("d");
    await expect(page.getByRole("menu")).toBeVisible();
    expect(await violations(page, rules), `menu, ${theme}`).toEqual([]);
    await page.keyboard.press("Escape");
    await page.getByRole("button", { name: "Select Block" }).click();
  }
});
