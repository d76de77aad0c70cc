import { spawn } from "node:child_process";
import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import path from "node:path";
import { afterAll, expect, test } from "vitest";
import { Random } from "@/core/testing/trust/random";
import { openDatabase } from "../db/client";
import { readJob } from "./service";

/** How many times the writer is killed: a sample here, 100 in the long proof. */
const KILLS = Number(process.env.PROOF_KILLS ?? 3);

const folder = mkdtempSync(path.join(tmpdir(), "bold-seam-kills-"));
afterAll(() => rmSync(folder, { recursive: true, force: true }));

/** Lets the writer work until it has acknowledged so many edits and some time has passed, then kills it. */
function writeUntilKilled(
  url: string,
  job: string,
  least: number,
  more: number,
): Promise<{ job: string; said: string[] }> {
  return new Promise((resolve, reject) => {
    const writer = spawn("npx", ["--no-install", "tsx", "src/server/testing/writer.ts", url, job], {
      stdio: ["ignore", "pipe", "pipe"],
      detached: true,
    });
    let text = "";
    let trouble = "";
    let asked = false;
    writer.stderr.on("data", (chunk: Buffer) => {
      trouble += chunk;
    });
    writer.stdout.on("data", (chunk: Buffer) => {
      text += chunk;
      if (asked || text.split("\n").length <= least + 1) return;
      asked = true;
      // The whole group: whatever runs in its place goes with it, in the middle of its work.
      setTimeout(() => process.kill(-writer.pid!, "SIGKILL"), more);
    });
    writer.on("exit", () => {
      const [head, ...said] = text.split("\n").slice(0, -1);
      if (head?.startsWith("job ")) resolve({ job: head.slice(4), said });
      else reject(new Error(`The writer did not begin: ${trouble}`));
    });
  });
}

test(`${KILLS} kills under load: no acknowledged edit is lost, and the job opens every time`, async () => {
  const random = new Random(20261128);
  const url = `file:${path.join(folder, "jobs.db")}`;
  let job = "new";
  const acknowledged: string[] = [];
  for (let i = 0; i < KILLS; i++) {
    const { job: id, said } = await writeUntilKilled(url, job, 3 + Math.floor(random.next() * 20), random.next() * 30);
    job = id;
    acknowledged.push(...said);
    const db = await openDatabase(url);
    const { document, revision } = await readJob(db, job);
    const kept = document.parts[0]!.steps.map(({ name }) => name);
    // What was acknowledged is there, in its order; what was on its way may be there, too: once.
    expect(kept.filter((name) => acknowledged.includes(name!))).toEqual(acknowledged);
    expect(new Set(kept).size).toBe(kept.length);
    expect(revision).toBe(kept.length + 1);
    expect(kept.length - acknowledged.length).toBeLessThanOrEqual(i + 1);
  }
  expect(acknowledged.length).toBeGreaterThanOrEqual(3 * KILLS);
});
