import { beforeAll, expect, test } from "vitest";
import { freePieces } from "../evaluate";
import { contains, innerPoint, volumeOf } from "../kernel";
import { loadNodeKernel } from "../kernel/library/node";
import { build, jobOf, relative } from "../testing/harness";
import { WHOLE } from "../testing/sample";
import { Random } from "../testing/trust/random";
import { pieceRefOf } from "./fates";
import type { Piece } from "./piece";

const SCENES = WHOLE ? 14 : 8;

beforeAll(loadNodeKernel);

type Step = { id: string; type: string } & Record<string, unknown>;

/** A block with planes, bars and balls through it by chance; some of them cut. */
function scene(random: Random): { given: Step[]; cutters: string[] } {
  const plane = (id: string): Step => ({
    id,
    type: "workplane",
    base: random.pick(["xy", "yz", "zx"]),
    offset: random.nice(-12, 28, 1) + 0.5,
  });
  const bar = (id: string): Step => ({
    id,
    type: "cylinder",
    axis: random.pick(["x", "y", "z"]),
    diameter: random.nice(6, 14, 1),
    height: random.nice(20, 80, 5),
    at: [random.nice(-20, 20, 1), random.nice(-12, 12, 1), random.nice(-10, 30, 1)],
  });
  const ball = (id: string): Step => ({
    id,
    type: "sphere",
    diameter: random.nice(8, 24, 1),
    at: [random.nice(-30, 30, 1), random.nice(-20, 20, 1), random.nice(0, 40, 1)],
  });
  const cutters = Array.from({ length: random.whole(2, 4) }, (_, i) => random.pick([plane, plane, bar, ball])(`k${i}`));
  return { given: [{ id: "a", type: "box", size: [60, 40, 40] }, ...cutters], cutters: cutters.map(({ id }) => id) };
}

const cut = (cutters: readonly string[], fates: unknown[] = []): Step => ({
  id: "s",
  type: "seam",
  preset: "split",
  stock: ["a"],
  cutters,
  fates,
});

function pieces(given: Step[], cutters: readonly string[], fates: unknown[] = []) {
  const built = build(jobOf([...given, cut(cutters, fates)]), { pieces: "s" });
  return { built, report: built.step("s"), found: built.pieces ?? [] };
}

/**
 * The law: where a step gets another cutter, or loses one, what was decided of a piece stays with it if it is as it was, and is asked about
 * with its parts among the answers if it is not. Points tell: one within each piece.
 */
test("decisions when a cutter comes or goes: with the same piece, or asked about with its parts; never with another", () => {
  let [kept, asked, moved, missed] = [0, 0, 0, 0];
  for (let seed = 0; seed < SCENES; seed++) {
    const random = new Random(81_000 + seed);
    const { given, cutters } = scene(random);
    const dropped = random.pick(cutters);
    const fewer = cutters.filter((id) => id !== dropped);
    for (const [before, after] of [
      [fewer, cutters],
      [cutters, fewer],
    ] as const) {
      if (before.length === 0 || after.length === 0) continue;
      const first = pieces(given, before);
      if (first.report.error) continue;
      const chosen = random.pick(first.found);
      const fate = { piece: pieceRefOf(chosen.source as Piece), fate: "scrap" };
      const inside = innerPoint(chosen.shape)!;
      const parts = pieces(given, after, [fate]);
      if (parts.report.error) {
        freePieces(first.found);
        continue;
      }
      const what = `seed ${seed}, ${chosen.piece.kind}, ${before} to ${after}`;
      // Its parts, or what it is a part of.
      const own = parts.found.filter(({ shape }) => {
        const point = innerPoint(shape);
        return contains(shape, inside) || (point !== null && contains(chosen.shape, point));
      });
      const scrapped = parts.found.filter(({ fate: given }) => given.fate === "scrap");
      const questions = parts.report.warnings.filter(({ code }) => code === "check-pieces");
      if (scrapped.length > 0) {
        kept++;
        expect(scrapped, what).toHaveLength(1);
        expect(
          own.map(({ piece }) => piece.index),
          what,
        ).toEqual([scrapped[0]!.piece.index]);
      } else {
        asked++;
        expect(questions, what).toHaveLength(1);
        for (const { piece } of own) expect(questions[0]!.pieces, what).toContain(piece.key);
      }
      // The body that was made of it, by its name in a later step.
      const id = first.built.bodies.find(({ id, shape }) => id.startsWith("s:") && contains(shape, inside))!.id;
      const later = build(jobOf([...given, cut(after), { id: "m", type: "move", bodies: [id], by: [0, 0, 500] }]));
      if (later.step("m").state === "failed") missed++;
      else {
        moved++;
        expect(own, what).toHaveLength(1);
        const gone = later.bodies.filter(({ shape }) => contains(shape, [inside[0], inside[1], inside[2] + 500]));
        expect(gone, what).toHaveLength(1);
        expect(relative(volumeOf(gone[0]!.shape), volumeOf(own[0]!.shape)), what).toBeLessThan(1e-4);
      }
      freePieces(first.found);
      freePieces(parts.found);
    }
  }
  expect(kept).toBeGreaterThan(SCENES / 3);
  expect(asked).toBeGreaterThan(SCENES / 3);
  expect(moved).toBeGreaterThan(SCENES / 3);
  expect(missed).toBeGreaterThan(SCENES / 3);
});
