import { type NextRequest, NextResponse } from "next/server";
import { isOwnHost } from "./server/http/hosts";

/** Refuses requests by names that are not this server's, reads too: a page elsewhere must not reach it by a name of its own. */
export function proxy(request: NextRequest) {
  if (isOwnHost(request.headers.get("host"), process.env.ALLOWED_HOSTS)) return NextResponse.next();
  return NextResponse.json(
    {
      code: "foreign-host",
      message: "This server does not go by that name. Open it as localhost, or add the name to ALLOWED_HOSTS.",
    },
    { status: 403, headers: { "Cache-Control": "no-store" } },
  );
}
