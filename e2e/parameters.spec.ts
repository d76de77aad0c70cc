import { readFileSync } from "node:fs";
import { addStep, bodyCard, built, newJob, open, postJob, saved, tool } from "./helpers";
import { expect, test } from "./server";

test("named values drive a block; a change follows; a driven field is not typed over by accident", async ({ page }) => {
  await newJob(page, "Top plate");
  await page.getByRole("button", { name: /^Parameters/ }).click();
  const table = page.getByRole("region", { name: "Parameters" });
  await table.getByRole("button", { name: "Add" }).last().click();
  await table.getByLabel("Name of value1").fill("plateWidth");
  await table.getByLabel("Name of value1").press("Enter");
  await table.getByLabel("Formula of plateWidth").fill("4 3/4 in");
  await table.getByLabel("Formula of plateWidth").press("Enter");
  await expect(table.getByRole("row").filter({ hasText: "nothing" })).toContainText("120.65 mm");
  await page.keyboard.press("Escape");
  await expect(table).toBeHidden();

  await tool(page, "Shape", "Block");
  const x = open(page).getByLabel("Size X", { exact: true });
  await x.fill("plateWidth");
  await expect(open(page)).toContainText("= 120.65 mm");
  await open(page).getByLabel("Size Y", { exact: true }).fill("plateWidth / 2 + 1");
  await expect(open(page)).toContainText("“plateWidth / 2” is a length and “1” is a plain number: write 1 mm or 1 in.");
  await open(page).getByLabel("Size Y", { exact: true }).fill("plateWidth / 2");
  await open(page).getByLabel("Size Z", { exact: true }).fill("10");
  await addStep(page);
  await expect(bodyCard(page, "Block")).toContainText("72.78 cm³");

  // Opened again, the field shows its formula and does not take a stray key.
  await page.locator('[data-step="s1"]').getByRole("button", { name: "Block", exact: true }).click();
  await x.focus();
  await page.keyboard.type("7");
  await expect(x).toHaveValue("plateWidth");
  await page.keyboard.press("Enter");
  await page.keyboard.type("plateWidth * 2");
  await expect(open(page)).toContainText("= 241.3 mm");
  await open(page).getByRole("button", { name: "Discard" }).click();

  await page.getByRole("button", { name: /^Parameters/ }).click();
  await expect(table).toContainText("Block, Size X; Block, Size Y");
  await table.getByLabel("Formula of plateWidth").fill("100");
  await table.getByLabel("Formula of plateWidth").press("Enter");
  await expect(table).toContainText("100 mm");
  // What cannot be worked out stays where it was typed, and the job is left alone.
  await table.getByLabel("Formula of plateWidth").fill("plateWidth / 2");
  await table.getByLabel("Formula of plateWidth").press("Enter");
  await expect(table).toContainText("plateWidth needs plateWidth: a formula cannot need its own result");
  await table.getByLabel("Formula of plateWidth").press("Escape");
  await table.getByLabel("Name of plateWidth").fill("wide");
  await table.getByLabel("Name of plateWidth").press("Enter");
  await expect(table).toContainText("Block, Size X; Block, Size Y");
  await table.getByRole("button", { name: "Close the parameters" }).click();
  await built(page);
  await expect(bodyCard(page, "Block")).toContainText("50 cm³");

  await saved(page);
  await page.getByRole("button", { name: /^Undo/ }).click();
  await saved(page);
  await page.getByRole("button", { name: /^Parameters/ }).click();
  await expect(table.getByLabel("Name of plateWidth")).toBeVisible();
});

test("parameters go out as CSV and come in again; taking one out leaves its value", async ({ page }) => {
  const id = await postJob(page, [{ id: "a", type: "box", size: ["wide", "wide / 2", 10] }], {
    parameters: [{ name: "wide", formula: "40 + 20", unit: "mm", note: "at the top" }],
  });
  await page.goto(`/jobs/${id}`);
  await built(page);
  await page.getByRole("button", { name: /^Parameters/ }).click();
  const table = page.getByRole("region", { name: "Parameters" });
  const download = page.waitForEvent("download");
  await table.getByRole("button", { name: "Write CSV" }).last().click();
  const text = readFileSync(await (await download).path(), "utf8");
  expect(text).toBe("name,formula,unit,value,note\r\nwide,40 + 20,mm,60,at the top\r\n");

  const take = (name: string, body: string) =>
    table
      .getByLabel("CSV file for the parameters of the whole job")
      .setInputFiles({ name, mimeType: "text/csv", buffer: Buffer.from(body) });
  await take("bad.csv", "name,formula\r\nwide,3\r\nwide,4\r\n");
  await expect(table.getByRole("alert")).toHaveText("Line 3: “wide” stands there twice. Take one out.");
  await take("good.csv", "name,formula,unit\r\nwide,80,mm\r\ndeep,1/2,in\r\n");
  await expect(table.getByLabel("Formula of deep")).toHaveValue("1/2");
  await table.getByRole("button", { name: "Take out wide: its value stays where it is used" }).click();
  await expect(table.getByLabel("Name of wide")).toBeHidden();
  await page.keyboard.press("Escape");
  await built(page);
  await expect(bodyCard(page, "Block")).toContainText("32 cm³");
});
