import { built, postJob } from "./helpers";
import { expect, test } from "./server";

// A page that is zoomed, and screens at 125 % or 133 %: a pixel of the page is no whole number of the screen's.
test("zoomed in and out, a job and its small pictures are drawn", async ({ browser, page: first, server }) => {
  const id = await postJob(first, [{ id: "a", type: "box", name: "Block", size: [40, 30, 20] }]);
  const middle = (canvas: HTMLCanvasElement) => [
    ...canvas.getContext("2d")!.getImageData(canvas.width / 2, canvas.height / 2, 1, 1).data,
  ];
  for (const deviceScaleFactor of [0.67, 1.1]) {
    const page = await browser.newPage({ baseURL: server.address, deviceScaleFactor });
    const faults: string[] = [];
    page.on("pageerror", ({ message }) => faults.push(message));
    await page.goto(`/jobs/${id}`);
    await built(page);
    const card = page.getByRole("article", { name: "Block", exact: true }).locator("canvas");
    await expect(async () => expect((await card.evaluate(middle))[3]).toBe(255)).toPass();
    await page.goto("/");
    const picture = page.locator(`canvas[data-picture="${id}"][data-drawn]`);
    await expect(picture).toBeVisible();
    expect((await picture.evaluate(middle))[3]).toBe(255);
    expect(faults).toEqual([]);
    await page.close();
  }
});
