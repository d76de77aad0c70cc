import type { Page } from "@playwright/test";
import { WHOLE } from "../src/core/testing/sample";
import { built, postJob } from "./helpers";
import { expect, test } from "./server";

const WINDOWS = [
  { width: 1024, height: 700 },
  { width: 1280, height: 800 },
  { width: 2560, height: 1440 },
];

/** Few, some and many of a thing: in the test command only many, which is where room runs out. */
const sizes = <T>(few: T, some: T, many: T): T[] => (WHOLE ? [few, some, many] : [many]);

const LONG =
  "Carrier plate for the second bearing of the long arm with all its ribs, bosses, feet, slots and holes on the left side 12"
    .padEnd(120, "x")
    .slice(0, 120);
const SENTENCE = "Mind the burr on the lower edge before it is clamped. ".repeat(6).slice(0, 300);

/** What reaches past the window, or past the bar that it stands in, and is not in something that scrolls. */
async function strays(page: Page): Promise<string[]> {
  return page.evaluate(() => {
    const [width, height] = [window.innerWidth, window.innerHeight];
    const found: string[] = [];
    if (document.documentElement.scrollWidth > width)
      found.push(`the page is ${document.documentElement.scrollWidth} wide`);
    if (document.documentElement.scrollHeight > height && !document.querySelector("[data-scrolls]"))
      found.push(`the page is ${document.documentElement.scrollHeight} high`);
    const clipped = (element: Element): boolean => {
      for (let up = element.parentElement; up; up = up.parentElement) {
        const style = getComputedStyle(up);
        if (/(auto|scroll|hidden|clip)/.test(style.overflowX + style.overflowY)) return true;
      }
      return false;
    };
    for (const element of document.querySelectorAll("body *")) {
      const box = element.getBoundingClientRect();
      if (box.width === 0 || box.height === 0 || element.closest(".sr-only, svg, canvas, [data-view-label]")) continue;
      const style = getComputedStyle(element);
      if (style.visibility === "hidden" || style.opacity === "0") continue;
      const out = box.right > width + 1 || box.left < -1 || box.bottom > height + 1 || box.top < -1;
      if (out && !clipped(element))
        found.push(
          `${element.tagName} “${(element.textContent ?? "").slice(0, 40)}” at ${Math.round(box.left)}…${Math.round(box.right)}, ${Math.round(box.top)}…${Math.round(box.bottom)}`,
        );
    }
    // A bar holds its buttons in one row: none is cut off at its edge.
    for (const bar of document.querySelectorAll("header")) {
      const frame = bar.getBoundingClientRect();
      for (const button of bar.querySelectorAll("button, input, [role=radio]")) {
        const box = button.getBoundingClientRect();
        if (box.width === 0 || button.closest(".sr-only, [aria-hidden=true]") || button.matches(".sr-only")) continue;
        if (box.bottom > frame.bottom + 1 || box.right > frame.right + 1 || box.top < frame.top - 1)
          found.push(`${button.textContent?.slice(0, 30)} is cut off in the bar`);
      }
    }
    // What a button says stands in one line.
    for (const button of document.querySelectorAll("button")) {
      const box = button.getBoundingClientRect();
      const line = Number.parseFloat(getComputedStyle(button).lineHeight) || 20;
      const lines = [...button.childNodes].some((node) => {
        if (node.nodeType !== Node.TEXT_NODE || !node.textContent?.trim()) return false;
        const range = document.createRange();
        range.selectNodeContents(node);
        return range.getBoundingClientRect().height > 1.5 * line;
      });
      if (box.width > 0 && lines && !button.closest("[role=alert], li")) found.push(`“${button.textContent}” wraps`);
    }
    return found.slice(0, 8);
  });
}

/** The part of the view whose pixels are other than the ground's: what is in sight of the model. */
async function inSight(page: Page): Promise<number> {
  const canvas = page.locator("canvas[tabindex]");
  const picture = (await canvas.screenshot()).toString("base64");
  return page.evaluate(async (data) => {
    const image = new Image();
    image.src = `data:image/png;base64,${data}`;
    await image.decode();
    const board = document.createElement("canvas");
    [board.width, board.height] = [image.width, image.height];
    const pen = board.getContext("2d")!;
    pen.drawImage(image, 0, 0);
    // The middle half: what stands over the view at its edges is none of the model.
    const [x, y] = [Math.floor(image.width / 4), Math.floor(image.height / 4)];
    const { data: pixels } = pen.getImageData(x, y, Math.floor(image.width / 2), Math.floor(image.height / 2));
    const ground = pen.getImageData(4, 4, 1, 1).data;
    let other = 0;
    for (let i = 0; i < pixels.length; i += 4)
      if (
        Math.abs(pixels[i]! - ground[0]!) +
          Math.abs(pixels[i + 1]! - ground[1]!) +
          Math.abs(pixels[i + 2]! - ground[2]!) >
        60
      )
        other++;
    return other / (pixels.length / 4);
  }, picture);
}

