import { readFileSync } from "node:fs";
import type { Page } from "@playwright/test";
import { built, postJob } from "./helpers";
import { expect, test } from "./server";

const begin = async (page: Page, check: string) => {
  await page.getByRole("list", { name: "Checks" }).getByRole("button", { name: check }).click();
  return page.getByRole("region", { name: check });
};

test("open edges and draft of all bodies at once: said, listed, shown in the view, with keys", async ({ page }) => {
  const id = await postJob(page, [
    { id: "a", type: "cone", diameter: 60, top: 50, height: 40 },
    { id: "s", type: "offset-sheet", faces: [{ body: "a:cone", face: "a:cap:end" }], distance: 10 },
    { id: "b", type: "box", size: [20, 20, 20], at: [60, 0, 0] },
  ]);
  await page.goto(`/jobs/${id}`);
  await built(page);

  await page.getByRole("navigation", { name: "Stages" }).getByRole("button", { name: "Check" }).click();
  const edges = await begin(page, "Open edges");
  await expect(edges.getByRole("status")).toContainText("1 open edge of 1 body, all sheets.");
  await expect(edges.getByRole("row").nth(1)).toContainText("157.08 mm");
  await page.keyboard.press("Escape");
  await expect(edges).toBeHidden();

  const draft = await begin(page, "Draft");
  await expect(draft.getByRole("status")).toContainText("4 of 10 faces have less than 2° of draft to +Z.");
  await expect(draft.getByRole("list", { name: "Scale" }).getByRole("listitem")).toHaveCount(5);
  // The cone leans by atan(5 / 40).
  await expect(draft.getByRole("row", { name: "Cone cone" })).toContainText("7.13°");
  await draft.getByLabel("Draft that is enough").fill("8");
  await expect(draft.getByRole("status")).toContainText("5 of 10 faces have less than 8° of draft to +Z.");
  await draft.getByRole("radio", { name: "X", exact: true }).click();
  await expect(draft.getByRole("status")).toContainText("to +X.");

  // A line that is come to by keys lights its face.
  await draft.getByRole("row").nth(1).getByRole("button").focus();
  await expect(draft.getByRole("row").nth(1).getByRole("button")).toBeFocused();
  await draft.getByLabel("Draft that is enough").fill("60");
  await expect(draft.getByRole("alert")).toContainText("Draft that is enough: ");
  await draft.getByLabel("Draft that is enough").fill("3");
  await expect(draft.getByRole("alert")).toHaveCount(0);
  await draft.getByRole("button", { name: "Close" }).click();
});

test("the gap along an edge: charted, its least told, and its places gone along by keys and drawn in the view", async ({
  page,
}) => {
  const id = await postJob(page, [
    { id: "a", type: "box", size: [100, 40, 10], name: "Plate" },
    { id: "b", type: "box", size: [60, 4, 4], at: [0, 0, 40], name: "Bar" },
    { id: "m", type: "move", bodies: ["b:block"], axis: "y", turn: 10, about: [0, 0, 40] },
  ]);
  await page.goto(`/jobs/${id}`);
  await built(page);
  await page.keyboard.press("m");
  const panel = page.getByRole("region", { name: "Measure" });
  await panel.getByText("Pick from a list").click();
  await panel.getByRole("group", { name: "Bar" }).getByRole("button", { name: "Straight, 60 mm long" }).first().click();
  await panel.getByRole("group", { name: "Plate" }).getByRole("button", { name: "The whole body" }).click();
  await panel.getByRole("button", { name: "Chart the gap" }).click();
  const gap = panel.getByRole("region", { name: "Gap" });
  await expect(gap).toContainText("Gap along A");
  await expect(gap.locator("canvas")).toBeVisible();
  // From the least to the most it rises by the sine of ten degrees.
  const shown = async (word: string) =>
    Number((await gap.locator(`dt:text-is("${word}") + dd`).innerText()).match(/^([\d.]+) mm/)![1]);
  expect((await shown("Most")) - (await shown("Least"))).toBeCloseTo(60 * Math.sin((10 * Math.PI) / 180), 1);
  const drawn = page.locator("[data-measured]");
  const before = await drawn.getAttribute("data-measured");
  expect(Number(before)).toBeCloseTo(await shown("Least"), 1);
  const slider = gap.getByRole("slider", { name: "Place along the gap" });
  await slider.focus();
  await page.keyboard.press("Home");
  const first = Number(await drawn.getAttribute("data-measured"));
  await page.keyboard.press("End");
  const last = Number(await drawn.getAttribute("data-measured"));
  expect(Math.abs(last - first)).toBeCloseTo(60 * Math.sin((10 * Math.PI) / 180), 5);
  // The same places as a file.
  const download = page.waitForEvent("download");
  await gap.getByRole("button", { name: "The gap as a CSV file" }).click();
  const [head, ...rows] = readFileSync((await (await download).path())!, "utf8")
    .trim()
    .split("\r\n");
  expect(head).toContain("Along, mm");
  const gaps = rows.map((row) => Number(row.split(",")[1]));
  expect(Math.min(...gaps)).toBeCloseTo(await shown("Least"), 1);
  expect(Math.max(...gaps)).toBeCloseTo(await shown("Most"), 1);
  await gap.getByRole("button", { name: "Close the chart" }).click();
  await expect(gap).toHaveCount(0);
  // Two bodies have nothing to run along: told, with what to pick.
  await panel.getByRole("button", { name: "Begin anew" }).click();
  await panel.getByRole("group", { name: "Bar" }).getByRole("button", { name: "The whole body" }).click();
  await panel.getByRole("group", { name: "Plate" }).getByRole("button", { name: "The whole body" }).click();
  await panel.getByRole("button", { name: "Chart the gap" }).click();
  await expect(panel.getByRole("alert")).toContainText("one of the two has to be an edge");
});
