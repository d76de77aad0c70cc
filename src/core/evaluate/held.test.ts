import { beforeAll, describe, expect, test } from "vitest";
import { isBody } from "../items";
import { kernelHeapBytes, volumeOf } from "../kernel";
import { loadNodeKernel } from "../kernel/library/node";
import { jobOf } from "../testing/harness";
import { Random } from "../testing/trust/random";
import { tighten } from "../testing/trust/tight";
import { ResultCache } from "./cache";
import { evaluatePart } from "./evaluate";
import { freePieces } from "./free";
import { Held } from "./held";
import type { EvaluateOptions, PartResult } from "./types";

beforeAll(loadNodeKernel);

type Values = Record<string, unknown>;

/** A job under the hand of someone who tries out: what stands before the open step, and that step. */
interface Sheet {
  before: Values[];
  open: Values & { fates: Values[]; cutters: string[]; stock: string[] };
}

const plane = (id: string, base: string, offset: number) => ({ id, type: "workplane", base, offset });

/** A sketch of one line. */
const drawnLine = (id: string, from: [number, number], to: [number, number], more: Values = {}) => ({
  id,
  type: "sketch",
  ...more,
  entities: [
    { id: "a", type: "point", x: from[0], y: from[1] },
    { id: "b", type: "point", x: to[0], y: to[1] },
    { id: "l", type: "line", from: "a", to: "b" },
  ],
});

const SHEETS: Record<string, () => Sheet> = {
  "a block cut by planes, a bar and a face": () => ({
    before: [
      { id: "block", type: "box", size: [60, 40, 20] },
      plane("p", "yz", 5),
      plane("q", "zx", -4),
      { id: "bar", type: "cylinder", diameter: 9, height: 50, at: [12, 6, -10] },
      { id: "step", type: "box", size: [20, 60, 40], at: [-20, 0, -10] },
    ],
    open: {
      id: "cut",
      type: "seam",
      preset: "split",
      stock: ["block"],
      cutters: ["p", "q", "bar"],
      cutterFaces: [{ body: "step:block", face: "step:side:x+" }],
      fates: [],
    },
  }),
  "two balls and a block on one another": () => ({
    before: [
      { id: "a", type: "sphere", diameter: 30 },
      { id: "b", type: "sphere", diameter: 24, at: [14, 3, 1] },
      { id: "c", type: "box", size: [30, 30, 30], at: [4, 8, 6] },
    ],
    open: { id: "cut", type: "seam", preset: "union", stock: ["a", "b"], cutters: ["c"], fates: [] },
  }),
  "a sheet cut by a drawn line and a plane": () => ({
    before: [
      drawnLine("wall", [-25, 0], [25, 0], { on: "zx" }),
      { id: "skin", type: "extrude", sketch: ["wall"], as: "sheet", extent: "symmetric", distance: 40 },
      drawnLine("line", [-40, 3], [40, 9]),
      plane("p", "yz", 7),
    ],
    open: { id: "cut", type: "seam", preset: "split", stock: ["skin"], cutters: ["line", "p"], fates: [] },
  }),
};

/** All by which a result is found, told, seen or made: with volumes, so that a piece in another's place shows. */
const known = ({ steps, bench, pieces }: PartResult) => ({
  steps: steps.map(({ ms: _ms, ...step }) => step),
  bench: bench.map(({ item, name, was }) => ({
    id: item.id,
    name,
    was,
    ...(isBody(item) ? { faces: item.faces, volume: volumeOf(item.shape).toFixed(6) } : {}),
  })),
  pieces: pieces?.map(({ source: _source, shape, ...piece }) => ({ ...piece, volume: volumeOf(shape).toFixed(6) })),
});

const PRESETS = ["split", "trim", "subtract", "union", "intersect"];

