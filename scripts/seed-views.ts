import { pack } from "../src/core/evaluate/pack";
import { viewKey } from "../src/core/evaluate/view-key";
import type { Job } from "../src/core/job";
import { loadNodeKernel } from "../src/core/kernel/library/node";
import { loadNodeTriangles } from "../src/core/triangles/node";
import { EngineSession } from "../src/engine/session";
import type { Database } from "../src/server/db/client";
import { fileBytes } from "../src/server/files/service";
import { storedGeometry, storeGeometry } from "../src/server/geometry/service";

/** Builds all parts of a job and stores how each is seen, so that a page has it on screen before the kernel has loaded. */
export async function seedViews(db: Database, job: Job): Promise<void> {
  const session = new EngineSession({
    load: () => loadNodeKernel(),
    loadTriangles: () => loadNodeTriangles(),
    fetch: async (url) => {
      const [kind, key] = url.split(":") as [string, string];
      return (kind === "file" ? await fileBytes(db, key) : await storedGeometry(db, key)) ?? null;
    },
    store: (url, bytes) => storeGeometry(db, url.split(":")[1]!, bytes),
  });
  await session.start({ files: "file:", geometry: "geometry:" });
  for (const part of job.parts) {
    const { answer } = await session.run("evaluate", { job, part: part.id, known: [] });
    await storeGeometry(db, viewKey(job, part), pack(answer));
  }
}
