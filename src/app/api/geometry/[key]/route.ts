import * as z from "zod";
import { database } from "@/server/db/client";
import { GEOMETRY_LIMIT, storedGeometry, storeGeometry } from "@/server/geometry/service";
import { readBody } from "@/server/http/body";
import { checked, handle } from "@/server/http/handle";

const keyField = z.string().regex(/^[0-9a-f]{64}$/, "has to be 64 hexadecimal digits");
type Context = { params: Promise<{ key: string }> };

/** 204 when nothing is stored: an ordinary answer, since anything stored can be computed again. */
export const GET = (request: Request, { params }: Context) =>
  handle(request, async () => {
    const bytes = await storedGeometry(await database(), checked(keyField, (await params).key));
    if (!bytes) return new Response(null, { status: 204, headers: { "Cache-Control": "no-store" } });
    return new Response(bytes as BodyInit, {
      headers: { "Content-Type": "application/octet-stream", "Cache-Control": "no-store" },
    });
  });

export const PUT = (request: Request, { params }: Context) =>
  handle(request, async () => {
    const key = checked(keyField, (await params).key);
    await storeGeometry(await database(), key, await readBody(request, GEOMETRY_LIMIT));
    return new Response(null, { status: 204 });
  });
