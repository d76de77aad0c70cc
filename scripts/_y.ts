import { loadNodeKernel } from "../src/core/kernel/library/node";
import { loadNodeTriangles } from "../src/core/triangles/node";
import { EngineSession } from "../src/engine/session";
import { jobOf } from "../src/core/testing/harness";
const edgesOfBox = ([x, y, z]: any, body: string) => {
  const edge = (length: number, at: number[]) => ({ body, print: { kind: "line", length, at } });
  const signs = [[1, 1],[1, -1],[-1, 1],[-1, -1]] as const;
  return signs.flatMap(([a, b]) => [edge(z, [(a * x) / 2, (b * y) / 2, z / 2]), edge(y, [(a * x) / 2, 0, b > 0 ? z : 0]), edge(x, [0, (a * y) / 2, b > 0 ? z : 0])]);
};
const session = new EngineSession({ load: loadNodeKernel, loadTriangles: loadNodeTriangles, fetch: async () => null, store: async () => {} } as any);
await session.start({});
for (let i=0;i<12;i++) {
const job = jobOf([
      { id: "a", type: "box", name: "Box", size: [60, 50, 40] },
      { id: "r", type: "fillet", edges: edgesOfBox([60, 50, 40], "a:solid"), radius: 5 },
      { id: "h", type: "shell", name: "Hollow", body: ["a"], thickness: 6+i*0.1 },
    ]);
let from=performance.now();
const r = (await session.run("rough", { job, part: "part", step: "h", known: [] })).answer;
const t1=performance.now()-from; from=performance.now();
await session.run("evaluate", { job, part: "part", upTo: "h", pieces:"h", known: [] });
console.log(r && r.items.length, r?.took, Math.round(t1), "exact", Math.round(performance.now()-from));
}
