import { readFileSync } from "node:fs";
import { evaluatePart, ResultCache } from "../src/core/evaluate";
import { loadNodeKernel } from "../src/core/kernel/library/node";
import { allFaceFacts, boxOf } from "../src/core/kernel";
import { checkJob } from "../src/core/job";
await loadNodeKernel();
const job = checkJob(JSON.parse(readFileSync("demo/star-pier.json","utf8")));
const part = job.parts.find(p=>p.id==="yoke")!;
const from=performance.now();
const r = evaluatePart(job, part, { cache: new ResultCache(), file: () => undefined });
console.log(performance.now()-from);
for (const s of r.steps as any[]) console.log(s.id, s.state, s.ms|0, s.error?.message ?? "", s.warnings.map((w:any)=>w.message).join("|"), (s.told??[]).map((w:any)=>w.message).join("|"));
for (const b of r.bench) { const it = b.item as any; console.log(it.id, b.name, it.kind, it.shape && JSON.stringify(boxOf(it.shape)), it.faces?.length); }