/** Looks at what is open in all windows: nothing strays, the view keeps its size, the bar is no higher, the model is seen. */
async function looks(page: Page, what: string, { model = true }: { model?: boolean } = {}): Promise<void> {
  for (const size of WINDOWS) {
    await page.setViewportSize(size);
    await page.waitForTimeout(200);
    const where = `${what} at ${size.width}×${size.height}`;
    expect(await strays(page), where).toEqual([]);
    const view = (await page.locator("canvas[tabindex]").boundingBox())!;
    expect(view.width, where).toBeGreaterThan(size.width * 0.42);
    expect(view.height, where).toBeGreaterThan(size.height * 0.3);
    expect(view.x + view.width, where).toBeLessThanOrEqual(size.width);
    const bar = (await page.locator("header").first().boundingBox())!;
    expect(bar.height, where).toBeLessThan(64);
    if (model) expect(await inSight(page), where).toBeGreaterThan(0.01);
  }
  await page.setViewportSize(WINDOWS[1]!);
}

const box = (i: number, more: object = {}) => ({
  id: `b${i}`,
  type: "box",
  size: [8, 8, 8],
  at: [(i % 20) * 12, Math.floor(i / 20) * 12, 0],
  ...more,
});

/** A block cut into nx · ny pieces. */
const grid = (nx: number, ny: number) => {
  const planes = [
    ...Array.from({ length: nx - 1 }, (_, i) => ({ id: `x${i}`, type: "workplane", base: "yz", offset: (i + 1) * 10 })),
    ...Array.from({ length: ny - 1 }, (_, i) => ({ id: `y${i}`, type: "workplane", base: "zx", offset: (i + 1) * 10 })),
  ];
  return [
    { id: "block", type: "box", size: [nx * 10, ny * 10, 12], at: [nx * 5, ny * 5, 0] },
    ...planes,
    { id: "cut", type: "seam", preset: "split", stock: ["block"], cutters: planes.map(({ id }) => id) },
  ];
};

test("pieces: 2, 30 and 289", async ({ page }) => {
  test.setTimeout(900_000);
  for (const [nx, ny] of sizes([2, 1] as const, [6, 5] as const, [17, 17] as const)) {
    await page.goto(`/jobs/${await postJob(page, grid(nx, ny))}`);
    await built(page);
    await page.locator('[data-step="cut"]').getByRole("button", { name: "Split", exact: true }).click();
    await expect(page.locator("[data-open-step]")).toBeVisible();
    await built(page);
    await expect(page.getByText(new RegExp(`${nx * ny} pieces`)).first()).toBeVisible({ timeout: 120_000 });
    await looks(page, `${nx * ny} pieces`);
  }
  // Of hundreds only the cards in sight are there: what is picked in the view is brought into sight, and the keyboard gets to all.
  const tray = page.getByRole("region", { name: "Pieces" });
  const cards = tray.getByRole("listitem");
  expect(await cards.count()).toBeLessThan(20);
  await expect(cards.first()).toHaveAttribute("aria-setsize", "289");
  await page.getByLabel("Standard view").selectOption("top");
  const view = (await page.locator("canvas[tabindex]").boundingBox())!;
  await page.mouse.click(view.x + view.width / 2 + 3, view.y + view.height / 2 + 3);
  const picked = tray.locator("li.bg-pick-wash");
  await expect(picked).toBeInViewport();
  const place = Number(await picked.getAttribute("aria-posinset"));
  expect(place).toBeGreaterThan(20);
  await picked.getByRole("radio").first().focus();
  // Each card has three stops: all like it, picking it, and its fate.
  for (let i = 1; i <= 12; i++)
    for (const stop of [1, 2, 3]) {
      await page.keyboard.press("Tab");
      await expect(tray.locator("li:focus-within"), `stop ${stop}`).toHaveAttribute("aria-posinset", String(place + i));
    }
});

test("bodies and steps: 2, 30 and 300, with long names", async ({ page }) => {
  test.setTimeout(900_000);
  for (const count of sizes(2, 30, 300)) {
    const steps = Array.from({ length: count }, (_, i) => box(i, i % 3 === 0 ? { name: LONG } : {}));
    await page.goto(`/jobs/${await postJob(page, steps, { name: LONG })}`);
    await built(page);
    await looks(page, `${count} bodies`);
  }
});

test("parts and parameters: many, with long names and notes", async ({ page }) => {
  test.setTimeout(900_000);
  for (const count of sizes(2, 30, 200)) {
    const parameters = Array.from({ length: count }, (_, i) => ({
      name: `width_of_the_${i}${"_long".repeat(i % 8)}`,
      unit: "mm",
      formula: i + 1,
      note: i % 2 ? SENTENCE.slice(0, 200) : "",
    }));
    const parts = Array.from({ length: count }, (_, i) => ({
      id: `p${i}`,
      name: i === 0 ? LONG : `Part ${i}`,
      steps: [box(0)],
    }));
    await page.goto(`/jobs/${await postJob(page, [], { name: LONG, parameters, parts })}`);
    await built(page);
    await looks(page, `${count} parts`);
    await page
      .getByRole("button", { name: /parameters/i })
      .first()
      .click();
    await looks(page, `${count} parameters`);
  }
});

