import { mkdtempSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import path from "node:path";
import { afterAll, beforeAll, expect, test, vi } from "vitest";
import { loadNodeKernel } from "@/core/kernel/library/node";
import { Random } from "@/core/testing/trust/random";
import { JARGON, spoilt, spoiltText } from "@/core/testing/trust/spoilt";
import { run } from "./main";

/** How many inputs are tried: a sample here, all of them in the long proof. */
const COUNT = Number(process.env.PROOF_INPUTS ?? 60);
const SEED = Number(process.env.PROOF_SEED ?? 20261128);

const folder = mkdtempSync(path.join(tmpdir(), "bold-seam-spoilt-"));
beforeAll(loadNodeKernel);
afterAll(() => rmSync(folder, { recursive: true, force: true }));

const JOBS = path.join(__dirname, "../core/testing/trust/jobs");
const readJob = (name: string) => JSON.parse(readFileSync(path.join(JOBS, `${name}.json`), "utf8")) as object;
const pad = readFileSync(path.join(__dirname, "../../demo/foot-pad.step"), "utf8");

/** Jobs of a few quick steps, so that as much as can be is wrong with them in the time there is. */
const sources = [
  readJob("closed-outline-side"),
  readJob("patch-identity"),
  readJob("piece-names-by-siblings"),
  readJob("stock-out-of-reach"),
  readJob("trim-side-lost"),
  readJob("repair-extends-extrude"),
  {
    format: "bold-seam-job",
    version: 1,
    name: "Import",
    units: "inch",
    parameters: [{ name: "width", formula: "2 in" }],
    files: [{ id: "f", name: "pad.step", text: pad }],
    parts: [
      {
        id: "p",
        name: "Pad",
        steps: [
          { id: "i", type: "import", file: "f" },
          { id: "b", type: "box", size: ["width", 30, 20] },
          { id: "r", type: "fillet", edges: [], radius: 2 },
          { id: "u", type: "seam", preset: "union", stock: ["b", "i"] },
        ],
      },
    ],
  },
];

async function cli(...args: string[]): Promise<{ code: number; out: string; err: string }> {
  const written = { out: "", err: "" };
  const keep = (name: "out" | "err") => (text: string | Uint8Array) => {
    written[name] += text;
    return true;
  };
  vi.spyOn(process.stdout, "write").mockImplementation(keep("out"));
  vi.spyOn(process.stderr, "write").mockImplementation(keep("err"));
  try {
    return { code: await run(args), ...written };
  } finally {
    vi.restoreAllMocks();
  }
}

interface Body {
  kind: string;
  volume: number | null;
  area: number | null;
  valid: boolean;
}
interface Report {
  parts: {
    steps: { state: string; error: { message: string } | null; warnings: { message: string }[] }[];
    bodies: Body[];
  }[];
}

const isSilent = ({ kind, volume, area, valid }: Body) =>
  area === null || (kind === "solid" && volume === null) || !valid;

test(`${COUNT} spoilt inputs: an exit code as documented, one sentence, nothing invalid in silence`, async () => {
  const random = new Random(SEED);
  const verdicts: { outcome: string; why: string }[] = [];
  for (let i = 0; i < COUNT; i++) {
    const isStep = i % 3 === 2;
    const source = sources[Math.floor(random.next() * sources.length)]!;
    const text = isStep
      ? spoiltText(pad, random)
      : i % 3 === 1
        ? spoiltText(JSON.stringify(source), random)
        : JSON.stringify(spoilt(source, random));
    const file = path.join(folder, isStep ? "spoilt.step" : "spoilt.json");
    writeFileSync(file, text);
    const { code, out, err } = await cli(isStep ? "inspect" : "evaluate", file);
    const fault = faultOf(isStep, code, out, err);
    verdicts.push({ outcome: fault ? "wrong" : code === 2 ? "refused" : "answered", why: fault ?? "" });
    if (fault) writeFileSync(path.join(tmpdir(), `spoilt-${i}${path.extname(file)}`), text);
  }
  if (process.env.PROOF_OUT) writeFileSync(process.env.PROOF_OUT, JSON.stringify(verdicts));
  expect(verdicts.flatMap(({ why }, i) => (why ? [`${i}: ${why}`] : []))).toEqual([]);
});

/** What is wrong with an answer; null where nothing is. */
function faultOf(isStep: boolean, code: number, out: string, err: string): string | null {
  if (![0, 1, 2].includes(code)) return `exit code ${code}`;
  if (code === 2) {
    if (err.trim().split("\n").length !== 1 || !/[.!?”]$/.test(err.trim())) return `no sentence: ${err}`;
    return JARGON.test(err) ? `jargon: ${err}` : null;
  }
  if (isStep) {
    const { bodies, warnings } = JSON.parse(out) as { bodies: Body[]; warnings: string[] };
    const odd = warnings.find((warning) => JARGON.test(warning));
    if (odd) return `jargon: ${odd}`;
    return warnings.length === 0 && bodies.some(isSilent) ? `silent: ${JSON.stringify(bodies)}` : null;
  }
  const { parts } = JSON.parse(out) as Report;
  for (const { steps, bodies } of parts) {
    for (const { error, warnings } of steps)
      for (const { message } of [...(error ? [error] : []), ...warnings])
        if (JARGON.test(message)) return `jargon: ${message}`;
    const told = steps.some(({ state }) => state !== "good");
    if (!told && bodies.some(isSilent)) return `silent: ${JSON.stringify(bodies)}`;
  }
  return null;
}
