import type { Page } from "@playwright/test";
import { addStep, built, clickModel, open, openStep, postJob, saved, tool } from "./helpers";
import { expect, test } from "./server";

const steps = [
  { id: "a", type: "box", name: "Block", size: [60, 40, 20] },
  { id: "w", type: "workplane", name: "Level", base: "xy", offset: 5 },
  { id: "v", type: "workplane", name: "Across", base: "yz", offset: "2 * 4" },
  { id: "s", type: "seam", name: "Cut", stock: ["a"], cutters: ["w", "v"] },
];

const offset = async (page: Page, id: string) => {
  const { document } = await (await page.request.get(`/api/jobs/${id}`)).json();
  return document.parts[0].steps[1].offset;
};

test("a cutting plane is dragged while its pieces are shown, and they follow; kept once, undone at once", async ({
  page,
}) => {
  test.setTimeout(90_000);
  const id = await openStep(page, steps, "s", "Cut");
  const tray = page.getByRole("region", { name: "Pieces" });
  const grip = page.getByRole("slider", { name: "Level: offset" });
  await expect(grip).toHaveAttribute("aria-valuetext", "5 mm");
  // Two pieces lie on either side of 8: below 5 they are 38 by 40 by 5.
  await expect(tray).toContainText("7600 mm³");

  const box = (await grip.boundingBox())!;
  const [x, y] = [box.x + box.width / 2, box.y + box.height / 2];
  await page.mouse.move(x, y);
  await page.mouse.down();
  // Upwards in the picture is upwards in the model; on the way the pieces are cut where the plane is now.
  const seen = new Set<string>();
  for (let i = 1; i <= 8; i++) {
    await page.mouse.move(x, y - 6 * i);
    await page.waitForTimeout(120);
    seen.add(await tray.locator("[data-piece]").first().innerText());
  }
  expect(seen.size).toBeGreaterThan(3);
  expect(await offset(page, id)).toBe(5);
  await page.mouse.up();
  await built(page);
  await saved(page);
  const kept = (await offset(page, id)) as number;
  expect(kept).toBeGreaterThan(6);
  await expect(grip).toHaveAttribute("aria-valuenow", String(kept));
  await expect(page.locator('[data-exact="true"]').first()).toBeVisible();
  // The seam is open still, and nothing of it was lost.
  await expect(open(page)).toContainText("Cutters (2)");

  // By key, and typed.
  await grip.focus();
  await page.keyboard.press("ArrowUp");
  await built(page);
  await expect.poll(() => offset(page, id)).toBeGreaterThan(kept);
  await page.getByRole("button", { name: /mm$/ }).first().click();
  await page.getByLabel("Level: offset, typed").fill("12,5");
  await page.keyboard.press("Enter");
  await built(page);
  await expect.poll(() => offset(page, id)).toBe(12.5);
  await expect(tray).toContainText("19 cm³");

  // A formula is not dragged over.
  const fixed = page.getByRole("slider", { name: "Across: offset" });
  await expect(fixed).toHaveAttribute("aria-disabled", "true");
  await expect(fixed).toHaveAttribute("title", /is 2 \* 4/);
});

test("the plane that is open is dragged, too: its own number follows in the form", async ({ page }) => {
  test.setTimeout(60_000);
  const id = await openStep(page, steps, "w", "Level");
  const grip = page.getByRole("slider", { name: "Level: offset" });
  await grip.focus();
  for (let i = 0; i < 3; i++) await page.keyboard.press("ArrowUp");
  await built(page);
  const now = await grip.getAttribute("aria-valuenow");
  expect(Number(now)).toBeGreaterThan(5);
  await expect(open(page).getByLabel("Offset", { exact: true })).toHaveValue(now!);
  await open(page).getByRole("button", { name: "Discard" }).click();
  await built(page);
  expect(await offset(page, id)).toBe(5);
});

/** A block that is being split, and where planes for it are made. */
async function splitting(page: Page) {
  const id = await postJob(page, [{ id: "a", type: "box", name: "Block", size: [60, 40, 20] }]);
  await page.goto(`/jobs/${id}`);
  await built(page);
  await tool(page, "Seam", "Split");
  await open(page).getByRole("group", { name: "Stock" }).getByRole("checkbox", { name: "Block" }).click();
  return { id, planes: open(page).getByRole("group", { name: "New plane" }) };
}