test("a sketch of 2, 30 and 300 lines, and the list of 300 jobs", async ({ page }) => {
  test.setTimeout(900_000);
  for (const count of sizes(2, 30, 300)) {
    const side = Math.ceil(Math.sqrt(count));
    const entities = Array.from({ length: count }, (_, i) => {
      const [x, y] = [(i % side) * 10, Math.floor(i / side) * 10];
      return [
        { id: `a${i}`, type: "point", x, y },
        { id: `b${i}`, type: "point", x: x + 8, y: y + 3 },
        { id: `l${i}`, type: "line", from: `a${i}`, to: `b${i}` },
      ];
    }).flat();
    const steps = [box(0), { id: "sk", type: "sketch", name: LONG, on: "xy", entities }];
    await page.goto(`/jobs/${await postJob(page, steps)}`);
    await built(page);
    await looks(page, `${count} lines`, { model: false });
    await page.locator('[data-step="sk"]').getByRole("button", { name: LONG, exact: true }).click();
    await expect(page.locator("[data-open-step]")).toBeVisible();
    await built(page);
    await looks(page, `a drawing of ${count} lines`, { model: false });
  }
  for (let i = 0; i < 60; i++) await postJob(page, [], { name: i % 5 ? `Job ${i}` : LONG });
  await page.goto("/");
  for (const size of WINDOWS) {
    await page.setViewportSize(size);
    await page.waitForTimeout(200);
    expect(await page.evaluate(() => document.documentElement.scrollWidth - window.innerWidth)).toBeLessThanOrEqual(0);
  }
});

test("the whole job, what its parts bring in, and how that differs: 2, 30 and 200 parts with long names", async ({
  page,
}) => {
  test.setTimeout(900_000);
  for (const count of sizes(2, 30, 200)) {
    const bodies = Math.min(count, 30);
    const source = {
      id: "p0",
      name: LONG,
      steps: Array.from({ length: bodies }, (_, i) =>
        box(i, { name: LONG, size: ["side", 8, 8], at: [(i % 6) * 12, Math.floor(i / 6) * 12, 0] }),
      ),
      places: Array.from({ length: bodies }, (_, i) => ({
        id: `c${i}`,
        ...(i % 2 ? { name: LONG } : {}),
        by: [0, 0, 30 * i],
      })),
    };
    const users = Array.from({ length: count - 1 }, (_, i) => ({
      id: `p${i + 1}`,
      name: i % 2 ? LONG : `Part ${i + 1}`,
      steps: [
        box(0),
        {
          id: "in",
          type: "bring-in",
          ...(i % 3 ? {} : { name: LONG }),
          part: "p0",
          // One of them brings in all.
          items: Array.from({ length: i === 0 ? bodies : 1 }, (_, k) => `b${k}`),
        },
      ],
      places: [{ id: "own", by: [(i % 20) * 12, 60 + 60 * Math.floor(i / 20), 0] }],
    }));
    const parameters = [{ name: "side", unit: "mm", formula: 8 }];
    await page.goto(
      `/jobs/${await postJob(page, [], { name: LONG, follow: false, parameters, parts: [source, ...users] })}`,
    );
    await built(page);

    // What is used changes: all that uses it is behind.
    await page.getByRole("button", { name: /^Parameters/ }).click();
    const table = page.getByRole("region", { name: "Parameters" });
    await table.getByLabel("Formula of side").fill("7");
    await table.getByLabel("Formula of side").press("Enter");
    await expect(table).toContainText("7 mm");
    await table.getByRole("button", { name: "Close the parameters" }).click();
    await built(page);
    const mark = page.getByRole("button", { name: count === 2 ? "1 link behind" : `${count - 1} links behind` });
    await expect(mark).toBeVisible({ timeout: 120_000 });
    await mark.click();
    await expect(page.getByRole("list", { name: "Links" }).getByRole("listitem")).toHaveCount(count - 1);
    await looks(page, `${count - 1} links`);
    await page.keyboard.press("Escape");

    await page.getByLabel("Part", { exact: true }).selectOption("p1");
    await built(page);
    const link = page.locator('[data-link="stale"]');
    await looks(page, "a step that is behind");
    await link.getByRole("button", { name: "Compare" }).click();
    await expect(page.getByRole("list", { name: "What differs" }).getByRole("listitem")).toHaveCount(bodies, {
      timeout: 120_000,
    });
    await looks(page, `${bodies} bodies compared`);

    await page.getByLabel("Part", { exact: true }).selectOption({ label: "The whole job" });
    const sheet = page.getByRole("complementary", { name: "Parts in place" });
    await expect(sheet).toContainText(`${count} parts`, { timeout: 120_000 });
    await looks(page, `${count} parts in place`);
    const first = sheet.locator('[data-stand="p0/"]');
    await first.getByRole("button", { name: "Where", exact: false }).click();
    await first.getByRole("button", { name: "Put by faces" }).click();
    await expect(sheet.getByRole("region", { name: "Put by faces" })).toBeVisible();
    await looks(page, "a part that is put by faces");
  }
});
