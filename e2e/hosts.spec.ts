import { readFileSync } from "node:fs";
import path from "node:path";
import { partsByChance } from "../src/core/testing/jobs-by-chance";
import { built, PAD, postJob } from "./helpers";
import { expect, test } from "./server";

/** A sample here: every third part of the demo, and one by chance; PROOF_JOBS=30 for the whole demo and thirty. */
const PROVED = process.env.PROOF_JOBS;
const COUNT = Number(PROVED ?? 1);

interface Document {
  parts: { id: string; name: string; steps: Record<string, unknown>[] }[];
  files: { id: string; name: string; sha256?: string; path?: string }[];
}

/** What the bench of each part holds, in the browser and as the server's engine builds it: ids and names, in order. */
test("the demo and jobs by chance: the same ids and names in the browser and in Node", async ({ page }) => {
  const demo = JSON.parse(readFileSync(path.join("demo", "star-pier.json"), "utf8")) as Document;
  const upload = await page.request.post("/api/files?name=foot-pad.step", { data: readFileSync(PAD) });
  const { sha256 } = await upload.json();
  demo.files = demo.files.map(({ path: _path, ...file }) => ({ ...file, sha256 }));
  const random: Document = { parts: partsByChance(COUNT), files: [] };
  for (const document of [demo, random]) {
    const id = await postJob(page, [], { ...document, name: "Hosts" });
    await page.goto(`/jobs/${id}`);
    for (const part of document.parts.filter((_, i) => PROVED || document === random || i % 3 === 0)) {
      await page.getByLabel("Part", { exact: true }).selectOption(part.id);
      await built(page);
      const report = await (await page.request.get(`/api/jobs/${id}/report?part=${part.id}`)).json();
      const wanted = report.bodies.map((body: { id: string; name: string }) => `${body.id} ${body.name}`);
      const cards = page.locator("[data-body]");
      const shown = await cards.evaluateAll((all) =>
        all.map((card) => `${card.getAttribute("data-body")} ${card.getAttribute("aria-label")}`),
      );
      // Planes, sketches and curves stand after the bodies, and are in no report. Groups come first: the same, in another order.
      expect(shown.slice(0, wanted.length).sort(), part.name).toEqual([...wanted].sort());
    }
  }
});