test("a plane is made in place: through the middle of the stock, dragged to where it has to be", async ({ page }) => {
  test.setTimeout(60_000);
  const { id, planes } = await splitting(page);
  await planes.getByRole("button", { name: "XY, level" }).click();
  await built(page);
  const tray = page.getByRole("region", { name: "Pieces" });
  await expect(tray).toContainText("2 pieces");
  await planes.getByRole("button", { name: "YZ" }).click();
  await built(page);
  await expect(tray).toContainText("4 pieces");
  await expect(tray.locator("[data-piece]").first()).toContainText("12 cm³");
  const grip = page.getByRole("slider", { name: "Workplane: offset", exact: true });
  await expect(grip).toHaveAttribute("aria-valuenow", "10");
  await grip.focus();
  await page.keyboard.press("ArrowDown");
  await built(page);
  await expect(grip).not.toHaveAttribute("aria-valuenow", "10");
  await addStep(page);
  const { document } = await (await page.request.get(`/api/jobs/${id}`)).json();
  expect(document.parts[0].steps.map(({ type }: { type: string }) => type)).toEqual([
    "box",
    "workplane",
    "workplane",
    "seam",
  ]);
  expect(document.parts[0].steps.at(-1).cutters).toHaveLength(2);
});

test("what takes long is followed by triangles, and it is said which of the two is shown", { tag: "@whole" }, async ({
  page,
}) => {
  test.setTimeout(90_000);
  const planes = Array.from({ length: 14 }, (_, i) => ({
    id: `w${i}`,
    type: "workplane",
    name: `Cut ${i + 1}`,
    base: i % 2 ? "yz" : "zx",
    offset: 10 * Math.floor(i / 2) - 30,
  }));
  // 64 pieces with a ball's skin take longer than a moment.
  await openStep(
    page,
    [
      { id: "b", type: "sphere", name: "Ball", diameter: 100 },
      ...planes,
      { id: "s", type: "seam", name: "Cut", stock: ["b"], cutters: planes.map(({ id }) => id) },
    ],
    "s",
    "Cut",
  );
  const triangles = await triangleWatch(page);
  const grip = page.getByRole("slider", { name: "Cut 14: offset", exact: true });
  await grip.focus();
  await page.keyboard.press("ArrowUp");
  await built(page);
  expect((await triangles()).length).toBeGreaterThan(0);
  await expect(page.locator("[data-triangles]")).toBeHidden();
});

test("a solid that cuts slowly is followed by triangles at each movement, and by what is exact when the hand rests", async ({
  page,
}) => {
  test.setTimeout(120_000);
  const bars = Array.from({ length: 12 }, (_, i) => ({
    id: `c${i}`,
    type: "cylinder",
    name: `Bar ${i + 1}`,
    diameter: 14,
    height: 120,
    at: [24 * (i % 4) - 36, 24 * Math.floor(i / 4) - 24, -60],
  }));
  const id = await openStep(
    page,
    [
      { id: "b", type: "sphere", name: "Ball", diameter: 100 },
      ...bars,
      { id: "s", type: "seam", name: "Cut", stock: ["b"], cutters: bars.map(({ id }) => id) },
    ],
    "s",
    "Cut",
  );
  const grip = page.getByRole("slider", { name: "Bar 6: place X", exact: true });
  const value = async () => Number(await grip.getAttribute("aria-valuenow"));
  const box = (await grip.boundingBox())!;
  const [x, y] = [box.x + box.width / 2, box.y + box.height / 2];
  // One of 36 is small, and says its number only where it is pointed at.
  const numbers = page.locator("[data-exact]");
  expect(box.width).toBeLessThan(20);
  await expect(numbers).toHaveCount(0);
  const turn = (Number(/-?[\d.]+/.exec((await grip.locator("g").getAttribute("transform"))!)![0]) * Math.PI) / 180;
  await page.mouse.move(x, y);
  await expect(numbers).toHaveText(["Bar 6 X −12 mm"]);
  await page.mouse.down();
  const triangles = page.locator("[data-triangles]");
  // The first movement may still be exact: how long that takes is not known before.
  let far = 0;
  await expect(async () => {
    far = far === 12 ? 18 : 12;
    await page.mouse.move(x + Math.cos(turn) * far, y + Math.sin(turn) * far, { steps: 4 });
    await expect(triangles).toContainText(/Triangles, to 0\.\d+ mm: what is exact follows/, { timeout: 400 });
  }).toPass({ timeout: 60_000 });
  // The hand rests, and still holds it.
  await built(page);
  await expect(triangles).toBeHidden();
  const dragged = await value();
  expect(dragged).not.toBe(-12);
  await page.mouse.up();
  await built(page);
  await expect(triangles).toBeHidden();
  await expect.poll(async () => (await stepsOf(page, id))[6].at[0]).toBe(dragged);
});

