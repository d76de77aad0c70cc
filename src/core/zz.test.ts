import { readFileSync } from "node:fs";
import { test } from "vitest";
import { checkJob } from "./job";
import { loadNodeKernel } from "./kernel/node";
import { build } from "./testing/harness";

test("x", async () => {
  await loadNodeKernel();
  const run = (label: string, steps: any[], a: string, b: string) => {
    const out: string[] = [];
    for (const op of ["union", "intersect", "subtract", "split"]) {
      const t = performance.now();
      const two = op === "union" || op === "intersect";
      const r = build(
        checkJob({
          format: "bold-seam-job",
          version: 1,
          name: "x",
          parts: [
            {
              id: "p",
              name: "p",
              steps: [
                ...steps,
                { id: "s", type: "seam", preset: op, ...(two ? { stock: [a, b] } : { stock: [a], cutters: [b] }) },
              ],
            },
          ],
        }),
      );
      const s = r.step("s");
      const bad = r.reports.filter((x) => x.id.startsWith("s:") && (!x.closed || !x.valid)).length;
      out.push(
        `${op}: ${s.state[0]} ${r.reports
          .filter((x) => x.id.startsWith("s:"))
          .map((x) => x.volume!.toFixed(2))
          .join("+")} ${bad ? "BAD" + bad : ""} ${s.error?.code ?? ""} ${(performance.now() - t).toFixed(0)}ms`,
      );
    }
    console.log(">>" + label + " | " + out.join(" | "));
  };
  const job = (n: string) =>
    JSON.parse(readFileSync(`src/core/testing/trust/jobs/${n}.json`, "utf8")).parts[0].steps.slice(0, 2);
  run("elbow", job("elbow"), "a", "b");
  run("tori", job("tori"), "a", "b");
  const pairs = JSON.parse(readFileSync("src/core/testing/trust/jobs/kernel-pairs.json", "utf8"));
  const only = process.env.ONLY ? process.env.ONLY.split(",").map(Number) : pairs.map((_: any, i: number) => i);
  for (const i of only) {
    const p = pairs[i];
    if (p.failures.some((f: any) => f.what === "hang") && !process.env.HANG) continue;
    const o = p.failures[0].opinion;
    run(
      `${i} ${p.family} opinion U ${o?.U?.toFixed(1)} I ${o?.I?.toFixed(1)} A ${o?.A?.toFixed(1)}`,
      p.steps,
      p.steps.some((s: any) => s.id === "am") ? "a" : "a",
      "b",
    );
  }
}, 600000);
