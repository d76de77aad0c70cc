import { readFileSync } from "node:fs";
import path from "node:path";
import type { Page } from "@playwright/test";
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

/** Ids and names of the bench's cards from the first to the last. Only those in sight are there: it is gone along. */
const cardsOf = (page: Page): Promise<string[]> =>
  page
    .getByRole("region", { name: "Bench" })
    .locator("> div")
    .evaluate(async (strip) => {
      const found = new Set<string>();
      const drawn = () => new Promise((done) => requestAnimationFrame(() => requestAnimationFrame(done)));
      for (let left = 0; ; left += strip.clientWidth / 2) {
        strip.scrollTo({ left });
        await drawn();
        for (const card of strip.querySelectorAll("[data-body]"))
          found.add(`${card.getAttribute("data-body")} ${card.getAttribute("aria-label")}`);
        if (left >= strip.scrollWidth - strip.clientWidth) break;
      }
      strip.scrollTo({ left: 0 });
      return [...found];
    });

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
      const shown = await cardsOf(page);
      // Planes, sketches and curves stand after the bodies, and are in no report. Groups come first: the same, in another order.
      expect(shown.slice(0, wanted.length).sort(), part.name).toEqual([...wanted].sort());
    }
  }
});
