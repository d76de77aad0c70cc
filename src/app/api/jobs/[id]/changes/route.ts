import * as z from "zod";
import { patchesSchema } from "@/core/job";
import { database } from "@/server/db/client";
import { handle, readJson } from "@/server/http/handle";
import { edit } from "@/server/jobs/service";

const change = z.strictObject({
  base: z.number().int().min(1),
  label: z.string().trim().min(1).max(200),
  token: z.string().min(8).max(40),
  patches: patchesSchema,
});

export const POST = (request: Request, { params }: { params: Promise<{ id: string }> }) =>
  handle(request, async () =>
    Response.json(await edit(await database(), (await params).id, await readJson(request, change))),
  );
