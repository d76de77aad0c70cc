import { database } from "@/server/db/client";
import { handle } from "@/server/http/handle";
import { readJob, removeJob } from "@/server/jobs/service";

type Context = { params: Promise<{ id: string }> };

export const GET = (request: Request, { params }: Context) =>
  handle(request, async () =>
    Response.json(await readJob(await database(), (await params).id), { headers: { "Cache-Control": "no-store" } }),
  );

export const DELETE = (request: Request, { params }: Context) =>
  handle(request, async () => {
    await removeJob(await database(), (await params).id);
    return new Response(null, { status: 204 });
  });
