import type { Page } from "@playwright/test";
import { bodyCard, built, clickModel, open, postJob, saved, tool } from "./helpers";
import { expect, test } from "./server";

const parts = [
  { id: "base", name: "Base", steps: [{ id: "b", type: "box", name: "Plate", size: [80, 60, 20], anchor: "corner" }] },
  { id: "post", name: "Post", steps: [{ id: "p", type: "cylinder", name: "Rod", diameter: 20, height: 50 }] },
];

const openJob = async (page: Page) => {
  const id = await postJob(page, [], { parts });
  await page.goto(`/jobs/${id}`);
  await built(page);
  return async () => {
    await saved(page);
    return (await (await page.request.get(`/api/jobs/${id}`)).json()).document;
  };
};

test("parts stand in the job by numbers, by their faces, as copies and as other hands; each is shown, hidden, seen through, alone, and worked on", async ({
  page,
}) => {
  const document = await openJob(page);
  await page.getByLabel("Part", { exact: true }).selectOption({ label: "The whole job" });
  const sheet = page.getByRole("complementary", { name: "Parts in place" });
  await expect(sheet).toContainText("2 parts", { timeout: 30_000 });
  const post = sheet.locator('[data-stand="post/"]');
  await expect(post).toContainText("1 body");

  // By numbers: in the unit that is shown, or in another.
  await post.getByRole("button", { name: "Where Post stands" }).click();
  await post.getByLabel("Moved by X").fill("100");
  await post.getByLabel("Moved by Y").fill("1 in");
  await post.getByLabel("Moved by Y").press("Enter");
  expect((await document()).parts[1].places).toMatchObject([{ by: [100, "1 in", 0], turn: 0, mirror: "none" }]);
  await post.getByLabel("Turned by").fill("no such thing");
  await expect(post.getByLabel("Turned by")).toHaveAttribute("aria-invalid", "true");
  await post.getByLabel("Turned by").fill("90");
  await post.getByRole("radiogroup", { name: "About" }).getByText("Y", { exact: true }).click();
  expect((await document()).parts[1].places).toMatchObject([{ turn: 90, axis: [0, 1, 0] }]);

  // By faces: its end, which looks along X now, onto the top of the base; middle on middle.
  await page.getByRole("button", { name: "Fit all" }).click();
  await post.getByRole("button", { name: "Put by faces" }).click();
  const put = sheet.getByRole("region", { name: "Put by faces" });
  await expect(put).toContainText("Click a flat or round face of “Post”");
  await clickModel(page, [150, 25.4 + 3, 3]);
  await expect(put).toContainText("Click the face of another part that it goes to.");
  await clickModel(page, [40, 30, 20]);
  await expect(put).toContainText("This is where it would stand.");
  await put.getByLabel("Middle on middle").click();
  await put.getByRole("button", { name: "Put it there" }).click();
  await expect(put).toBeHidden();
  const [place] = (await document()).parts[1].places;
  // Its end at (0, 0, 50), looking up, has come to look down, at (40, 30, 20).
  expect(place.by.map((value: number) => Number(value.toFixed(9)))).toEqual([40, 30, 70]);
  expect(place.turn).toBeCloseTo(180, 9);

  // A copy, and its other hand.
  await post.getByRole("button", { name: "Add a copy" }).click();
  await post.getByRole("button", { name: "Add its other hand" }).click();
  const places = (await document()).parts[1].places;
  expect(places.map(({ mirror }: { mirror: string }) => mirror)).toEqual(["none", "none", "x"]);
  const copy = sheet.locator(`[data-stand="post/${places[2].id}"]`);
  await expect(copy).toContainText("A copy of “Post”");
  await copy.getByRole("button", { name: "Where Post 3 stands" }).click();
  await copy.getByRole("button", { name: "Make it a part of its own" }).click();
  await expect(sheet).toContainText("3 parts", { timeout: 30_000 });
  const own = (await document()).parts[2];
  expect(own).toMatchObject({ name: "Post 3", places: [{ mirror: "none" }] });
  expect(own.steps.map(({ type }: { type: string }) => type)).toEqual(["cylinder", "mirror"]);

  // Shown, hidden, alone: what is drawn is what a click meets.
  const base = sheet.locator('[data-stand="base/"]');
  await clickModel(page, [5, 5, 20]);
  await expect(base).toHaveClass(/bg-pick-wash/);
  await base.getByRole("button", { name: "Hide Base" }).click();
  await clickModel(page, [5, 5, 20]);
  await expect(base).not.toHaveClass(/bg-pick-wash/);
  await base.getByRole("button", { name: "Show Base", exact: true }).click();
  await post.getByRole("button", { name: "Show Post alone" }).click();
  await expect(base.getByRole("button", { name: "Show Base", exact: true })).toBeVisible();
  await post.getByRole("button", { name: "Show Post alone" }).click();
  await base.getByRole("button", { name: "See through Base" }).click();
  await expect(base.getByRole("button", { name: "See through Base" })).toHaveAttribute("aria-pressed", "true");

  // Worked on, with the others dimmed round it; what is brought in comes from where it stands.
  await base.getByRole("button", { name: "Work on it" }).click();
  await built(page);
  await expect(page.getByLabel("Part", { exact: true })).toHaveValue("base");
  await expect(page.getByRole("button", { name: "Other parts round this one" })).toHaveAttribute(
    "aria-pressed",
    "true",
  );
  await tool(page, "Fit", "Bring in");
  await open(page).getByLabel("Of the part").selectOption({ label: "Post" });
  await open(page).getByLabel("From its place").selectOption({ label: "Post 2" });
  await open(page).getByRole("checkbox", { name: "Rod" }).click();
  await built(page);
  await page.getByRole("button", { name: "Add to the sheet" }).click();
  await built(page);
  await saved(page);
  await expect(bodyCard(page, "Rod")).toContainText("15.71 cm³");
});

test("the whole job and the others round a part can be asked for by keys, and by typing", async ({ page }) => {
  await openJob(page);
  await page.locator("canvas[tabindex]").focus();
  await page.keyboard.press("j");
  await expect(page.getByRole("complementary", { name: "Parts in place" })).toBeVisible();
  await page.keyboard.press("j");
  await expect(page.getByRole("complementary", { name: "Build sheet" })).toBeVisible();
  await page.keyboard.press("a");
  await expect(page.getByRole("button", { name: "Other parts round this one" })).toHaveAttribute(
    "aria-pressed",
    "true",
  );
});
