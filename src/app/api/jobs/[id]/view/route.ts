import { database } from "@/server/db/client";
import { handle } from "@/server/http/handle";
import { storedView } from "@/server/jobs/view";

type Context = { params: Promise<{ id: string }> };

/** How the first part of a job was last seen, for its picture; 204 when nobody has looked at it as it is. */
export const GET = (request: Request, { params }: Context) =>
  handle(request, async () => {
    const bytes = await storedView(await database(), (await params).id);
    const headers = { "Content-Type": "application/octet-stream", "Cache-Control": "no-store" };
    return bytes ? new Response(bytes as BodyInit, { headers }) : new Response(null, { status: 204, headers });
  });
