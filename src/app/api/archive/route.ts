import { database } from "@/server/db/client";
import { handle } from "@/server/http/handle";
import { archive } from "@/server/jobs/archive";

export const dynamic = "force-dynamic";

/** All jobs as one file, for keeping. */
export const GET = (request: Request) =>
  handle(request, async () => {
    const bytes = await archive(await database());
    const day = new Date().toISOString().slice(0, 10);
    return new Response(bytes as BodyInit, {
      headers: {
        "Content-Type": "application/zip",
        "Content-Disposition": `attachment; filename="bold-seam-jobs-${day}.zip"`,
        "Cache-Control": "no-store",
      },
    });
  });
