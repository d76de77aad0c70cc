import { build, jobOf } from "../src/core/testing/harness";
import { loadNodeKernel } from "../src/core/kernel/node";
import { incidenceOf } from "../src/core/kernel/incidence";
import { allEdgeFacts } from "../src/core/kernel";
await loadNodeKernel();
for (const off of [7, 10, 0, -7]) {
const b = build(jobOf([{ id: "b", type: "sphere", diameter: 50 }, { id: "k", type: "workplane", base: "yz", offset: off }, { id: "s", type: "seam", preset: "split", stock: ["b"], cutters: ["k"], keepCutters: false }]));
for (const p of b.bodies.filter((x: any) => x.id.startsWith("s:"))) {
  const st = incidenceOf(p.shape);
  console.log(off, p.id, st.faces.map((f: any) => f.surface.kind + " " + f.wires.map((w: any) => w.map((u: any) => u.edge + (u.way > 0 ? "+" : "-")).join(",")).join("|")).join(" ; "));
  console.log("   ", st.edges.map((e: any, i: number) => `${i}:${e.curve?.curve.kind} ${e.point} uses ${e.uses} faces ${e.faces} len ${(allEdgeFacts(p.shape)[i] as any)?.length?.toFixed(3)} v ${e.vertices.map((v: number) => st.vertices[v]!.at.map((x: number) => x.toFixed(2)).join(","))}`).join("\n    "));
}}
