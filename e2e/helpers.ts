import { readFileSync } from "node:fs";
import path from "node:path";
import AxeBuilder from "@axe-core/playwright";
import type { Locator, Page } from "@playwright/test";
import { expect } from "./server";

export const PAD = path.join(process.cwd(), "demo", "foot-pad.step");

/** Waits until what is shown is what the job says. */
export async function built(page: Page): Promise<void> {
  await page.waitForTimeout(250);
  await expect(page.locator('[data-engine="idle"]')).toBeAttached({ timeout: 60_000 });
}

export async function saved(page: Page): Promise<void> {
  await expect(page.locator('[data-save="saved"]')).toBeVisible({ timeout: 20_000 });
}

export async function newJob(page: Page, name: string): Promise<void> {
  await page.goto("/");
  await page.getByLabel("Name").fill(name);
  await page.getByRole("button", { name: "Begin", exact: true }).click();
  await expect(page.getByRole("heading", { name, level: 1 })).toBeVisible();
  await built(page);
}

/** Opens a tool of a stage. */
export async function tool(page: Page, stage: string, label: string): Promise<void> {
  await page.getByRole("navigation", { name: "Stages" }).getByRole("button", { name: stage }).click();
  await page
    .getByRole("region", { name: `${stage} tools` })
    .getByRole("button", { name: label })
    .first()
    .click();
  await expect(page.locator("[data-open-step]")).toBeVisible();
}

export const open = (page: Page): Locator => page.locator("[data-open-step]");

/** Posts a job, goes to it, and opens one of its steps. Returns the job's id. */
export async function openStep(
  page: Page,
  steps: Record<string, unknown>[],
  id: string,
  title: string,
): Promise<string> {
  const job = await postJob(page, steps);
  await page.goto(`/jobs/${job}`);
  await built(page);
  await page.locator(`[data-step="${id}"]`).getByRole("button", { name: title, exact: true }).click();
  await built(page);
  return job;
}

export async function addStep(page: Page): Promise<void> {
  await built(page);
  await page.getByRole("button", { name: "Add to the sheet" }).click();
  await expect(open(page)).toBeHidden();
  await built(page);
  await saved(page);
}

/** Where a point of the model lies on the canvas, pixels from its corner. */
export function project(page: Page, point: number[]): Promise<{ x: number; y: number }> {
  return page.evaluate(
    (p) =>
      (window as unknown as { boldSeamView: { project(q: number[]): { x: number; y: number } } }).boldSeamView.project(
        p,
      ),
    point,
  );
}

/** Clicks in the view at a point of the model, in millimetres. */
export async function clickModel(page: Page, point: [number, number, number]): Promise<void> {
  const canvas = page.locator("canvas[tabindex]");
  const box = (await canvas.boundingBox())!;
  const at = await project(page, point);
  await page.mouse.move(box.x + at.x, box.y + at.y);
  await page.mouse.down();
  await page.mouse.up();
}

export function bodyCard(page: Page, name: string): Locator {
  return page.getByRole("region", { name: "Bench" }).getByRole("article", { name, exact: true });
}

/** A job by the interface that scripts use. */
export async function postJob(
  page: Page,
  steps: Record<string, unknown>[],
  more: Record<string, unknown> = {},
): Promise<string> {
  const response = await page.request.post("/api/jobs", {
    data: {
      document: {
        format: "bold-seam-job",
        version: 1,
        name: "Test job",
        parts: [{ id: "part", name: "Part", steps }],
        ...more,
      },
    },
  });
  expect(response.status(), await response.text()).toBe(201);
  return (await response.json()).id;
}

export const padText = (): string => readFileSync(PAD, "utf8");

/**
 * The rules of accessibility that a page breaks, of those that can be checked: none is expected.
 * @param rules in another theme only those of colour can come out another way.
 */
export async function violations(page: Page, rules: "all" | "of colour" = "all"): Promise<string[]> {
  const axe = new AxeBuilder({ page });
  if (rules === "all") axe.withTags(["wcag2a", "wcag2aa", "wcag21aa"]);
  else axe.withRules(["color-contrast", "link-in-text-block"]);
  return (await axe.analyze()).violations.map(
    ({ id, nodes }) => `${id}: ${nodes.map((node) => node.html.slice(0, 120)).join(" | ")}`,
  );
}
