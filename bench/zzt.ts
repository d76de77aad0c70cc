import { evaluatePart, ResultCache } from "../src/core/build";
import { freeShape, makePlaneFace } from "../src/core/kernel";
import { bare } from "../src/core/kernel/bare";
import { loadNodeKernel } from "../src/core/kernel/node";
import { isBody } from "../src/core/naming";
import { jobOf } from "../src/core/testing/harness";
await loadNodeKernel();
const ready = new ResultCache();
const stock = [{ id: "a", type: "cylinder", diameter: 40, height: 120, at: [-60, 0, 0], axis: "x" }];
const ev = (steps: any[]) => { const job = jobOf(steps); return evaluatePart(job, job.parts[0]!, { cache: ready, file: () => undefined }); };
const shape = ev(stock).bench.flatMap(({ item }) => isBody(item) ? [item.shape] : [])[0]!;
const plane = makePlaneFace([3, 0, 0], [1, 0, 0], 200);
let n = 0; const o: number[] = [], t: number[] = [];
for (let i = 0; i < 700; i++) {
  const r = ev([...stock, { id: "p", type: "workplane", base: "yz", offset: 3 }, { id: `s${++n}`, type: "seam", preset: "trim", stock: ["a"], cutters: ["p"], keepSide: { p: "front" } }]);
  const s = performance.now(); bare("split", [shape], [plane]); const e = performance.now() - s;
  if (i > 200) { o.push(r.steps.at(-1)!.ms); t.push(e); }
}
const med = (a: number[]) => a.sort((x, y) => x - y)[a.length >> 1]!;
console.log(med(o), med(t), med(o) / med(t));
