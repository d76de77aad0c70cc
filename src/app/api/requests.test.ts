import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import path from "node:path";
import { afterAll, beforeAll, expect, test, vi } from "vitest";
import { jobOf } from "@/core/testing/harness";
import { Random } from "@/core/testing/trust/random";
import { JARGON, spoilt, spoiltText } from "@/core/testing/trust/spoilt";

/** How many requests are made: a sample here, 3,000 in the long proof. */
const COUNT = Number(process.env.PROOF_REQUESTS ?? 300);

const folder = mkdtempSync(path.join(tmpdir(), "bold-seam-requests-"));
beforeAll(() => {
  vi.stubEnv("DATABASE_URL", `file:${path.join(folder, "jobs.db")}`);
});
afterAll(() => {
  vi.unstubAllEnvs();
  rmSync(folder, { recursive: true, force: true });
});

type Handler = (request: Request, context: { params: Promise<never> }) => Promise<Response>;

async function routes() {
  const [jobs, job, changes, undo, redo, files, file, geometry, archive] = await Promise.all([
    import("./jobs/route"),
    import("./jobs/[id]/route"),
    import("./jobs/[id]/changes/route"),
    import("./jobs/[id]/undo/route"),
    import("./jobs/[id]/redo/route"),
    import("./files/route"),
    import("./files/[sha]/route"),
    import("./geometry/[key]/route"),
    import("./archive/route"),
  ]);
  return { jobs, job, changes, undo, redo, files, file, geometry, archive };
}

const HOST = "http://localhost:3000";
const post = (url: string, body: BodyInit, headers: Record<string, string> = {}): Request =>
  new Request(HOST + url, {
    method: "POST",
    body,
    headers: { "Content-Type": "application/json", host: "localhost:3000", ...headers },
  });

test(`${COUNT} malformed requests: no answer of 500, none hangs, every refusal is a sentence`, async () => {
  const random = new Random(20261128);
  const pick = <T>(list: readonly T[]): T => list[Math.floor(random.next() * list.length)]!;
  const all = await routes();
  const context = (params: Record<string, string>) => ({ params: Promise.resolve(params as never) });
  const document = jobOf([{ id: "a", type: "box", size: [1, 2, 3] }]);
  const made = await (all.jobs.POST as Handler)(post("/api/jobs", JSON.stringify({ document })), context({}));
  expect(made.status).toBe(201);
  const { id } = (await made.json()) as { id: string };
  let revision = 1;
  const change = () => ({
    base: revision,
    label: "Change",
    token: `token-${random.next()}`,
    patches: pick([
      [{ op: "replace", path: ["name"], value: "x" }],
      [{ op: "replace", path: ["parts", 0, "steps", 0, "size", 1], value: 4 }],
      [{ op: "add", path: ["parts", 0, "steps", 1], value: { id: "b", type: "sphere" } }],
      [{ op: "replace", path: ["parts", 0, "steps", "length"], value: 4e9 }],
      [{ op: "add", path: ["parts", 0, "steps", 4_000_000_000], value: {} }],
      [{ op: "remove", path: ["parts", 0] }],
    ]),
  });
  const ids = [id, "", "nope", "../../etc", "__proto__", "x".repeat(5000), "%00"];
  const STEP = "ISO-10303-21;\nHEADER;\nENDSEC;\nDATA;\nENDSEC;\nEND-ISO-10303-21;\n";
  const makers: (() => Promise<Response>)[] = [
    () => (all.jobs.POST as Handler)(post("/api/jobs", JSON.stringify(spoilt({ document }, random))), context({})),
    () => (all.jobs.POST as Handler)(post("/api/jobs", spoiltText(JSON.stringify({ document }), random)), context({})),
    () =>
      (all.jobs.POST as Handler)(post("/api/jobs", "[".repeat(1 + Math.floor(random.next() * 90_000))), context({})),
    () =>
      (all.changes.POST as Handler)(
        post("/api/jobs/x/changes", JSON.stringify(spoilt(change(), random))),
        context({ id: pick(ids) }),
      ),
    () => (all.changes.POST as Handler)(post("/api/jobs/x/changes", JSON.stringify(change())), context({ id })),
    () =>
      (pick([all.undo, all.redo]).POST as Handler)(
        post("/api/jobs/x/undo", JSON.stringify(spoilt({ base: revision }, random))),
        context({ id: pick(ids) }),
      ),
    () => (all.job.GET as Handler)(new Request(`${HOST}/api/jobs/x`), context({ id: pick(ids) })),
    () =>
      (all.files.POST as Handler)(
        post(
          `/api/files?name=${encodeURIComponent(pick(["a.step", "", "x".repeat(999), "\u0000"]))}`,
          spoiltText(STEP, random),
        ),
        context({}),
      ),
    () =>
      (all.file.GET as Handler)(
        new Request(`${HOST}/api/files/x`),
        context({ sha: pick(["", "0".repeat(64), "../x", "Z".repeat(64)]) }),
      ),
    () =>
      (all.geometry.GET as Handler)(
        new Request(`${HOST}/api/geometry/x`),
        context({ key: pick(["", "0".repeat(64), "../x"]) }),
      ),
    () =>
      (all.jobs.POST as Handler)(
        post("/api/jobs", "{}", { "Content-Type": pick(["text/plain", "", "application/x-www-form-urlencoded"]) }),
        context({}),
      ),
    () =>
      (all.jobs.POST as Handler)(
        post("/api/jobs", "{}", {
          origin: pick(["null", "http://evil.example", "::::"]),
          "sec-fetch-site": pick(["cross-site", "none"]),
        }),
        context({}),
      ),
  ];
  const wrong: string[] = [];
  const statuses = new Map<number, number>();
  const errors = vi.spyOn(console, "error").mockImplementation(() => {});
  for (let i = 0; i < COUNT; i++) {
    const answer = await pick(makers)();
    statuses.set(answer.status, (statuses.get(answer.status) ?? 0) + 1);
    if (answer.status >= 500) wrong.push(`${i}: ${answer.status} ${JSON.stringify(errors.mock.calls.at(-1))}`);
    else if (answer.status >= 400) {
      const { message, code } = (await answer.json()) as { message: string; code: string };
      if (!code || !/[.!?”)]$/.test(message) || JARGON.test(message)) wrong.push(`${i}: ${message}`);
    } else await answer.arrayBuffer();
    const now = await (all.job.GET as Handler)(new Request(`${HOST}/api/jobs/x`), context({ id }));
    expect(now.status).toBe(200);
    ({ revision } = (await now.json()) as { revision: number });
  }
  errors.mockRestore();
  expect(wrong.slice(0, 10)).toEqual([]);
  expect(statuses.get(400)).toBeGreaterThan(COUNT / 20);
  expect((await (all.archive.GET as Handler)(new Request(`${HOST}/api/archive`), context({}))).status).toBe(200);
});
