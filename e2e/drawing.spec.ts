import type { Page } from "@playwright/test";
import { built, clickModel, open, postJob, project, saved } from "./helpers";
import { expect, test } from "./server";

const bar = (page: Page) => page.getByRole("region", { name: "Sketch", exact: true });
const use = (page: Page, name: string) => bar(page).getByRole("radio", { name, exact: true }).click();
const entity = (page: Page, id: string) => page.locator(`[data-entity="${id}"]`);
const parts = (page: Page) => page.locator("[data-sketch-tool]");
/** Clicks at places of a level sketch, mm. */
async function at(page: Page, ...places: [number, number][]): Promise<void> {
  for (const [x, y] of places) await clickModel(page, [x, y, 0]);
}
async function pixel(page: Page, x: number, y: number): Promise<[number, number]> {
  const box = (await page.locator("canvas[tabindex]").boundingBox())!;
  const place = await project(page, [x, y, 0]);
  return [box.x + place.x, box.y + place.y];
}
/** A job with one sketch, open, on a view as large as a sheet of 120 by 90. */
async function openSketch(page: Page, entities: unknown[] = []): Promise<void> {
  const id = await postJob(page, [
    { id: "k", type: "sketch", entities },
    { id: "b", type: "box", size: [120, 90, 1], at: [0, 0, -20] },
  ]);
  await page.goto(`/jobs/${id}`);
  await built(page);
  await page.locator('[data-step="k"]').getByRole("button", { name: "Sketch", exact: true }).click();
  await built(page);
}

test("every shape by clicks or typed sizes", async ({ page }) => {
  await openSketch(page);
  await use(page, "Rectangle");
  await use(page, "From its centre");
  await at(page, [0, 0]);
  // A number typed over the view goes into the first size.
  await page.keyboard.type("100");
  await expect(bar(page).getByLabel("Width")).toHaveValue("100");
  await page.keyboard.press("Tab");
  await page.keyboard.type("60");
  await page.keyboard.press("Enter");
  await expect(parts(page)).toHaveAttribute("aria-label", "Sketch of 9 parts");
  await expect(bar(page)).toContainText("nothing can move");

  await use(page, "Slot");
  await at(page, [-40, -20], [-20, -20], [-20, -16]);
  await use(page, "Polygon");
  await bar(page).getByLabel("Sides").fill("5");
  await at(page, [20, -17], [20, -10]);
  await use(page, "Ellipse");
  await at(page, [38, -18], [45, -18], [38, -13]);
  await use(page, "Arc");
  await at(page, [-35, 10], [-30, 10], [-35, 20]);
  await use(page, "Circle");
  await use(page, "Through three places");
  await at(page, [-10, 10], [-5, 15], [-10, 20]);
  await use(page, "Spline");
  await at(page, [5, 8], [15, 14], [25, 8]);
  await page.keyboard.press("Enter");
  await use(page, "Point");
  await at(page, [40, 20]);
  await use(page, "Lettering");
  await bar(page).getByLabel("Letters").fill("Pier");
  await bar(page).getByLabel("Height of capitals").fill("5");
  await at(page, [28, 2], [44, 2]);
  for (const [kind, count] of [
    ["a", 3],
    ["e", 1],
    ["s", 1],
    ["t", 1],
    ["c", 2],
  ] as const)
    await expect(page.locator(`[data-entity^="${kind}"]:not([data-entity^="axis"])`)).toHaveCount(count);
  await expect(bar(page).getByRole("alert")).toBeHidden();

  // A line with a round piece that goes on tangent to it.
  await use(page, "Lines");
  await at(page, [-45, -5], [-25, -5]);
  await expect(bar(page)).toContainText("open at");
  await use(page, "Round, tangent");
  await at(page, [-25, 3]);
  await expect(page.locator('[data-entity="a4"]')).toBeAttached();

  // Letters that the font has not: said in place, the drawing stays.
  await page.keyboard.press("Escape");
  await use(page, "Lettering");
  await bar(page).getByLabel("Letters").fill("天");
  await at(page, [-45, 24], [-30, 24]);
  await expect(bar(page).getByRole("alert")).toContainText("The lettering has no “天”");
  await expect(page.locator('[data-entity="t1"]')).toBeAttached();
  await expect(page.locator('[data-entity="t2"]')).toHaveCount(0);
});

