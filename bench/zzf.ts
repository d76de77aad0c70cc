import { build, jobOf } from "../src/core/testing/harness";
import { loadNodeKernel } from "../src/core/kernel/node";
import { allEdgeFacts } from "../src/core/kernel";
import { edgeRefOf } from "../src/core/naming/edge-ref";
await loadNodeKernel();
const pt = (id: string, x: number, y: number) => ({ id, type: "point", x, y });
const spline = [{ id: "ks", type: "sketch", on: "zx", entities: [pt("a", -60, 5), pt("b", 60, 5), pt("m", 0, -3), { id: "sp", type: "spline", points: ["a", "m", "b"], form: "through", closed: false }] }, { id: "k", type: "extrude", sketch: ["ks"], as: "sheet", extent: "symmetric", distance: 200 }];
const wave = [{ id: "ks", type: "sketch", on: "xy", entities: [pt("a", -50, 3), pt("c", -25, -8), pt("d", 0, 7), pt("e", 25, -6), pt("f", 50, 4), { id: "sp", type: "spline", points: ["a", "c", "d", "e", "f"], form: "through", closed: false }] }, { id: "k", type: "extrude", sketch: ["ks"], as: "sheet", extent: "symmetric", distance: 100 }];
const rise = 10 - 80 + Math.sqrt(80 * 80 - 3600);
const arc = [{ id: "ks", type: "sketch", on: "zx", entities: [pt("c", 0, -70), pt("a", -60, rise), pt("b", 60, rise), { id: "ar", type: "arc", centre: "c", from: "b", to: "a" }] }, { id: "k", type: "extrude", sketch: ["ks"], as: "sheet", extent: "symmetric", distance: 200 }];
const plane = [{ id: "k", type: "workplane", base: "yz", offset: 7 }];
const round: any = { ball: { id: "b", type: "sphere", diameter: 50 }, standing: { id: "b", type: "cylinder", diameter: 50, height: 60, at: [0, 0, -30] }, lying: { id: "b", type: "cylinder", diameter: 50, height: 60, at: [-30, 0, 0], axis: "x" } };
const wedge = (angle: number): any[] => [{ id: "sk", type: "sketch", on: "zx", entities: [pt("c", 0, 0), pt("a", 0, -20), pt("b", 0, 20), { id: "ar", type: "arc", centre: "c", from: "a", to: "b" }, { id: "l", type: "line", from: "b", to: "a" }] }, { id: "s", type: "revolve", sketch: ["sk"], axis: "line", line: "l", extent: "angle", angle }];
const jobs: [string, any[]][] = [];
for (const [bn, b] of Object.entries(round)) for (const [kn, k] of Object.entries({ plane, spline, wave, arc }) as any) jobs.push([`${bn} ${kn}`, [b, ...k, { id: "s", type: "seam", preset: "split", stock: ["b"], cutters: ["k"], keepCutters: false }]]);
for (const a of [60, 90, 180, 270]) jobs.push([`wedge ${a}`, wedge(a)]);
const only = process.argv[2];
let bad = 0, all = 0;
for (const [name, steps] of jobs) {
  if (only && !name.includes(only)) continue;
  const before = build(jobOf(steps));
  for (const piece of before.bodies.filter((x: any) => x.id.startsWith("s:"))) {
    const edges = allEdgeFacts(piece.shape).flatMap((f: any, i: number) => f ? [i] : []);
    const refs = edges.map((e: number) => { try { return edgeRefOf(piece as any, e); } catch { return null; } });
    const tries: [string, any[]][] = [["all", refs.filter(Boolean)], ...refs.map((r: any, i: number) => [`e${i}`, r ? [r] : []] as [string, any[]])];
    for (const type of ["fillet", "chamfer"]) for (const [what, es] of tries) {
      if (es.length === 0) continue;
      all++;
      const t = performance.now();
      let r: any; try { r = build(jobOf([...steps, { id: "f", type, edges: es, ...(type === "fillet" ? { radius: 1 } : { distance: 1 }) }])).step("f"); } catch (e: any) { r = { state: "threw", error: { message: e.message } }; }
      const ms = performance.now() - t;
      if (r.state !== "good" || ms > 6000) { bad++; console.log(name, piece.id.slice(0, 12), type, what, `${es.length} of ${edges.length}`, r.state, r.error?.message?.slice(0, 110) ?? r.warnings?.map((w: any) => w.message.slice(0, 90)).join(), Math.round(ms)); }
    }
  }
}
console.log(bad, "of", all);