test("a wall that is dragged is drawn by triangles, and exactly at rest; where none fits it says so, and at rest what would", async ({
  page,
}) => {
  const id = await openStep(
    page,
    [
      { id: "a", type: "box", name: "Box", size: [60, 50, 40] },
      { id: "r", type: "fillet", edges: edgesOfBox([60, 50, 40], "a:solid"), radius: 5 },
      { id: "h", type: "shell", name: "Hollow", body: ["a"], thickness: 6 },
    ],
    "h",
    "Hollow",
  );
  await page.getByRole("button", { name: "Fit all" }).click();
  const grip = page.getByRole("slider", { name: "Box: thickness", exact: true });
  const value = async () => Number(await grip.getAttribute("aria-valuenow"));
  await expect(grip).toBeVisible();
  const box = (await grip.boundingBox())!;
  const [x, y] = [box.x + box.width / 2, box.y + box.height / 2];
  const turn = (Number(/-?[\d.]+/.exec((await grip.locator("g").getAttribute("transform"))!)![0]) * Math.PI) / 180;
  const to = (far: number) => page.mouse.move(x + Math.cos(turn) * far, y + Math.sin(turn) * far, { steps: 4 });
  await page.mouse.move(x, y);
  await page.mouse.down();
  const triangles = page.locator("[data-triangles]");
  const seen = await triangleWatch(page);
  let far = 0;
  await expect(async () => {
    far = far === 12 ? 40 : 12;
    await to(far);
    expect(await seen()).toContain("Triangles: what is exact follows");
  }).toPass({ timeout: 60_000 });
  await built(page);
  await expect(triangles).toBeHidden();
  const fits = await value();
  expect(fits).toBeGreaterThan(6);
  await expect(open(page)).not.toContainText("cannot be");
  // Thicker than half of it: held still, it says what would do.
  await to(120);
  expect(await value()).toBeGreaterThan(20);
  await expect(open(page)).toContainText(/Up to 1\d(\.\d+)? mm fits/, { timeout: 60_000 });
  await to(far);
  await expect(open(page)).not.toContainText("cannot be", { timeout: 60_000 });
  await page.mouse.up();
  await built(page);
  await expect(triangles).toBeHidden();
  const kept = await value();
  await page.getByRole("button", { name: "Update the step" }).click();
  await expect.poll(async () => (await stepsOf(page, id))[2].thickness).toBe(kept);
});

/** Watches for what the view says of triangles, however short it stands there. */
async function triangleWatch(page: Page): Promise<() => Promise<string[]>> {
  await page.evaluate(() => {
    const seen = new Set<string>();
    Object.assign(window, { seen });
    new MutationObserver(() => {
      const words = document.querySelector("[data-triangles]")?.textContent;
      if (words) seen.add(words);
    }).observe(document.body, { childList: true, subtree: true });
  });
  return () => page.evaluate(() => [...(window as unknown as { seen: Set<string> }).seen]);
}

/** The edges of a block that stands on the floor about its middle. */
const edgesOfBox = ([x, y, z]: readonly [number, number, number], body: string) => {
  const edge = (length: number, at: number[]) => ({ body, print: { kind: "line", length, at } });
  const signs = [
    [1, 1],
    [1, -1],
    [-1, 1],
    [-1, -1],
  ] as const;
  return signs.flatMap(([a, b]) => [
    edge(z, [(a * x) / 2, (b * y) / 2, z / 2]),
    edge(y, [(a * x) / 2, 0, b > 0 ? z : 0]),
    edge(x, [0, (a * y) / 2, b > 0 ? z : 0]),
  ]);
};

test("a plane is made where a face is clicked at, square to it", async ({ page }) => {
  const { id, planes } = await splitting(page);
  await planes.getByRole("button", { name: "Square to a face" }).click();
  await clickModel(page, [18, 5, 20]);
  await built(page);
  const tray = page.getByRole("region", { name: "Pieces" });
  await expect(tray).toContainText("2 pieces");
  await addStep(page);
  const [, plane, cut] = await stepsOf(page, id);
  expect(plane).toMatchObject({ type: "workplane", base: "square", face: [{ body: "a:block", face: "a:side:z+" }] });
  for (const [i, value] of [18, 5, 20].entries()) expect(Math.abs(plane.through[i] - value)).toBeLessThan(0.5);
  expect(cut.cutters).toEqual([plane.id]);
});

const body = [
  { id: "a", type: "box", name: "Block", size: [60, 40, 20] },
  { id: "c", type: "cylinder", name: "Bar", diameter: 14, height: 40, at: [10, 0, -10] },
];
const stepsOf = async (page: Page, id: string) =>
  (await (await page.request.get(`/api/jobs/${id}`)).json()).document.parts[0].steps;

