import * as z from "zod";
import { isBodyView } from "@/engine/contract";
import { ReportRefused, report } from "@/engine/node/reports";
import { nodeEngines } from "@/engine/node/spawn";
import { database } from "@/server/db/client";
import { fileBytes } from "@/server/files/service";
import { checked, handle } from "@/server/http/handle";
import { HttpProblem } from "@/server/http/problem";
import { readJob } from "@/server/jobs/service";

/** Enough for any part that is made, and no more than a small machine bears. */
const LIMITS = { most: 4, time: 120_000 };

const partField = z.string().max(60).optional();

/** A part as the server builds it, for scripts: steps with their states, bodies with their measures. */
export const GET = (request: Request, { params }: { params: Promise<{ id: string }> }) =>
  handle(request, async () => {
    const db = await database();
    const { document } = await readJob(db, (await params).id);
    const wanted = checked(partField, new URL(request.url).searchParams.get("part") ?? undefined);
    const part = wanted === undefined ? document.parts[0] : document.parts.find((candidate) => candidate.id === wanted);
    if (!part) throw new HttpProblem(404, "part-missing", "There is no such part in this job.");
    // The engine's thread has no database: the files travel with the job, each once.
    const hashes = new Set(document.files.flatMap(({ sha256 }) => sha256 ?? []));
    const files = Object.fromEntries(
      await Promise.all([...hashes].map(async (sha256) => [sha256, await fileBytes(db, sha256)] as const)),
    );
    const wantedPart = { job: document, part: part.id, known: [], files };
    const { steps, items } = await report(nodeEngines(), wantedPart, request.signal, LIMITS).catch((cause) => {
      if (cause instanceof ReportRefused) throw new HttpProblem(503, `report-${cause.code}`, cause.message);
      throw cause;
    });
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
