import { beforeAll, expect, test } from "vitest";
import { roughSkin } from "../kernel";
import { loadNodeKernel } from "../kernel/library/node";
import { build, jobOf } from "../testing/harness";
import { readMark, writeMark } from "./mark";

beforeAll(loadNodeKernel);

/** A point of a wave: its name, where it is along the bar, and whether the wave is high there. */
type Crest = [name: string, x: number, high: boolean];

const WAVE: Crest[] = [
  ["a", -50, false],
  ["b", -30, true],
  ["c", -10, false],
  ["d", 10, true],
  ["e", 30, false],
  ["f", 50, true],
];

/** A bar of 20 × 20 mm, cut along a wave that reaches over its top and under its bottom: five lumps, all with the same faces. */
function cutBar(wave: Crest[], more: { length?: number; fates?: unknown[]; dip?: Record<string, number> } = {}) {
  const points = wave.map(([id, x, high]) => ({ id, type: "point", x: -x, y: more.dip?.[id] ?? (high ? 22 : -2) }));
  return jobOf([
    { id: "bar", type: "box", size: [more.length ?? 80, 20, 20] },
    {
      id: "wave",
      type: "sketch",
      on: "zx",
      entities: [
        ...points,
        { id: "s", type: "spline", points: points.map(({ id }) => id), form: "through", closed: false },
      ],
    },
    { id: "sheet", type: "extrude", sketch: ["wave"], as: "sheet", extent: "symmetric", distance: 40 },
    { id: "cut", type: "seam", stock: ["bar"], cutters: ["sheet"], fates: more.fates ?? [] },
  ]);
}

const middle = ({ box }: { box: { min: readonly number[]; max: readonly number[] } | null }) =>
  (box!.min[0]! + box!.max[0]!) / 2;

/** A decision on the lump that lies over the wave's point at `x`. */
function ruleAt(x: number) {
  const built = build(cutBar(WAVE), { pieces: "cut" });
  const found = built.reports.findIndex((report) => report.id.startsWith("cut:") && Math.abs(middle(report) - x) < 6);
  const id = built.reports[found]!.id.slice("cut:".length);
  const { piece } = built.pieces!.find(({ piece }) => piece.key === id)!;
  return { piece: { kind: piece.kind, faces: piece.faces, mark: piece.mark }, fate: "group", group: "Chosen" };
}

/** Where the chosen lump is in an edited job; null where the program asks. */
function chosenIn(wave: Crest[], more: Parameters<typeof cutBar>[1], x: number) {
  const built = build(cutBar(wave, { ...more, fates: [ruleAt(x)] }));
  const step = built.step("cut");
  const found = built.reports.find(({ id }) => id.startsWith("cut:group:Chosen"));
  if (!found) expect(step.warnings.map(({ code }) => code)).toContain("check-pieces");
  return found ? middle(found) : null;
}

test("a lump stays with the points of the wave that it lies at: moved by a whole wave, stretched, and on a longer bar", () => {
  const moved = WAVE.map(([id, x, high]): Crest => [id, x - 40, high]);
  const more: Crest[] = [...moved, ["g", 30, false], ["h", 50, true]];
  // By its place it would be another, which lies there now.
  expect(chosenIn(more, { length: 100 }, 10)).toBeCloseTo(-30, -1);
  const stretched = WAVE.map(([id, x, high]): Crest => [id, 1.3 * x, high]);
  expect(chosenIn(stretched, {}, -10)).toBeCloseTo(-13, -1);
  expect(chosenIn(WAVE, { length: 96 }, 10)).toBeCloseTo(10, -1);
});

test("a point put into the wave elsewhere changes nothing; run together with the next lump it is asked", () => {
  const more: Crest[] = [...WAVE.slice(0, 2), ["new", -20, false], ...WAVE.slice(2)];
  expect(chosenIn(more, { dip: { new: 10 } }, 10)).toBeCloseTo(10, -1);
  // The wave stays in the bar at d: what lies over c and over e is one lump now.
  expect(chosenIn(WAVE, { dip: { d: 12 } }, -10)).toBeNull();
});

test("a mark is read as it was written, with spans and without", () => {
  const text = writeMark({
    own: [],
    shared: ["aaaaa"],
    others: [],
    beyond: [],
    telling: 0,
    of: 3,
    total: 1,
    at: ["bbbbb"],
    past: ["ccccc", "ddddd"],
    twin: { count: 3, gap: 1, next: 2, size: 3, spots: [{ tag: "eeeee", at: [1, 2, 3], among: [0, 0, 1] }] },
  });
  expect(readMark(text)).toMatchObject({ of: 3, at: ["bbbbb"], past: ["ccccc", "ddddd"], twin: { count: 3 } });
  const older = text.replace("=bbbbb.cccccddddd", "");
  expect(older).not.toBe(text);
  expect(readMark(older)).toMatchObject({ at: [], past: [], twin: { count: 3 } });
});

test("the lump at the bar's end is asked about when the wave is drawn wider: the next crest's lump has come to its face", () => {
  const points = (half: number): Crest[] =>
    Array.from({ length: 21 }, (_, i): Crest => [`p${i}`, (i - 10) * half, i % 2 === 0]);
  const first = build(cutBar(points(12), { length: 100 }), { pieces: "cut" });
  // Under the crest at −48, of which the bar's end leaves two thirds; half as wide again, that crest lies beyond the end.
  const end = first.pieces!.find(({ shape }) => Math.abs(roughSkin(shape).centre[0] + 45.66) < 0.1)!;
  const { kind, faces, mark } = end.piece;
  const rule = { piece: { kind, faces, mark }, fate: "group", group: "Chosen" };
  const edited = build(cutBar(points(18), { length: 100, fates: [rule] }));
  expect(edited.reports.filter(({ id }) => id.includes("group:Chosen"))).toEqual([]);
  expect(edited.step("cut").warnings.map(({ code }) => code)).toContain("check-pieces");
  // A little wider it still lies at its own spans, and is found.
  const near = build(cutBar(points(12.3), { length: 100, fates: [rule] }));
  expect(near.reports.filter(({ id }) => id.includes("group:Chosen"))).toHaveLength(1);
  expect(near.step("cut").warnings.map(({ code }) => code)).not.toContain("check-pieces");
});

test("the only lump of its kind is asked about when another crest has come to its place", () => {
  // A bar shorter than the wave: one lump under it, at either crest the same in place, size and faces.
  const short = (from: number): Crest[] =>
    Array.from({ length: 13 }, (_, i): Crest => [`p${i}`, (i + from - 6) * 20, i % 2 === 0]);
  const first = build(cutBar(short(0), { length: 30 }), { pieces: "cut" });
  const under = first.pieces!.find(({ shape }) => roughSkin(shape).centre[2] < 10)!;
  expect(first.pieces!.filter(({ piece }) => piece.kind === under.piece.kind)).toHaveLength(1);
  const { kind, faces, mark } = under.piece;
  const fates = [{ piece: { kind, faces, mark }, fate: "group", group: "Chosen" }];
  const chosen = (wave: Crest[]) => {
    const built = build(cutBar(wave, { length: 30, fates }));
    const asked = built.step("cut").warnings.some(({ code }) => code === "check-pieces");
    return { found: built.reports.some(({ id }) => id.includes("group:Chosen")), asked };
  };
  expect(chosen(short(0))).toEqual({ found: true, asked: false });
  expect(chosen(short(0.1))).toEqual({ found: true, asked: false });
  for (const pitches of [2, -2]) expect(chosen(short(pitches)), `${pitches}`).toEqual({ found: false, asked: true });
});
