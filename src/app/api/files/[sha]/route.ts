import * as z from "zod";
import { database } from "@/server/db/client";
import { fileBytes } from "@/server/files/service";
import { checked, handle } from "@/server/http/handle";

const hash = z.string().regex(/^[0-9a-f]{64}$/, "has to be 64 hexadecimal digits");

export const GET = (request: Request, { params }: { params: Promise<{ sha: string }> }) =>
  handle(request, async () => {
    const bytes = await fileBytes(await database(), checked(hash, (await params).sha));
    return new Response(bytes as BodyInit, {
      headers: {
        "Content-Type": "application/octet-stream",
        "Content-Disposition": "attachment",
        "Cache-Control": "private, max-age=31536000, immutable",
      },
    });
  });
