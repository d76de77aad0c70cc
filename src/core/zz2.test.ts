import { test } from "vitest";
import { loadNodeKernel } from "./kernel/node";
import { buildSteps } from "./testing/harness";

const show = (label: string, b: any) =>
  console.log(
    ">>",
    label,
    b.steps.map((s: any) => s.state + (s.error?.code ?? "")).join(","),
    b.reports.map((r: any) => `${r.id.slice(0, 14)} ${r.volume?.toFixed(3)} ${r.closed} ${r.valid}`).join(" | "),
  );
test("x", async () => {
  await loadNodeKernel();
  for (const rot of [0, 33]) {
    const ring = { id: "a", type: "torus", diameter: 50, section: 14 };
    const pipe = { id: "b", type: "cylinder", diameter: 14, height: 20, at: [25, 0, 0], axis: "y" };
    show(
      "split zx",
      buildSteps(
        ring,
        pipe,
        { id: "h", type: "workplane", base: "zx" },
        { id: "q", type: "seam", stock: ["a"], cutters: ["h"], keepCutters: false },
        { id: "s", type: "seam", preset: "union", stock: ["q", "b"] },
      ),
    );
    show(
      "split 2",
      buildSteps(
        ring,
        pipe,
        { id: "h", type: "workplane", base: "zx" },
        { id: "v", type: "workplane", base: "xy" },
        { id: "q", type: "seam", stock: ["a"], cutters: ["h", "v"], keepCutters: false },
        { id: "q2", type: "seam", stock: ["b"], cutters: ["v"], keepCutters: false },
        { id: "s", type: "seam", preset: "union", stock: ["q", "q2"] },
      ),
    );
  }
  // elbow sector and pipes run on from it, outwards and turned
  for (const angle of [30, 45, 90, 120, 180, 200])
    for (const wall of [0, 2]) {
      const circ = (id: string, r: number) => ({ id, type: "circle", centre: "c", radius: r });
      const sk = {
        id: "sk",
        type: "sketch",
        on: "zx",
        entities: [{ id: "c", type: "point", x: -25, y: 0 }, circ("o", 7), ...(wall ? [circ("i", 7 - wall)] : [])],
      };
      const bend = { id: "bend", type: "revolve", sketch: ["sk"], axis: "y", angle };
      const ext = { id: "run", type: "extrude", sketch: ["sk"], distance: 20, flip: false };
      const b = buildSteps(sk, bend, ext, { id: "s", type: "seam", preset: "union", stock: ["bend", "run"] });
      const area = Math.PI * (49 - (wall ? (7 - wall) ** 2 : 0));
      show(
        `bend ${angle} wall ${wall} expect apart ${((area * 25 * angle * Math.PI) / 180).toFixed(3)} + ${(area * 20).toFixed(3)} = ${(area * ((25 * angle * Math.PI) / 180 + 20)).toFixed(3)}`,
        b,
      );
      const c = buildSteps(
        sk,
        bend,
        { ...ext, extent: "distance", distance: -20 },
        { id: "s", type: "seam", preset: "union", stock: ["bend", "run"] },
      );
      show("   other way", c);
    }
}, 600000);
