import type { CDPSession, Page } from "@playwright/test";
import { built, postJob, project } from "./helpers";
import { expect, test } from "./server";

/**
 * What pens, fingers and touchpads send, as the browser gets it from the system: by its own protocol, since the test
 * library's mouse is a mouse only.
 */
async function opened(page: Page) {
  const id = await postJob(page, [{ id: "block", type: "box", name: "Block", size: [60, 40, 20] }]);
  await page.goto(`/jobs/${id}`);
  await built(page);
  const canvas = (await page.locator("canvas[tabindex]").boundingBox())!;
  const session = await page.context().newCDPSession(page);
  /** A corner, an edge's middle and the middle, in the window. */
  const at = async (point: number[]) => {
    const { x, y } = await project(page, point);
    return { x: canvas.x + x, y: canvas.y + y };
  };
  const wide = async () => {
    const [a, b] = [await at([-30, -20, 10]), await at([30, 20, 10])];
    return Math.hypot(a.x - b.x, a.y - b.y);
  };
  return { session, at, wide };
}

const frames = (page: Page) => page.waitForTimeout(120);

async function pen(session: CDPSession, from: { x: number; y: number }, to: { x: number; y: number }) {
  const send = (type: "mousePressed" | "mouseMoved" | "mouseReleased", at: { x: number; y: number }) =>
    session.send("Input.dispatchMouseEvent", {
      type,
      ...at,
      pointerType: "pen",
      button: "left",
      buttons: type === "mouseReleased" ? 0 : 1,
      clickCount: 1,
      force: 0.5,
    });
  await send("mousePressed", from);
  if (from !== to)
    for (let i = 1; i <= 6; i++)
      await send("mouseMoved", { x: from.x + ((to.x - from.x) * i) / 6, y: from.y + ((to.y - from.y) * i) / 6 });
  await send("mouseReleased", to);
}

async function fingers(session: CDPSession, ways: [{ x: number; y: number }, { x: number; y: number }][]) {
  const points = (part: number) =>
    ways.map(([from, to], id) => ({ id, x: from.x + (to.x - from.x) * part, y: from.y + (to.y - from.y) * part }));
  await session.send("Input.dispatchTouchEvent", { type: "touchStart", touchPoints: points(0) });
  for (let i = 1; i <= 6; i++)
    await session.send("Input.dispatchTouchEvent", { type: "touchMove", touchPoints: points(i / 6) });
  await session.send("Input.dispatchTouchEvent", { type: "touchEnd", touchPoints: [] });
}

test("a pen turns the view by dragging and picks by a tap", async ({ page }) => {
  const { session, at, wide } = await opened(page);
  const middle = await at([0, 0, 20]);
  await pen(session, middle, middle);
  await expect(page.getByRole("button", { name: "Select Block" })).toHaveAttribute("aria-pressed", "true");
  const before = [await at([-30, -20, 10]), await wide()] as const;
  await pen(session, middle, { x: middle.x + 120, y: middle.y + 20 });
  await frames(page);
  const after = await at([-30, -20, 10]);
  expect(Math.hypot(after.x - before[0].x, after.y - before[0].y)).toBeGreaterThan(20);
});

test("one finger turns, two pinch and shift, a tap picks; the page itself never zooms", async ({ page }) => {
  const { session, at, wide } = await opened(page);
  const middle = await at([0, 0, 20]);
  await fingers(session, [[middle, middle]]);
  await expect(page.getByRole("button", { name: "Select Block" })).toHaveAttribute("aria-pressed", "true");

  const corner = await at([-30, -20, 10]);
  await fingers(session, [[middle, { x: middle.x + 120, y: middle.y + 20 }]]);
  await frames(page);
  const turned = await at([-30, -20, 10]);
  expect(Math.hypot(turned.x - corner.x, turned.y - corner.y)).toBeGreaterThan(20);

  const before = await wide();
  const apart = (half: number) =>
    [
      { x: middle.x - half, y: middle.y },
      { x: middle.x + half, y: middle.y },
    ] as const;
  const [a, b] = apart(60);
  const [c, d] = apart(120);
  await fingers(session, [
    [a, c],
    [b, d],
  ]);
  await frames(page);
  expect((await wide()) / before).toBeGreaterThan(1.5);
  const place = await at([0, 0, 10]);
  await fingers(session, [
    [a, { x: a.x + 80, y: a.y }],
    [b, { x: b.x + 80, y: b.y }],
  ]);
  await frames(page);
  expect((await at([0, 0, 10])).x - place.x).toBeGreaterThan(40);
  expect(await page.evaluate(() => window.visualViewport!.scale)).toBe(1);
});

test("a touchpad: two fingers zoom in small steps, pinching zooms about the pointer, and the setting turns both", async ({
  page,
}) => {
  const { session, at, wide } = await opened(page);
  const spot = await at([30, 20, 20]);
  const wheel = (deltaY: number, modifiers = 0) =>
    session.send("Input.dispatchMouseEvent", { type: "mouseWheel", ...spot, deltaX: 0, deltaY, modifiers });
  await page.mouse.move(spot.x, spot.y);
  const before = await wide();
  for (let i = 0; i < 12; i++) await wheel(-4);
  await frames(page);
  const scrolled = (await wide()) / before;
  // Twelve notches of four are one turn of a wheel by 48: a little nearer, not a leap for each.
  expect(scrolled).toBeGreaterThan(1.01);
  expect(scrolled).toBeLessThan(1.6);
  // A pinch comes as a wheel with the control key.
  const pinched = await wide();
  for (let i = 0; i < 8; i++) await wheel(-6, 2);
  await frames(page);
  expect((await wide()) / pinched).toBeGreaterThan(1.05);
  // What is under the pointer stays there.
  const now = await at([30, 20, 20]);
  expect(Math.hypot(now.x - spot.x, now.y - spot.y)).toBeLessThan(3);
  expect(await page.evaluate(() => window.visualViewport!.scale)).toBe(1);
  expect(await page.evaluate(() => window.devicePixelRatio)).toBe(1);

  // Turned round by the setting; dragging shifts instead of turning.
  await page.keyboard.press(",");
  const dialog = page.getByRole("dialog", { name: "Settings" });
  await dialog.getByRole("radio", { name: "Takes it farther" }).click();
  await dialog.getByRole("radio", { name: "Shifts the view" }).click();
  await page.keyboard.press("Escape");
  const near = await wide();
  for (let i = 0; i < 12; i++) await wheel(-4);
  await frames(page);
  expect((await wide()) / near).toBeLessThan(0.99);
  const [from, across] = [await at([0, 0, 10]), await wide()];
  await pen(session, spot, { x: spot.x - 90, y: spot.y + 30 });
  await frames(page);
  const to = await at([0, 0, 10]);
  expect([to.x - from.x, to.y - from.y].map(Math.round)).toEqual([-90, 30]);
  expect(await wide()).toBeCloseTo(across, 3);
});
