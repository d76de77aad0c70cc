import { sql } from "drizzle-orm";
import { database } from "@/server/db/client";
import { handle } from "@/server/http/handle";

export const dynamic = "force-dynamic";

export const GET = (request: Request) =>
  handle(request, async () => {
    await (await database()).run(sql`select 1`);
    return Response.json({ ok: true });
  });
