import { built, open, postJob } from "./helpers";
import { expect, test } from "./server";

declare global {
  interface Window {
    asked: { after: number; ms: number }[];
    typed: { frame: number; at: number };
    frame: number;
  }
}

test("a typed value is on its way to the engine within a picture or two; while it computes, only the newest waits", async ({
  page,
}) => {
  await page.addInitScript(() => {
    // Counts pictures, and notes how many pass between typing and what is posted to a worker to be evaluated.
    window.frame = 0;
    window.asked = [];
    window.typed = { frame: 0, at: 0 };
    const count = () => {
      window.frame++;
      requestAnimationFrame(count);
    };
    requestAnimationFrame(count);
    window.addEventListener("input", () => (window.typed = { frame: window.frame, at: performance.now() }), true);
    const post = Worker.prototype.postMessage;
    Worker.prototype.postMessage = function (...args: unknown[]) {
      if (JSON.stringify(args[0]).includes('"evaluate"'))
        window.asked.push({ after: window.frame - window.typed.frame, ms: performance.now() - window.typed.at });
      return post.apply(this, args as never);
    };
  });
  const id = await postJob(page, [{ id: "a", type: "box", size: [40, 30, 20] }]);
  await page.goto(`/jobs/${id}`);
  await built(page);
  await page.getByRole("listitem").getByRole("button", { name: "Block", exact: true }).click();
  await built(page);
  const box = open(page).getByLabel("Size X");
  await page.evaluate(() => (window.asked = []));
  for (const size of ["45", "46", "47"]) {
    await box.fill(size);
    await built(page);
  }
  const asked = await page.evaluate(() => window.asked);
  expect(asked).toHaveLength(3);
  for (const { after } of asked) expect(after).toBeLessThanOrEqual(2);
  console.log(`typed to asked: ${asked.map(({ ms }) => ms.toFixed(1)).join(", ")} ms`);

  // Typed faster than it computes: the last is what is shown, and few of those between were asked for.
  await page.evaluate(() => (window.asked = []));
  await box.evaluate((input: HTMLInputElement) => {
    const set = Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, "value")!.set!;
    for (let size = 50; size < 90; size++) {
      set.call(input, String(size));
      input.dispatchEvent(new Event("input", { bubbles: true }));
    }
  });
  await built(page);
  await expect(page.getByRole("article", { name: "Block" })).toContainText(/53\.4 cm³/);
  expect((await page.evaluate(() => window.asked)).length).toBeLessThan(20);
});

test("what a visit stored is on its way before the page's scripts, is asked for once, and is on screen without the kernel", async ({
  page,
}) => {
  const id = await postJob(page, [{ id: "a", type: "box", size: [40, 30, 21] }]);
  const stored = page.waitForResponse(
    (answer) => answer.request().method() === "PUT" && answer.url().includes("/api/geometry/"),
  );
  await page.goto(`/jobs/${id}`);
  await built(page);
  await stored;
  await page.route("**/kernel/**", (route) => route.abort());
  const asked: string[] = [];
  page.on("request", (request) => {
    if (request.method() === "GET" && request.url().includes("/api/geometry/")) asked.push(request.url());
  });
  await page.reload();
  await expect(page.getByRole("article", { name: "Block" }).locator("canvas")).toBeVisible();
  const [view, ...more] = await page.evaluate(() =>
    performance
      .getEntriesByType("resource")
      .filter(({ name }) => name.includes("/api/geometry/"))
      .map((entry) => entry.toJSON()),
  );
  expect(more).toEqual([]);
  expect(view.initiatorType).toBe("link");
  expect(asked).toEqual([view.name]);
});

test("a dialog opens without the rest of the page being styled anew", async ({ page }) => {
  const id = await postJob(page, [{ id: "a", type: "box", size: [40, 30, 20] }]);
  await page.goto(`/jobs/${id}`);
  await built(page);
  const inherited = () =>
    page.locator("main").evaluate((main) => {
      const { pointerEvents } = getComputedStyle(main);
      return [pointerEvents, getComputedStyle(main).getPropertyValue("--removed-body-scroll-bar-size")];
    });
  const before = await inherited();
  await page.getByRole("navigation", { name: "Stages" }).getByRole("button", { name: "Release" }).click();
  await expect(page.getByRole("dialog")).toBeVisible();
  expect(await inherited()).toEqual(before);
  // It catches what is aimed at what is under it all the same.
  await page.mouse.click(20, 120);
  await expect(page.getByRole("dialog")).toBeHidden();
  await expect(page.getByRole("region", { name: / tools$/ })).toHaveCount(0);
});
