import type * as z from "zod";
import { SeamError } from "@/core/errors";
import { inWords } from "@/core/issues";
import { asStorageProblem, statusOf } from "../db/storage";
import { readBody } from "./body";
import { HttpProblem } from "./problem";

/** Runs a route: problems become JSON answers, anything unforeseen a 500 without its insides. */
export async function handle(request: Request, work: () => Promise<Response>): Promise<Response> {
  try {
    refuseForeign(request);
    return await work();
  } catch (cause) {
    if (cause instanceof HttpProblem) return problem(cause.status, cause.code, cause.message, cause.detail);
    if (cause instanceof SeamError) return problem(422, cause.trouble.code, cause.message);
    if (cause instanceof RequestInvalid) return problem(400, "request-invalid", cause.message);
    const storage = asStorageProblem(cause);
    if (storage) return problem(statusOf(storage), `storage-${storage.code}`, storage.message);
    console.error(cause);
    return problem(500, "server", "The server could not do that. What you have is kept here; try again.");
  }
}

function problem(status: number, code: string, message: string, detail?: unknown): Response {
  return Response.json(
    { code, message, ...(detail === undefined ? {} : { detail }) },
    { status, headers: { "Cache-Control": "no-store" } },
  );
}

/** A page of another site must not write here with a person's browser. */
function refuseForeign(request: Request): void {
  if (request.method === "GET" || request.method === "HEAD") return;
  const origin = request.headers.get("origin");
  const site = request.headers.get("sec-fetch-site");
  if (site && site !== "same-origin" && site !== "none")
    throw new HttpProblem(403, "foreign", "Requests from other sites are refused.");
  if (origin && hostOf(origin) !== request.headers.get("host"))
    throw new HttpProblem(403, "foreign", "Requests from other sites are refused.");
}

/** The host of an origin; null for one that is none, such as the “null” of a page that hides where it is from. */
function hostOf(origin: string): string | null {
  try {
    return new URL(origin).host;
  } catch {
    return null;
  }
}

const JSON_LIMIT = 8 * 1024 * 1024;

/** How deep brackets may stand in brackets; a job has about ten. */
const DEEPEST = 64;

/** How deep the brackets of a JSON text stand in each other, without reading it: strings are passed over. */
function depthOf(text: string): number {
  let [depth, deepest] = [0, 0];
  for (let i = 0; i < text.length; i++) {
    const c = text.charCodeAt(i);
    if (c === 0x22) {
      for (i++; i < text.length && text.charCodeAt(i) !== 0x22; i++) if (text.charCodeAt(i) === 0x5c) i++;
    } else if (c === 0x7b || c === 0x5b) deepest = Math.max(deepest, ++depth);
    else if (c === 0x7d || c === 0x5d) depth--;
  }
  return deepest;
}

export async function readJson<S extends z.ZodType>(request: Request, schema: S): Promise<z.infer<S>> {
  // A form of another site can send text without being asked, but never this.
  if (!/^application\/json\b/i.test(request.headers.get("content-type") ?? ""))
    throw new HttpProblem(415, "not-json", "Send JSON, and say so: Content-Type: application/json.");
  const text = new TextDecoder().decode(await readBody(request, JSON_LIMIT));
  if (depthOf(text) > DEEPEST)
    throw new HttpProblem(
      400,
      "too-deep",
      `The request is nested more than ${DEEPEST} deep. Nothing that is kept here is.`,
    );
  let value: unknown;
  try {
    value = JSON.parse(text);
  } catch {
    throw new HttpProblem(400, "not-json", "The request is not valid JSON.");
  }
  return checked(schema, value);
}

/** A request that is not what the route takes: where, and what it has to be. */
class RequestInvalid extends Error {}

/** Checks what a request says. @throws RequestInvalid, which becomes an answer of 400 with one sentence. */
export function checked<S extends z.ZodType>(schema: S, value: unknown): z.infer<S> {
  const result = schema.safeParse(value);
  if (result.success) return result.data;
  const issue = result.error.issues[0]!;
  const at = issue.path
    .map((part) => (typeof part === "number" ? `entry ${part + 1}` : `“${String(part)}”`))
    .join(", ");
  throw new RequestInvalid(`The request cannot be used: ${at || "it"} ${inWords(issue, value)}.`);
}
