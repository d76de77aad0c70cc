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