/** Something that a person does next. */
function change(sheet: Sheet, shown: PartResult, random: Random): void {
  const { open, before } = sheet;
  const what = random.whole(0, 9);
  const piece = shown.pieces?.length ? random.pick(shown.pieces).piece : null;
  if (what <= 3 && piece) {
    const fate = random.pick(["keep", "scrap", "group"]);
    open.fates.push({
      piece: { kind: piece.kind, faces: piece.faces, mark: piece.mark },
      fate,
      ...(fate === "group" ? { group: random.pick(["one", "two"]) } : {}),
    });
  } else if (what === 4) open.preset = random.pick(PRESETS);
  else if (what === 5) open.keepSide = { [random.pick(open.cutters)]: random.pick(["front", "back", "in", "out"]) };
  else if (what === 6) {
    const step = random.pick(before.filter(({ type }) => type === "workplane" || type === "sphere" || type === "box"));
    if (step.type === "workplane") step.offset = random.between(-6, 6);
    else if (step.type === "sphere") step.diameter = random.between(22, 32);
    else step.size = [random.between(40, 60), 40, random.between(14, 22)];
  } else if (what === 7) open.cutters = [...open.cutters].reverse();
  else if (what === 8 && open.cutterFaces) open.runOn = open.runOn !== true;
  else if (what === 9) open.fates = [];
}

describe("what an open division holds", () => {
  test.each(Object.entries(SHEETS))("%s: the same as made anew, whatever is tried out", (name, make) => {
    const random = new Random(name.length * 7919 + Number(process.env.PROOF_SEED ?? 0));
    const sheet = make();
    const [held, cache] = [new Held(), new ResultCache()];
    const open = (options: Partial<EvaluateOptions>) => {
      const job = jobOf(structuredClone([...sheet.before, sheet.open]));
      return evaluatePart(job, job.parts[0]!, {
        cache: new ResultCache(),
        file: () => undefined,
        upTo: "cut",
        pieces: "cut",
        ...options,
      });
    };
    let good = 0;
    // What cannot be done is taken back.
    let last = structuredClone(sheet);
    for (let i = 0; i < 40; i++) {
      const anew = new ResultCache();
      const expected = open({ cache: anew });
      const result = open({ cache, held });
      expect(known(result), `change ${i}`).toEqual(known(expected));
      if (expected.steps.at(-1)!.state === "failed") Object.assign(sheet, structuredClone(last));
      else {
        good++;
        last = structuredClone(sheet);
      }
      change(sheet, expected, random);
      freePieces(expected.pieces ?? []);
      freePieces(result.pieces ?? []);
      anew.clear();
      // Now and then nothing else is kept: what is held must not lean on it.
      if (i % 9 === 8) cache.clear();
    }
    expect(good).toBeGreaterThan(20);
    // It was worth it, and it was made anew where it had to be.
    expect(held.count.known).toBeGreaterThan(8);
    expect(held.count.made).toBeGreaterThan(4);
    held.clear();
    cache.clear();
  });

  test("decisions without end leave nothing in the engine's memory", () => {
    const sheet = SHEETS["a block cut by planes, a bar and a face"]!();
    const [held, cache] = [new Held(), new ResultCache()];
    const decide = (i: number) => {
      const job = jobOf(structuredClone([...sheet.before, sheet.open]));
      const options = { cache, file: () => undefined, upTo: "cut", pieces: "cut", held };
      const { pieces } = evaluatePart(job, job.parts[0]!, options);
      const { kind, faces, mark } = pieces![i % pieces!.length]!.piece;
      sheet.open.fates = [{ piece: { kind, faces, mark }, fate: "scrap" }];
      freePieces(pieces!);
    };
    const loosen = tighten(0);
    for (let i = 0; i < 20; i++) decide(i);
    const before = kernelHeapBytes();
    for (let i = 0; i < 40; i++) decide(i);
    expect(kernelHeapBytes() - before).toBe(0);
    expect(held.count.made).toBe(1);
    loosen();
    held.clear();
    cache.clear();
  });
});
