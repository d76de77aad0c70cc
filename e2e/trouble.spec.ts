import { addStep, bodyCard, built, clickModel, newJob, open, PAD, postJob, saved, tool, violations } from "./helpers";
import { expect, test } from "./server";

const block = { id: "a", type: "box", size: [40, 40, 40] };

test("a cutter that falls short says by how much, and one click mends it", async ({ page }) => {
  const id = await postJob(page, [
    block,
    { id: "pin", type: "cylinder", diameter: 20, height: 20, at: [0, 0, 0] },
    { id: "sheet", type: "offset-sheet", faces: [{ body: "pin:cylinder", face: "pin:cap:end" }], extend: 4 },
    { id: "s", type: "seam", stock: ["a"], cutters: ["sheet"] },
  ]);
  await page.goto(`/jobs/${id}`);
  await built(page);
  const row = page.locator('[data-step="s"]');
  await expect(row).toHaveAttribute("data-state", "failed");
  await expect(row).toContainText("Sheet stops short inside Block. It has to reach 6 mm further.");
  await row.getByRole("button", { name: "Extend it by 7 mm more" }).click();
  await built(page);
  await expect(row).toHaveAttribute("data-state", "good");
  await expect(bodyCard(page, "Block 2")).toBeVisible();
});

test("a face that falls short is run on along its surface with one click, and so says its form", async ({ page }) => {
  const id = await postJob(page, [
    block,
    { id: "pin", type: "cylinder", diameter: 20, height: 8, at: [0, 0, 10] },
    { id: "s", type: "seam", stock: ["a"], cutterFaces: [{ body: "pin:cylinder", face: "pin:side" }] },
  ]);
  await page.goto(`/jobs/${id}`);
  await built(page);
  const row = page.locator('[data-step="s"]');
  await expect(row).toContainText("A cutting face stops short inside Block.");
  await row.getByRole("button", { name: "Run the cutting faces on along their surfaces" }).click();
  await built(page);
  await expect(row).toHaveAttribute("data-state", "good");
  // A bar of 20 through 40: 12.566 cm³, and what is left of 64.
  await expect(bodyCard(page, "Block 1")).toContainText("12.57 cm³");
  await expect(bodyCard(page, "Block 2")).toContainText("51.43 cm³");
  await row.getByRole("button", { name: "Split", exact: true }).click();
  const runOn = open(page).getByRole("switch", { name: "Run cutters on" });
  await expect(runOn).toBeChecked();
  await open(page)
    .getByRole("group", { name: "Cutting faces" })
    .getByRole("button", { name: "Take this face out" })
    .click();
  await expect(runOn).toBeHidden();
});

test("fates stay on the right pieces when the block's size changes afterwards", async ({ page }) => {
  const id = await postJob(page, [
    block,
    { id: "p", type: "workplane", base: "xy", offset: 10 },
    { id: "q", type: "workplane", base: "yz", offset: 4 },
    { id: "s", type: "seam", stock: ["a"], cutters: ["p", "q"] },
  ]);
  await page.goto(`/jobs/${id}`);
  await built(page);
  await page.locator('[data-step="s"]').getByRole("button", { name: "Split" }).click();
  const tray = page.getByRole("region", { name: "Pieces" });
  const corner = tray.getByRole("listitem").filter({ hasText: /in front of Workplane, in front of Workplane/ });
  await corner.getByRole("radio", { name: "Scrap" }).click();
  await built(page);
  await page.getByRole("button", { name: "Update the step" }).click();
  await built(page);
  const volume = async () =>
    (await (await page.request.get(`/api/jobs/${id}/report`)).json()).bodies.reduce(
      (sum: number, body: { volume: number }) => sum + body.volume,
      0,
    );
  await saved(page);
  expect(await volume()).toBeCloseTo(64_000 - 30 * 16 * 40, 4);
  await page.locator('[data-step="a"]').getByRole("button", { name: "Block", exact: true }).click();
  await open(page).getByLabel("Size X").fill("60");
  await built(page);
  await page.getByRole("button", { name: "Update the step" }).click();
  await saved(page);
  expect(await volume()).toBeCloseTo(96_000 - 30 * 26 * 40, 4);
});

test("numbers: inches, fractions, nonsense; what was typed stays, and the last good shape too", async ({ page }) => {
  await newJob(page, "Numbers");
  await tool(page, "Shape", "Block");
  const x = open(page).getByLabel("Size X");
  await x.fill("3 1/4 in");
  await built(page);
  await expect(bodyCard(page, "Block")).toContainText("825.5 cm³");
  await x.fill("abc");
  await expect(open(page)).toContainText("There is no parameter “abc”. Add it to the parameters, or write a number.");
  await expect(x).toHaveValue("abc");
  await expect(page.getByRole("button", { name: "Add to the sheet" })).toBeDisabled();
  await x.fill("12 parsecs");
  await expect(open(page)).toContainText("“parsecs” is not a unit known here; write a length such as");
  await expect(page.getByRole("button", { name: "Add to the sheet" })).toBeDisabled();
  await expect(bodyCard(page, "Block")).toContainText("825.5 cm³");
  await x.fill("-5");
  await expect(open(page)).toContainText("has to be more than 0 mm");
  await expect(page.getByRole("button", { name: "Add to the sheet" })).toBeDisabled();
  await x.fill("1 in");
  await addStep(page);
  await page.getByRole("radio", { name: "in", exact: true }).click();
  await expect(bodyCard(page, "Block")).toContainText("in³");
  await page.locator('[data-step="s1"]').getByRole("button", { name: "Block", exact: true }).click();
  await expect(x).toHaveValue("1 in");
  await open(page).getByLabel("Size Y").fill("2");
  await built(page);
  await page.getByRole("button", { name: "Update the step" }).click();
  await saved(page);
});

