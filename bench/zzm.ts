import { evaluatePart, ResultCache } from "../src/core/build";
import { kernelHeapBytes } from "../src/core/kernel";
import { loadNodeKernel } from "../src/core/kernel/node";
import { jobOf } from "../src/core/testing/harness";
await loadNodeKernel();
const job = (i: number) => jobOf([
    { id: "a", type: "box", size: [40, 30 + i * 1e-3, 20], anchor: "corner" },
    { id: "r", type: "torus", diameter: 20, section: 6, at: [20, 15, 20] },
    { id: "s", type: "seam", preset: "subtract", stock: ["a"], cutters: ["r"] },
    { id: "f", type: "fillet", edges: [{ body: "s", print: { at: [20, 0, 20] } }], radius: 1 },
  ]);
let last = 0;
for (let i = 0; i < Number(process.argv[2]); i++) {
  const cache = new ResultCache();
  evaluatePart(job(i), job(i).parts[0]!, { cache, file: () => undefined });
  cache.clear();
  const now = kernelHeapBytes();
  if (now !== last) console.log(i, (now / 2 ** 20).toFixed(1), "+", ((now - last) / 2 ** 20).toFixed(1));
  last = now;
}
