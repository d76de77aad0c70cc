import * as z from "zod";
import { database } from "@/server/db/client";
import { handle, readJson } from "@/server/http/handle";
import { undo } from "@/server/jobs/service";

const on = z.strictObject({ base: z.number().int().min(1) });

export const POST = (request: Request, { params }: { params: Promise<{ id: string }> }) =>
  handle(request, async () =>
    Response.json(await undo(await database(), (await params).id, (await readJson(request, on)).base)),
  );
