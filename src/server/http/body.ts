import { HttpProblem } from "./problem";

/** The pieces of a body as they come, up to a limit of bytes. @throws HttpProblem 413 as soon as it is longer. */
export async function* piecesOf(request: Request, limit: number): AsyncGenerator<Uint8Array> {
  const tooLarge = () =>
    new HttpProblem(413, "too-large", `That is larger than the limit of ${Math.round(limit / 1024 / 1024)} MB.`);
  if (Number(request.headers.get("content-length") ?? 0) > limit) throw tooLarge();
  let size = 0;
  const reader = request.body?.getReader();
  while (reader) {
    const { done, value } = await reader.read();
    if (done) return;
    size += value.byteLength;
    if (size > limit) {
      await reader.cancel();
      throw tooLarge();
    }
    yield value;
  }
}

/** Reads a body up to a limit of bytes. @throws HttpProblem 413 */
export async function readBody(request: Request, limit: number): Promise<Uint8Array> {
  const pieces: Uint8Array[] = [];
  for await (const piece of piecesOf(request, limit)) pieces.push(piece);
  return new Uint8Array(Buffer.concat(pieces));
}
