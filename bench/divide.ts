import { evaluatePart, ResultCache } from "../src/core/evaluate";
import { isBody } from "../src/core/items";
import { diagonal, freeShape, looseBoxOf, makePlaneFace, type Shape, viewDeflection } from "../src/core/kernel";
import { bareMesh, bareSplit } from "../src/core/kernel/divide/bare";
import { jobOf } from "../src/core/testing/harness";
import { EngineSession } from "../src/engine/session";
import { median, show, time } from "./ratios";

/** Three families of planes through a block. */
function planesOf(count: number): { base: string; offset: number }[] {
  return ["yz", "zx", "xy"].flatMap((base) =>
    Array.from({ length: count }, (_, i) => ({ base, offset: -40 + (80 * (i + 1)) / (count + 1) })),
  );
}

const WAYS = { yz: [1, 0, 0], zx: [0, 1, 0], xy: [0, 0, 1] } as const;

/**
 * Dividing a block by planes until every piece could be shown, beside the tray and in the view, against the library's splitter and its
 * meshes of the pieces.
 */
export async function pieces(rounds: number): Promise<void> {
  for (const count of [2, 4]) {
    const planes = planesOf(count);
    const block = (size: number) => ({ id: "a", type: "box", size: [80, 80, size], at: [0, 0, -size / 2] });
    const steps = (size: number) => [
      block(size),
      ...planes.map((plane, i) => ({ id: `w${i}`, type: "workplane", ...plane })),
      { id: "s", type: "seam", preset: "split", stock: ["a"], cutters: planes.map((_, i) => `w${i}`) },
    ];
    const session = new EngineSession({
      load: async () => {},
      loadTriangles: async () => {},
      fetch: async () => null,
      store: async () => {},
    });
    const ours = async (size: number) => {
      const job = jobOf(steps(size));
      const start = performance.now();
      const { answer } = await session.run("evaluate", { job, part: "part", upTo: "s", pieces: "s", known: [] });
      const took = performance.now() - start;
      if (answer.pieces?.length !== (count + 1) ** 3) throw new Error(`${answer.pieces?.length} pieces`);
      return took;
    };
    const knives = planes.map(({ base, offset }): Shape => {
      const way = WAYS[base as keyof typeof WAYS];
      return makePlaneFace([way[0] * offset, way[1] * offset, way[2] * offset], way, 200);
    });
    const theirs = (size: number) => {
      const job = jobOf([block(size)]);
      const { bench } = evaluatePart(job, job.parts[0]!, { cache: new ResultCache(), file: () => undefined });
      const [stock] = bench.flatMap(({ item }) => (isBody(item) ? [item.shape] : []));
      return time(() => {
        for (const piece of bareSplit(stock!, knives)) {
          bareMesh(piece, viewDeflection(diagonal(looseBoxOf(piece)!)));
          freeShape(piece);
        }
      });
    };
    const warm = count === 2 ? 12 : 5;
    for (let i = 0; i < warm; i++) {
      await ours(80 + i / 100);
      theirs(80 + i / 100);
    }
    const ratios: number[] = [];
    for (let i = 0; i < rounds; i++) {
      const own = await ours(81 + i / 100);
      ratios.push(own / theirs(81 + i / 100));
    }
    for (const knife of knives) freeShape(knife);
    show(`${(count + 1) ** 3} pieces with their meshes, to the bare splitter and meshing`, median(ratios), "≤ 1.3");
  }
}
