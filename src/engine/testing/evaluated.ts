import type { Job } from "@/core/job";
import { loadNodeKernel } from "@/core/kernel/library/node";
import { jobOf } from "@/core/testing/harness";
import { loadNodeTriangles } from "@/core/triangles/node";
import type { Evaluation } from "../contract";
import { EngineSession } from "../session";

/** What a page gets to see of a job's first part, from a real engine: for tests of the interface. */
export async function evaluated(
  steps: Record<string, unknown>[],
  open?: string,
): Promise<{ job: Job; evaluation: Evaluation }> {
  const session = new EngineSession({
    load: () => loadNodeKernel(),
    loadTriangles: () => loadNodeTriangles(),
    fetch: async () => null,
    store: async () => {},
  });
  await session.start({});
  const job = jobOf(steps);
  const { answer } = await session.run("evaluate", {
    job,
    part: job.parts[0]!.id,
    known: [],
    ...(open ? { upTo: open, pieces: open } : {}),
  });
  const pieces = answer.pieces?.map((piece) => ({ ...piece, mesh: piece.mesh! }));
  return { job, evaluation: { ...answer, ...(pieces ? { pieces } : {}) } as Evaluation };
}
