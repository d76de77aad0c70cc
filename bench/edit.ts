import { evaluatePart, type FoundReference, ResultCache } from "../src/core/evaluate";
import { isBody } from "../src/core/items";
import {
  boxOf,
  diagonal,
  edgeHandles,
  freeShape,
  makeBox,
  makeCylinder,
  makePlaneFace,
  type Shape,
  tessellate,
  viewDeflection,
} from "../src/core/kernel";
import { type BareOperation, bare, bareEdges, bareMeasures } from "../src/core/kernel/divide/bare";
import { SIZES, sized, thirtySteps } from "../src/core/testing/thirty-steps";
import { EngineSession } from "../src/engine/session";
import { median, show, time } from "./ratios";

/**
 * A value changed in the part of thirty steps, until the page could draw it (bodies, names, measures, meshes), against the
 * library's own time for the operations that it calls for, and for meshing and measuring what is seen.
 */
export async function editToPicture(rounds: number): Promise<void> {
  const steps = thirtySteps();
  const session = new EngineSession({
    load: async () => {},
    loadTriangles: async () => {},
    fetch: async () => null,
    store: async () => {},
  });
  let known: string[] = [];
  const ours = async (bore: number) => {
    const job = sized(steps, { bore });
    const start = performance.now();
    const { answer } = await session.run("evaluate", { job, part: "part", known });
    const { items, steps: reports } = answer;
    const took = performance.now() - start;
    const bad = reports.find(({ state }) => state !== "good");
    if (bad) throw new Error(`${bad.id}: ${bad.error?.message}`);
    known = items.flatMap((item) => ("meshId" in item ? [item.meshId] : []));
    return took;
  };
  const theirs = bareWork(steps);
  for (let i = 0; i < 18; i++) {
    await ours(14 + i / 100);
    for (const work of theirs) work();
  }
  const ratios: number[] = [];
  for (let i = 0; i < rounds; i++) {
    const own = await ours(14.2 + i / 100);
    ratios.push(
      own /
        time(() => {
          for (const work of theirs) work();
        }),
    );
  }
  show("30 steps, a value changed at step 5: edit to picture, to bare kernel", median(ratios), "≤ 1.25");
}

/** What the library alone has to do when the bore changes: each operation on the bodies that it meets in the part. */
function bareWork(steps: ReturnType<typeof thirtySteps>): (() => void)[] {
  const job = sized(steps);
  const found: FoundReference[] = [];
  const { results, steps: reports } = evaluatePart(job, job.parts[0]!, {
    cache: new ResultCache(),
    file: () => undefined,
    onReference: (reference) => found.push(reference),
  });
  const shapes = (id: string): Shape[] =>
    results
      .get(reports.find((report) => report.id === id)!.key!)!
      .made.flatMap((item) => (isBody(item) ? [item.shape] : []));
  const [p, half] = [SIZES, SIZES.width / 2];
  const edges = (work: "fillet" | "chamfer", id: string, size: number) => {
    const picked = found.filter((reference) => reference.step === id);
    const { shape } = picked[0]!.body;
    const handles = picked.map(({ place }) => edgeHandles(shape)[place]!);
    return () => bareEdges(work, shape, handles, size);
  };
  const pocketX = -0.3 * p.width;
  // What stands on a face that depends on the bore is made anew, too.
  const bore = () => makeCylinder([0, 0, -1], [0, 0, 1], p.bore / 2, p.height + p.postHigh + 1);
  const slot = () =>
    makeBox([half - p.slotDeep, -p.slotWide / 2, (p.height - p.slotHigh) / 2], [p.slotDeep, p.slotWide, p.slotHigh]);
  const pocket = () =>
    makeBox([pocketX - p.pocketWide / 2, -p.pocketLong / 2, 0], [p.pocketWide, p.pocketLong, p.pocketDeep]);
  const knob = () => makeCylinder([-0.36 * p.width, 0, p.height], [0, 0, 1], p.knob, p.knobHigh);
  const middle = () => makePlaneFace([0, 0, 0], [1, 0, 0], 400);
  const made =
    (operation: BareOperation, stock: string, make: () => Shape, merge = false) =>
    () => {
      const tool = make();
      bare(operation, shapes(stock), [tool], merge);
      freeShape(tool);
    };
  const halves = [...shapes("ribEnd"), ...shapes("halves").slice(1)];
  return [
    made("subtract", "post", bore),
    () => bare("union", shapes("bore"), shapes("rib")),
    edges("fillet", "corners", p.corner),
    edges("chamfer", "rim", p.rim),
    made("subtract", "rim", slot),
    () => bare("subtract", shapes("slot"), [...shapes("drill"), ...shapes("drills")]),
    made("subtract", "drilled", pocket),
    edges("chamfer", "lip", p.lip),
    () => bare("union", shapes("lip"), shapes("lug"), true),
    edges("fillet", "lugCorners", p.lugCorner),
    () => bare("subtract", shapes("lugCorners"), shapes("lugDrill")),
    made("union", "lugDrilled", knob),
    edges("fillet", "knobRound", p.knobRound),
    // A half whose round faces were begun on the cut has them whole again: that is part of what is asked for.
    made("split", "knobRound", middle, true),
    edges("chamfer", "ribEnd", p.ribCut),
    () => {
      for (const shape of halves) {
        tessellate(shape, viewDeflection(diagonal(boxOf(shape)!)));
        bareMeasures(shape);
      }
    },
  ];
}
