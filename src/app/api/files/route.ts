import { z } from "zod";
import { database } from "@/server/db/client";
import { FILE_LIMIT, keepFile } from "@/server/files/service";
import { checked, handle, readBody } from "@/server/http/handle";

const fileName = z.string().trim().min(1).max(240);

/** The body is the file as it is; its name stands in the address. */
export const POST = (request: Request) =>
  handle(request, async () => {
    const name = checked(fileName, new URL(request.url).searchParams.get("name") ?? "");
    return Response.json(await keepFile(await database(), name, await readBody(request, FILE_LIMIT)), { status: 201 });
  });
