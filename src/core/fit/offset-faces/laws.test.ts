import { beforeAll, expect, test } from "vitest";
import type { Body } from "../../items";
import {
  add,
  areaOf,
  distanceToPoint,
  facesOf,
  freeShape,
  leastGap,
  normalNear,
  pointOnFace,
  scale,
  volumeOf,
} from "../../kernel";
import { loadNodeKernel } from "../../kernel/library/node";
import { bossedBody } from "../../testing/trust/bossed-body";
import { common } from "../../testing/trust/common";
import { meetingPairs } from "../../testing/trust/meeting-pairs";
import { Random } from "../../testing/trust/random";
import type { MovedFace } from "./moved";
import { type Offset, offsetFaces } from "./offset-faces";
import { originOf } from "./origin";

beforeAll(loadNodeKernel);

/** How many bodies are tried: a sample on every run, all of them by `npm run proof`. */
const BODIES = Number(process.env.PROOF_OFFSETS ?? 8);
const SEED = Number(process.env.PROOF_SEED ?? 7300);

/** A face goes by its name: one that stays on its surface, a moved one as far beside it as it was moved. What is gone is told. */
function holdNames(body: Body, moved: readonly MovedFace[], made: Offset, words: string): void {
  const by = new Map(moved.map((face) => [face.place, Math.abs(face.by)]));
  const found = new Set<number>();
  made.faces.forEach((name, at) => {
    const place = originOf(name, body.faces);
    expect(place, `${name}: ${words}`).toBeGreaterThanOrEqual(0);
    found.add(place);
    const on = pointOnFace(facesOf(made.shape)[at]!);
    expect(Math.abs(leastGap(body.shape, [place], on) - (by.get(place) ?? 0)), `${name}: ${words}`).toBeLessThan(1e-6);
  });
  expect(
    made.gone.filter((place) => found.has(place)),
    words,
  ).toEqual([]);
  // What is neither there nor gone has become one with another face that lies in its surface: where it was moved to is on the skin.
  body.faces.forEach((name, place) => {
    if (found.has(place) || made.gone.includes(place)) return;
    const face = facesOf(body.shape)[place]!;
    const at = pointOnFace(face);
    const there = add(at, scale(normalNear(face, at), moved.find((one) => one.place === place)?.by ?? 0));
    const gap = Math.min(...facesOf(made.shape).map((other) => distanceToPoint(other, there)?.gap ?? 1));
    expect(gap, `${name}: ${words}`).toBeLessThan(1e-6);
  });
}

test(`${BODIES} bodies by chance: faces moved out gain what they pass, moved in they lose it, and back again it is as it was`, () => {
  const counts = { made: 0, told: 0 };
  for (let i = 0; i < BODIES; i++) {
    const random = new Random(SEED + i);
    const { body, steps } = bossedBody(random);
    const by = random.pick([1e-3, 0.05, 0.5, 1.5]) * random.pick([1, -1]);
    const moved = facesOf(body.shape).flatMap((_, place): MovedFace[] => (random.chance(0.35) ? [{ place, by }] : []));
    if (moved.length === 0) moved.push({ place: random.whole(0, body.faces.length - 1), by });
    const words = JSON.stringify({ by, faces: moved.map(({ place }) => body.faces[place]), steps });
    const made = offsetFaces(body, moved);
    if ("why" in made) {
      expect(made.places.length, words).toBeGreaterThan(0);
      expect(
        made.places.every((place) => place >= 0),
        words,
      ).toBe(true);
      counts.told++;
      continue;
    }
    counts.made++;
    const [was, is] = [volumeOf(body.shape), volumeOf(made.shape)];
    const grown: Body = { ...body, id: "grown", ...made };
    const shared = common(body, grown);
    if (shared !== null) expect(shared / Math.min(was, is), words).toBeCloseTo(1, 7);
    if (Math.abs(by) === 1e-3) {
      // To the first order what a face gains is its area times how far it moves.
      const area = moved.reduce((sum, { place }) => sum + areaOf(facesOf(body.shape)[place]!), 0);
      expect(Math.abs((is - was) / by - area) / area, words).toBeLessThan(2e-3);
    }
    holdNames(body, moved, made, words);
    // Where other faces meet than before, the way back meets other faces, too.
    if (meetingPairs(body) === meetingPairs(grown)) {
      const back = moved.flatMap(({ place }) =>
        made.faces.flatMap((name, at) => (name === body.faces[place] ? [{ place: at, by: -by }] : [])),
      );
      const again = back.length === moved.length ? offsetFaces(grown, back) : null;
      if (again && !("why" in again)) {
        expect(volumeOf(again.shape) / was, words).toBeCloseTo(1, 7);
        freeShape(again.shape);
      }
    }
    freeShape(made.shape);
  }
  console.log(`offsets: ${BODIES}; made ${counts.made}, told ${counts.told}`);
  expect(counts.made).toBeGreaterThan(counts.told);
});
