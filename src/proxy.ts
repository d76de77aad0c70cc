import { type NextRequest, NextResponse } from "next/server";
import { isOwnHost } from "./server/http/hosts";
import { policy } from "./server/http/policy";

/**
 * Refuses requests by names that are not this server's, reads too: a page elsewhere must not reach it by a name of its own.
 * A page that is answered runs only the scripts that were written for this one answer: they carry its word of chance.
 */
export function proxy(request: NextRequest) {
  if (!isOwnHost(request.headers.get("host"), process.env.ALLOWED_HOSTS))
    return NextResponse.json(
      {
        code: "foreign-host",
        message: "This server does not go by that name. Open it as localhost, or add the name to ALLOWED_HOSTS.",
      },
      { status: 403, headers: { "Cache-Control": "no-store" } },
    );
  // What is fetched by name runs under the policy of its page, or has one of its own.
  if (/^\/(_next|api|kernel)\//.test(request.nextUrl.pathname)) return NextResponse.next();
  const chance = btoa(String.fromCharCode(...crypto.getRandomValues(new Uint8Array(16))));
  // In development, React makes functions from text.
  const development = process.env.NODE_ENV === "development" ? " 'unsafe-eval'" : "";
  const rule = policy(`'self' 'nonce-${chance}' 'wasm-unsafe-eval'${development}`);
  const headers = new Headers(request.headers);
  // The framework gives the scripts that it writes into the page the word that it finds here.
  headers.set("Content-Security-Policy", rule);
  const response = NextResponse.next({ request: { headers } });
  response.headers.set("Content-Security-Policy", rule);
  return response;
}
