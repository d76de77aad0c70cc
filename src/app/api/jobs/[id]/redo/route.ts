import * as z from "zod";
import { database } from "@/server/db/client";
import { handle, readJson } from "@/server/http/handle";
import { redo } from "@/server/jobs/service";

const on = z.strictObject({ base: z.number().int().min(1) });

export const POST = (request: Request, { params }: { params: Promise<{ id: string }> }) =>
  handle(request, async () =>
    Response.json(await redo(await database(), (await params).id, (await readJson(request, on)).base)),
  );