test("a solid that cuts is dragged along its axes, and the pieces follow", async ({ page }) => {
  test.setTimeout(60_000);
  const cut = { id: "s", type: "seam", name: "Cut", stock: ["a"], cutters: ["c"] };
  const id = await openStep(page, [...body, cut], "s", "Cut");
  const tray = page.getByRole("region", { name: "Pieces" });
  // The bar's part of the block: 7² π · 20.
  await expect(tray).toContainText("3079 mm³");
  // Only where it is, not how large: that is its own step's.
  await expect(page.getByRole("slider", { name: "Bar: diameter" })).toHaveCount(0);
  const grip = page.getByRole("slider", { name: "Bar: place X" });
  await grip.focus();
  // To the side, until half of it is out of the block.
  await page.getByRole("button", { name: /^X 10 mm/ }).click();
  await page.getByLabel("Bar: place X, typed").fill("30");
  await page.keyboard.press("Enter");
  await built(page);
  await expect(tray).toContainText("1539 mm³");
  await expect.poll(async () => (await stepsOf(page, id))[1].at).toEqual([30, 0, -10]);
  await expect(page.locator('[data-exact="true"]').first()).toBeVisible();
});

test("sizes, radii and angles of the open step are dragged; none goes where it may not", async ({ page }) => {
  test.setTimeout(90_000);
  await openStep(page, body, "c", "Bar");
  const diameter = page.getByRole("slider", { name: "Bar: diameter" });
  await expect(diameter).toHaveAttribute("aria-valuetext", "14 mm");
  const box = (await diameter.boundingBox())!;
  await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2);
  await page.mouse.down();
  // Past the axis to the other side: it stays above nothing.
  for (let i = 1; i <= 20; i++) await page.mouse.move(box.x - 30 * i, box.y - 20 * i);
  for (let i = 1; i <= 20; i++) await page.mouse.move(box.x + 900 - 30 * i, box.y + 20 * i - 400);
  await page.mouse.up();
  await built(page);
  expect(Number(await diameter.getAttribute("aria-valuenow"))).toBeGreaterThan(0);
  await expect(open(page).getByLabel("Diameter")).toHaveValue((await diameter.getAttribute("aria-valuenow"))!);
  await open(page).getByRole("button", { name: "Discard" }).click();
  await built(page);

  const round = { id: "f", type: "fillet", name: "Round", edges: [{ body: "a:block", edge: "a:side:x+|a:side:z+" }] };
  await openStep(page, [...body, round], "f", "Round");
  const radius = page.getByRole("slider", { name: "Block: radius" });
  await expect(radius).toHaveAttribute("aria-valuetext", "2 mm");
  await radius.focus();
  await page.keyboard.press("ArrowUp");
  await built(page);
  await expect(radius).not.toHaveAttribute("aria-valuenow", "2");

  const turned = { id: "m", type: "move", name: "Turned", bodies: ["a"], turn: 30 };
  await openStep(page, [...body, turned], "m", "Turned");
  await page.getByRole("button", { name: /^turn 30°/ }).click();
  await page.getByLabel("Block: turn, typed").fill("45");
  await page.keyboard.press("Enter");
  await built(page);
  await expect(open(page).getByLabel("Turn by")).toHaveValue("45");
});

test("a radius is dragged in one go, past one that does not fit and back; by key it keeps the focus", async ({
  page,
}) => {
  test.setTimeout(90_000);
  const round = { id: "f", type: "fillet", name: "Round", edges: [{ body: "a:block", edge: "a:side:x+|a:side:z+" }] };
  await openStep(page, [...body, round], "f", "Round");
  const radius = page.getByRole("slider", { name: "Block: radius" });
  const now = async () => Number(await radius.getAttribute("aria-valuenow"));
  const box = (await radius.boundingBox())!;
  const [x, y] = [box.x + box.width / 2, box.y + box.height / 2];
  // Which way it grows in the picture.
  const tilt = await radius.locator("g").getAttribute("transform");
  const turn = (Number(/-?[\d.]+/.exec(tilt!)![0]) * Math.PI) / 180;
  const [dx, dy] = [Math.cos(turn), Math.sin(turn)];
  await page.mouse.move(x, y);
  await page.mouse.down();
  const seen: number[] = [];
  for (const far of [9, 20, 30, 400, 22, 30]) {
    await page.mouse.move(x + dx * far, y + dy * far, { steps: 3 });
    await built(page);
    seen.push(await now());
  }
  await page.mouse.up();
  await built(page);
  const [first, second, third, most, back, last] = seen as [number, number, number, number, number, number];
  expect(first).toBeGreaterThan(2);
  expect(second).toBeGreaterThan(first);
  expect(third).toBeGreaterThan(second);
  // The block is 20 high.
  expect(most).toBeGreaterThan(20);
  expect(back).toBeLessThan(20);
  expect(last).toBe(third);
  await expect(open(page).getByLabel("Radius")).toHaveValue(String(last));

  for (const _ of [1, 2, 3]) await page.keyboard.press("ArrowDown");
  await built(page);
  await expect(radius).toBeFocused();
  expect(await now()).toBeLessThan(last);
});