test("bad files are refused where they are given, with one sentence; nothing changes", async ({ page }) => {
  await newJob(page, "Files");
  await tool(page, "Shape", "Import STEP");
  const field = open(page).getByLabel("STEP file");
  const give = (name: string, text: string) =>
    field.setInputFiles({ name, mimeType: "application/octet-stream", buffer: Buffer.from(text) });
  await give("empty.step", "");
  await expect(open(page).getByRole("alert")).toHaveText("“empty.step” is empty (0 bytes). Export it again.");
  await give("cube.step", "solid cube\nfacet normal 0 0 1\n");
  await expect(open(page).getByRole("alert")).toContainText("is an STL mesh");
  await give("cut.step", "ISO-10303-21;\nHEADER;\nDATA;\n#1=A();\n");
  await expect(open(page).getByRole("alert")).toContainText("breaks off before its end");
  await field.setInputFiles(PAD);
  await expect(open(page).getByRole("alert")).toBeHidden();
  await addStep(page);
  await expect(bodyCard(page, "Foot pad")).toBeVisible();

  await page.goto("/");
  const open_ = (text: string) =>
    page
      .getByLabel("Job file")
      .setInputFiles({ name: "job.json", mimeType: "application/json", buffer: Buffer.from(text) });
  await open_('{"format": NaN}');
  await expect(page.getByRole("alert").filter({ hasText: "NaN" })).toBeVisible();
  await open_(
    JSON.stringify({
      format: "bold-seam-job",
      version: 1,
      name: "x",
      parts: [{ id: "p", name: "P", steps: [{ id: "a", type: "teapot" }] }],
    }),
  );
  await expect(page.getByRole("alert").filter({ hasText: "of the type “teapot”, which is not known" })).toBeVisible();
  await open_(
    JSON.stringify({
      format: "bold-seam-job",
      version: 1,
      name: "From a file",
      parts: [{ id: "p", name: "P", steps: [block] }],
    }),
  );
  await expect(page.getByRole("heading", { name: "From a file", level: 1 })).toBeVisible();
});

test("routes: what is too large, malformed or from elsewhere is refused", async ({ page }) => {
  const { request } = page;
  expect((await request.get("/api/jobs/none")).status()).toBe(404);
  expect(
    (await request.post("/api/jobs", { data: "{", headers: { "Content-Type": "application/json" } })).status(),
  ).toBe(400);
  expect((await request.post("/api/jobs", { data: { name: "" } })).status()).toBe(400);
  expect((await request.post("/api/jobs", { data: { document: { format: "x" } } })).status()).toBe(422);
  expect((await request.post("/api/jobs", { data: { name: "x".repeat(9 * 1024 * 1024) } })).status()).toBe(413);
  expect(
    (await request.post("/api/jobs", { data: { name: "evil" }, headers: { Origin: "http://example.com" } })).status(),
  ).toBe(403);
  // A page that hides where it is from, one that leads a name of its own here, and a form that sends plain text.
  expect((await request.post("/api/jobs", { data: { name: "evil" }, headers: { Origin: "null" } })).status()).toBe(403);
  for (const path of ["/api/jobs", "/"])
    expect((await request.get(path, { headers: { Host: "evil.example" } })).status()).toBe(403);
  expect(
    (await request.post("/api/jobs", { data: '{"name":"x"}', headers: { "Content-Type": "text/plain" } })).status(),
  ).toBe(415);
  expect((await request.get("/api/files/../../etc")).status()).toBe(404);
  expect((await request.get("/api/geometry/short")).status()).toBe(400);
  const page_ = await request.get("/");
  expect(page_.headers()["x-content-type-options"]).toBe("nosniff");
  expect(page_.headers()["content-security-policy"]).toContain("frame-ancestors 'none'");
});

test("a second part, made and renamed; undo takes it away and the first is shown", async ({ page }) => {
  await newJob(page, "Two parts");
  await tool(page, "Shape", "Block");
  await addStep(page);
  await page.getByLabel("Part", { exact: true }).selectOption({ label: "Add a part" });
  await built(page);
  await expect(page.locator("[data-step]")).toHaveCount(0);
  await tool(page, "Shape", "Sphere");
  await addStep(page);
  await expect(bodyCard(page, "Sphere")).toBeVisible();
  await page.getByRole("button", { name: "Rename the part" }).click();
  await page.getByLabel("New name").fill("Ball");
  await page.keyboard.press("Enter");
  await expect(page.getByLabel("Part", { exact: true })).toContainText("Ball");
  await saved(page);
  for (let i = 0; i < 3; i++) {
    await page.getByRole("button", { name: /^Undo: / }).click();
    await saved(page);
  }
  await built(page);
  await expect(bodyCard(page, "Block")).toBeVisible();
  await expect(page.getByLabel("Part", { exact: true })).toHaveValue("part1");
});