test("corners, offset, trim, extend, mirror; boxes; copies into another sketch", async ({ page }) => {
  await openSketch(page);
  await use(page, "Rectangle");
  await at(page, [-40, -20]);
  await bar(page).getByLabel("Width").fill("40");
  await bar(page).getByLabel("Height").fill("30");
  await bar(page).getByRole("button", { name: "Draw it" }).click();
  await use(page, "Round a corner");
  await bar(page).getByLabel("Radius").fill("1/4 in");
  await at(page, [0, 10]);
  await use(page, "Cut a corner");
  await bar(page).getByLabel("Cut off").fill("4");
  await at(page, [-40, 10]);
  await expect(page.getByRole("button", { name: "Size d3: R 6.35" })).toBeVisible();

  // A box takes what lies in it, or what it touches.
  await use(page, "Pick and drag");
  const drag = async (a: [number, number], b: [number, number]) => {
    await page.mouse.move(...(await pixel(page, ...a)));
    await page.mouse.down();
    await page.mouse.move(...(await pixel(page, ...b)), { steps: 4 });
    await page.mouse.up();
  };
  await drag([-50, -25], [-38, 15]);
  // The side, and the corner that was cut off it.
  await expect(page.locator("[data-entity][data-picked]")).toHaveCount(2);
  await use(page, "what it touches");
  await drag([-50, -25], [-38, 15]);
  await expect(page.locator("[data-entity][data-picked]")).toHaveCount(4);
  await use(page, "what lies in it");
  await drag([-50, -30], [10, 20]);
  await expect(page.locator("[data-entity][data-picked]")).toHaveCount(8);

  await use(page, "Offset");
  await bar(page).getByLabel("Distance").fill("3");
  await at(page, [10, 20]);
  await expect(page.getByRole("button", { name: /^Size d\d+: 3$/ })).toBeVisible();
  await use(page, "Mirror");
  await at(page, [0, 38]);
  await expect(page.locator('[data-entity^="a"]:not([data-entity^="axis"])')).toHaveCount(3);

  // Too large a radius is refused where it is asked for.
  await use(page, "Round a corner");
  await bar(page).getByLabel("Radius").fill("60");
  await at(page, [0, -20]);
  await expect(bar(page).getByRole("alert")).toContainText("exactly two");
  await at(page, [-40, -20]);
  await expect(bar(page).getByRole("alert")).toContainText("too large");

  await use(page, "Lines");
  await at(page, [40, -38], [55, -30]);
  await page.keyboard.press("Escape");
  await page.keyboard.press("Escape");
  await use(page, "Lines");
  await at(page, [50, -40], [50, -20]);
  await page.keyboard.press("Escape");
  const before = await page.locator("[data-entity^='l']").count();
  await use(page, "Trim");
  await at(page, [53.5, -30.8]);
  await expect(bar(page).getByRole("alert")).toBeHidden();
  await use(page, "Extend");
  await at(page, [50, -38]);
  await expect(bar(page).getByRole("alert")).toContainText("Nothing lies that way");
  expect(await page.locator("[data-entity^='l']").count()).toBe(before);

  // Copied here, put into another sketch.
  await use(page, "Pick and drag");
  await drag([-50, -30], [10, 20]);
  await bar(page).getByRole("button", { name: "Copy" }).click();
  await built(page);
  await page.getByRole("button", { name: "Update the step" }).click();
  await expect(open(page)).toBeHidden();
  await built(page);
  await saved(page);
  await page.getByRole("navigation", { name: "Stages" }).getByRole("button", { name: "Draw" }).click();
  await page.getByRole("region", { name: "Draw tools" }).getByRole("button", { name: "Sketch" }).first().click();
  await built(page);
  await expect(bar(page)).toContainText("nothing drawn yet");
  await bar(page).getByRole("button", { name: "Paste" }).click();
  await expect(bar(page)).not.toContainText("nothing drawn yet");
  await expect(page.getByRole("button", { name: /^Size d\d+: R 6.35$/ })).toBeVisible();
});

test("sizes on the drawing: opened, driven by a formula, only measuring, in conflict", async ({ page }) => {
  await openSketch(page, [
    { id: "a", type: "point", x: -30, y: 0 },
    { id: "b", type: "point", x: 20, y: 0 },
    { id: "l", type: "line", from: "a", to: "b" },
  ]);
  await entity(page, "l").locator("path").last().click({ force: true });
  await bar(page).getByRole("button", { name: "Distance" }).click();
  await page.getByRole("button", { name: "Size d1: 50" }).click();
  const change = page.getByRole("form", { name: "Change size d1" });
  await change.getByLabel("d1").fill("10 + 2 * 15");
  await change.getByLabel("d1").press("Enter");
  await expect(page.getByRole("button", { name: "Size d1: 10 + 2 * 15 = 40" })).toBeVisible();
  // What cannot be read is said there, and the last good drawing stays.
  await page.getByRole("button", { name: /^Size d1/ }).click();
  await change.getByRole("button", { name: "Change the formula of d1" }).click();
  await change.getByLabel("d1").fill("10 / 0");
  await expect(change).toContainText("divide");
  await change.getByLabel("d1").fill("60");
  await change.getByRole("button", { name: "Done" }).click();
  await expect(page.getByRole("button", { name: "Size d1: 60" })).toBeVisible();

  // A second size of the same: it says which two say it, and lets it only measure.
  await bar(page).getByRole("button", { name: "Distance", exact: true }).click();
  await expect(bar(page)).toContainText("the dimension d1 and the dimension d2 say the same thing twice");
  await page.getByRole("button", { name: /^Size d2/ }).click();
  await page.getByRole("form", { name: "Change size d2" }).getByRole("button", { name: "Only measure" }).click();
  await expect(page.getByRole("button", { name: "Size d2: (60)" })).toBeVisible();
  await expect(bar(page)).not.toContainText("say the same thing twice");
  await page.keyboard.press("Escape");
});

