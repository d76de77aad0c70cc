import { strFromU8, unzipSync, zipSync } from "fflate";
import { PAD, postJob } from "./helpers";
import { expect, test } from "./server";

test("all jobs are saved as one file, and come back from it with their files; what is damaged in it is told", async ({
  page,
}) => {
  await page.goto("/");
  // A job with a file, brought in as a person does.
  const bytes = await (await import("node:fs/promises")).readFile(PAD);
  const { sha256 } = await (await page.request.post("/api/files?name=pad.step", { data: bytes })).json();
  const files = [{ id: "f", name: "pad.step", sha256 }];
  await postJob(page, [{ id: "i", type: "import", file: "f" }], { name: "With a file", files });
  await postJob(page, [{ id: "b", type: "box" }], { name: "A/B: “quoted”" });

  await page.reload();
  const [download] = await Promise.all([
    page.waitForEvent("download"),
    page.getByRole("link", { name: "Save all jobs as one file" }).click(),
  ]);
  expect(download.suggestedFilename()).toMatch(/^bold-seam-jobs-\d{4}-\d\d-\d\d\.zip$/);
  const saved = await (await import("node:fs/promises")).readFile((await download.path())!);
  const entries = unzipSync(saved);
  expect(Object.keys(entries)).toEqual(
    expect.arrayContaining(["With a file.json", "A_B_ _quoted_.json", `files/${sha256}.step`]),
  );
  const job = JSON.parse(strFromU8(entries["With a file.json"]!));
  expect(job.files[0]).toMatchObject({ path: `files/${sha256}.step`, sha256 });
  expect(Buffer.from(entries[`files/${sha256}.step`]!).equals(bytes)).toBe(true);

  const links = page.getByRole("main").getByRole("link");
  const before = await links.count();
  const give = (name: string, content: Uint8Array) =>
    page.getByLabel("Job file").setInputFiles({ name, mimeType: "application/zip", buffer: Buffer.from(content) });
  await give("all.zip", saved);
  await expect(page.getByText(`${before} jobs were brought in.`)).toBeVisible();
  await expect(links).toHaveCount(2 * before);

  await give("odd.zip", zipSync({ "good.json": entries["A_B_ _quoted_.json"]!, "bad.json": new Uint8Array([123]) }));
  await expect(page.getByText("1 job was brought in.")).toBeVisible();
  await expect(page.getByRole("alert").filter({ hasText: "bad.json: The job file is not valid JSON" })).toBeVisible();
  await give("none.zip", new Uint8Array([0x50, 0x4b, 3, 4, 9, 9]));
  await expect(page.getByRole("alert").filter({ hasText: /no ZIP file|holds no job file/ })).toBeVisible();
});

test("a page runs only its own scripts", async ({ page }) => {
  const answer = (await page.goto("/"))!;
  const policy = answer.headers()["content-security-policy"]!;
  expect(policy).toMatch(/script-src 'self' 'nonce-[\w+/=]+' 'wasm-unsafe-eval';/);
  expect((await page.request.get("/")).headers()["content-security-policy"]).not.toBe(policy);
  await page.evaluate(() => {
    const script = document.createElement("script");
    script.textContent = "window.strange = true";
    document.body.append(script);
  });
  expect(await page.evaluate(() => "strange" in window)).toBe(false);
  // A page that is not there says so all the same.
  await page.goto("/nowhere");
  await expect(page.getByRole("link").first()).toBeVisible();
});