test("a single face cuts, and a click in the view tells what a face is", async ({ page }) => {
  const id = await postJob(page, [
    block,
    { id: "plate", type: "box", size: [80, 80, 10], at: [0, 0, 15] },
    { id: "s", type: "seam", stock: ["a"], cutterFaces: [{ body: "plate:block", face: "plate:side:z-" }] },
  ]);
  await page.goto(`/jobs/${id}`);
  await built(page);
  await expect(bodyCard(page, "Block 2")).toBeVisible();
  await clickModel(page, [35, -35, 25]);
  await expect(page.getByRole("region", { name: "Check" })).toContainText("Flat facing up, 6400 mm²");
  await page.keyboard.press("Escape");
  await page.locator('[data-step="s"]').getByRole("button", { name: "Split" }).click();
  const faces = open(page).getByRole("group", { name: "Cutting faces" });
  await expect(faces).toContainText("Block 2: Flat facing down");
  await faces.getByRole("button", { name: "Take this face out" }).click();
  await expect(open(page)).toContainText("Pick something to cut with");
});

test("section, views and the check panel", async ({ page }) => {
  const id = await postJob(page, [
    block,
    { id: "f", type: "offset-sheet", faces: [{ body: "a:block", face: "a:side:z+" }], distance: 5 },
  ]);
  await page.goto(`/jobs/${id}`);
  await built(page);
  const canvas = page.locator("canvas[tabindex]");
  const frames = () => canvas.getAttribute("data-frames");
  let last = await frames();
  const redrawn = async () => {
    await expect.poll(frames).not.toBe(last);
    last = await frames();
  };
  await page.getByRole("button", { name: "Section" }).click();
  await redrawn();
  await page.getByLabel("Section place").focus();
  await page.keyboard.press("ArrowRight");
  await redrawn();
  await page.getByRole("radio", { name: "Across X" }).click();
  await redrawn();
  await page.getByLabel("Standard view").selectOption("front");
  await redrawn();
  await canvas.focus();
  for (const key of ["ArrowLeft", "Shift+ArrowUp", "+", "Home"]) {
    await page.keyboard.press(key);
    await redrawn();
  }
  await page.getByRole("button", { name: "Select Sheet" }).click();
  const panel = page.getByRole("region", { name: "Check" });
  await expect(panel).toContainText("open: 4 edges");
  await expect(panel).toContainText("40 mm × 40 mm × 0 mm");
  await page.getByRole("button", { name: "Select Block" }).click();
  await expect(panel).toContainText("64 cm³");
  await expect(panel).toContainText("closed");
});

test("no page breaks the rules of accessibility that can be checked", async ({ page }) => {
  await page.goto("/");
  expect(await violations(page)).toEqual([]);
  const id = await postJob(page, [
    block,
    { id: "p", type: "workplane", offset: 12 },
    { id: "s", type: "seam", preset: "trim", stock: ["a"], cutters: ["p"] },
  ]);
  await page.goto(`/jobs/${id}`);
  await built(page);
  expect(await violations(page)).toEqual([]);
  await page.locator('[data-step="s"]').getByRole("button", { name: "Trim" }).click();
  await expect(page.getByRole("region", { name: "Pieces" })).toBeVisible();
  await built(page);
  expect(await violations(page)).toEqual([]);
  await page.getByRole("button", { name: "Graphite" }).click();
  expect(await violations(page, "of colour")).toEqual([]);
  await page.keyboard.press("Escape");
  await page.getByRole("button", { name: "Release" }).click();
  await expect(page.getByRole("dialog")).toBeVisible();
  expect(await violations(page)).toEqual([]);

  const drawn = await postJob(page, [
    {
      id: "k",
      type: "sketch",
      entities: [
        { id: "c", type: "point", x: 0, y: 0 },
        { id: "r", type: "circle", centre: "c", radius: 20 },
      ],
      dimensions: [{ id: "d", type: "diameter", of: ["r"], value: "20 * 2" }],
    },
    { id: "x", type: "extrude", sketch: ["k"] },
  ]);
  await page.goto(`/jobs/${drawn}`);
  await built(page);
  await page.locator('[data-step="x"]').getByRole("button", { name: "Extrude", exact: true }).click();
  await built(page);
  expect(await violations(page)).toEqual([]);
  await page.keyboard.press("Escape");
  await page.locator('[data-step="k"]').getByRole("button", { name: "Sketch", exact: true }).click();
  await built(page);
  await page.locator('[data-entity="r"] path').last().click({ force: true });
  await page.getByRole("button", { name: /^Size d/ }).click();
  expect(await violations(page)).toEqual([]);
});