test("regions are picked in the view or from a list; what was chosen stays chosen", async ({ page }) => {
  const rectangle = (name: string, x: number, y: number, w: number, h: number) => [
    ...[
      ["a", x, y],
      ["b", x + w, y],
      ["c", x + w, y + h],
      ["d", x, y + h],
    ].map(([corner, px, py]) => ({ id: `${name}${corner}`, type: "point", x: px, y: py })),
    ...["ab", "bc", "cd", "da"].map((ends) => ({
      id: `${name}${ends}`,
      type: "line",
      from: `${name}${ends[0]}`,
      to: `${name}${ends[1]}`,
    })),
  ];
  const id = await postJob(page, [
    { id: "k", type: "sketch", entities: [...rectangle("r", -40, -25, 80, 50), ...rectangle("q", -30, -10, 30, 20)] },
    { id: "x", type: "extrude", sketch: ["k"], distance: 10 },
  ]);
  await page.goto(`/jobs/${id}`);
  await built(page);
  await page.locator('[data-step="x"]').getByRole("button", { name: "Extrude", exact: true }).click();
  await built(page);
  const regions = open(page).getByRole("group", { name: "Regions" });
  await expect(regions).toContainText("1 of 2, all that are no holes");
  await expect(page.locator("body")).toContainText("34 cm³");
  // The hole is taken as well: a whole plate.
  await clickModel(page, [-15, 0, 0]);
  await expect(regions).toContainText("2 of 2");
  await built(page);
  await expect(page.locator("body")).toContainText("40 cm³");
  await regions.getByRole("checkbox", { name: /Region \d, 3400 mm²/ }).click();
  await built(page);
  await expect(page.locator("body")).toContainText("6000 mm³");
  await page.getByRole("button", { name: "Update the step" }).click();
  await built(page);
  await page.locator('[data-step="x"]').getByRole("button", { name: "Extrude", exact: true }).click();
  await expect(regions).toContainText("1 of 2");
  await expect(regions.getByRole("button", { name: "All again" })).toBeVisible();
});

test("an outline comes in as DXF, goes out as SVG; what bodies give is drawn by", async ({ page }) => {
  const groups = (lines: [number, number, number, number][]) =>
    lines.map(([a, b, c, d]) => `0\nLINE\n8\n0\n10\n${a}\n20\n${b}\n11\n${c}\n21\n${d}\n`).join("");
  const outline = groups([
    [0, 0, 2, 0],
    [2, 0, 2, 1],
    [2, 1, 0, 1],
    [0, 1, 0, 0],
  ]);
  const dxf = `0\nSECTION\n2\nHEADER\n9\n$INSUNITS\n70\n1\n0\nENDSEC\n0\nSECTION\n2\nENTITIES\n${outline}0\nENDSEC\n0\nEOF\n`;
  const id = await postJob(page, [
    { id: "b", type: "box", size: [80, 60, 10] },
    { id: "k", type: "sketch", on: "face", face: [{ body: "b:block", face: "b:side:z+" }] },
  ]);
  await page.goto(`/jobs/${id}`);
  await built(page);
  await page.locator('[data-step="k"]').getByRole("button", { name: "Sketch", exact: true }).click();
  await built(page);
  const input = bar(page).getByLabel("DXF or SVG file");
  await input.setInputFiles({ name: "plate.dxf", mimeType: "image/vnd.dxf", buffer: Buffer.from(dxf) });
  await expect(bar(page).getByRole("list", { name: "About the file" })).toContainText(
    "4 curves brought in, in inches.",
  );
  await expect(parts(page)).toHaveAttribute("aria-label", "Sketch of 8 parts");
  // A broken one changes nothing.
  await input.setInputFiles({ name: "bad.dxf", mimeType: "image/vnd.dxf", buffer: Buffer.from(dxf.slice(0, -40)) });
  await expect(bar(page).getByRole("alert")).toContainText("broken or cut short");
  await expect(parts(page)).toHaveAttribute("aria-label", "Sketch of 8 parts");
  const saving = page.waitForEvent("download");
  await bar(page).getByRole("button", { name: "Save as SVG" }).click();
  expect((await saving).suggestedFilename()).toBe("Test job.svg");

  // The top face gives its edges; a corner of the outline is put on one of them.
  await open(page)
    .getByRole("group", { name: "Faces to draw by" })
    .getByRole("button", { name: "Pick in the view" })
    .click();
  await built(page);
  await clickModel(page, [30, 5, 10]);
  await open(page).getByRole("button", { name: "Picking: click in the view" }).click();
  await built(page);
  // Four edges with their ends; a line that begins in one of the corners of the block.
  await expect(page.locator("[data-entity][data-given]")).toHaveCount(12);
  await use(page, "Lines");
  await at(page, [40, 30], [30, 20]);
  await expect(parts(page)).toHaveAttribute("aria-label", "Sketch of 10 parts");
  await expect(bar(page).getByRole("alert")).toBeHidden();
});
