import { z } from "zod";
import type { Job } from "@/core/job";
import { isBodyView } from "@/engine/contract";
import { nodeEngines } from "@/engine/node/spawn";
import { database } from "@/server/db/client";
import { fileBytes } from "@/server/files/service";
import { checked, handle } from "@/server/http/handle";
import { HttpProblem } from "@/server/http/problem";
import { readJob } from "@/server/jobs/service";

const partField = z.string().max(60).optional();

/** A part as the server builds it, for scripts: steps with their states, bodies with their measures. */
export const GET = (request: Request, { params }: { params: Promise<{ id: string }> }) =>
  handle(request, async () => {
    const db = await database();
    const { document } = await readJob(db, (await params).id);
    const wanted = checked(partField, new URL(request.url).searchParams.get("part") ?? undefined);
    const part = wanted === undefined ? document.parts[0] : document.parts.find((candidate) => candidate.id === wanted);
    if (!part) throw new HttpProblem(404, "part-missing", "There is no such part in this job.");
    // The engine's thread has no database: the files travel with the job.
    const files: Job["files"] = await Promise.all(
      document.files.map(async (file) =>
        file.sha256 ? { ...file, text: new TextDecoder().decode(await fileBytes(db, file.sha256)) } : file,
      ),
    );
    const { steps, items } = await nodeEngines().evaluate(
      { job: { ...document, files }, part: part.id, known: [] },
      undefined,
      request.signal,
    );
    return Response.json({
      part: part.name,
      steps: steps.map(({ id, type, state, error, warnings, lacks }) => ({
        id,
        type,
        state,
        error: error ?? null,
        warnings,
        ...(lacks ? { lacks } : {}),
      })),
      bodies: items.flatMap((item) =>
        !isBodyView(item)
          ? []
          : [
              {
                id: item.id,
                name: item.name,
                kind: item.kind,
                lacks: item.lacks,
                ...item.measures,
                openEdges: item.measures.openEdges.length,
                faces: item.faces.length,
              },
            ],
      ),
    });
  });
