import * as z from "zod";
import { database } from "@/server/db/client";
import { FILE_LIMIT, keepFile } from "@/server/files/service";
import { checked, handle } from "@/server/http/handle";
import { takeUpload } from "@/server/http/upload";

const fileName = z.string().trim().min(1).max(240);

/** The body is the file as it is; its name stands in the address. */
export const POST = (request: Request) =>
  handle(request, async () => {
    const name = checked(fileName, new URL(request.url).searchParams.get("name") ?? "");
    const db = await database();
    const kept = await takeUpload(request, FILE_LIMIT, (bytes) => keepFile(db, name, bytes));
    return Response.json(kept, { status: 201 });
  });
