import * as z from "zod";
import { database } from "@/server/db/client";
import { handle, readJson } from "@/server/http/handle";
import { createJob, listSummaries } from "@/server/jobs/service";

const wanted = z.union([
  z.strictObject({ document: z.unknown() }),
  z.strictObject({ name: z.string().trim().min(1).max(120), units: z.enum(["mm", "inch"]).default("mm") }),
]);

export const GET = (request: Request) =>
  handle(request, async () => Response.json(await listSummaries(await database())));

export const POST = (request: Request) =>
  handle(request, async () => {
    const body = await readJson(request, wanted);
    return Response.json(await createJob(await database(), body), { status: 201 });
  });
