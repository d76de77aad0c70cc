import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import path from "node:path";
import { eq } from "drizzle-orm";
import { nanoid } from "nanoid";
import { makeChange } from "../src/core/job";
import { openDatabase } from "../src/server/db/client";
import { changes, jobs } from "../src/server/db/schema";
import { createJob, edit, readJob } from "../src/server/jobs/service";
import { median, show } from "./ratios";

/** An edit of a job with a long history against one of a job with a short one: the log is never read whole. */
export async function edits(rounds: number): Promise<void> {
  const folder = mkdtempSync(path.join(tmpdir(), "bold-seam-bench-"));
  const db = await openDatabase(`file:${path.join(folder, "jobs.db")}`);
  const after = async (revisions: number) => {
    const { id } = await createJob(db, { name: "Edits", units: "mm" });
    // The log as so many edits leave it: rows of a size that edits have.
    const { document } = await readJob(db, id);
    const patches = JSON.stringify([{ op: "replace", path: ["name"], value: "Edits" }]);
    for (let at = 2; at <= revisions; at += 500)
      await db.insert(changes).values(
        Array.from({ length: Math.min(500, revisions - at + 1) }, (_, i) => ({
          job: id,
          revision: at + i,
          kind: "edit" as const,
          label: "Call it Edits",
          token: nanoid(),
          patches,
          inverse: patches,
          at: new Date(),
        })),
      );
    await db.update(jobs).set({ revision: revisions }).where(eq(jobs.id, id));
    let state = { document, revision: revisions };
    return async () => {
      const { job, change } = makeChange(state.document, "Name", (draft) => {
        draft.name = draft.name === "Edits" ? "Edit" : "Edits";
      })!;
      const start = performance.now();
      const { revision } = await edit(db, id, {
        base: state.revision,
        label: change.label,
        token: nanoid(),
        patches: change.patches as never,
      });
      const ms = performance.now() - start;
      state = { document: job, revision };
      return ms;
    };
  };
  const [early, late] = [await after(10), await after(10_000)];
  const ratios: number[] = [];
  for (let i = 0; i < rounds + 5; i++) {
    const [b, a] = [await early(), await late()];
    if (i >= 5) ratios.push(a / b);
  }
  show("an edit at revision 10,000 to one at revision 10", median(ratios), "≤ 1.2");
  rmSync(folder, { recursive: true, force: true });
}
