import { beforeAll, expect, test } from "vitest";
import type { Body } from "../items";
import {
  boxOf,
  contains,
  distanceToPoint,
  facesOf,
  freeShape,
  KernelFault,
  placed,
  placedPoint,
  unsoundness,
  type Vec3,
  volumeOf,
} from "../kernel";
import { loadNodeKernel } from "../kernel/library/node";
import { buildSteps } from "../testing/harness";
import { common } from "../testing/trust/common";
import { Random } from "../testing/trust/random";
import { type Move, partOf, placementOf, sweptRoom } from ".";

beforeAll(loadNodeKernel);

/** How many bodies and moves are tried: a sample on every run, all of them by `npm run proof`. */
const COUNT = Number(process.env.PROOF_MOTIONS ?? 6);
const SEED = Number(process.env.PROOF_SEED ?? 15_700);

type Step = Record<string, unknown>;

/** A solid of one of several kinds, some with a bore or a notch. */
function bodyBy(random: Random): { body: Body; steps: Step[] } {
  const at = [random.nice(-30, 30, 5), random.nice(-30, 30, 5), random.nice(-10, 10, 5)];
  const first = random.pick<Step>([
    { id: "a", type: "box", size: [random.nice(10, 40, 5), random.nice(10, 40, 5), random.nice(10, 40, 5)], at },
    { id: "a", type: "cylinder", diameter: random.nice(10, 30, 5), height: random.nice(10, 40, 5), at },
    { id: "a", type: "sphere", diameter: random.nice(10, 30, 5), at },
    { id: "a", type: "wedge", length: 30, width: 20, height: 15, top: random.pick([0, 8]), at },
    { id: "a", type: "cone", diameter: 24, top: random.pick([0, 10]), height: 20, at },
  ]);
  const tool: Step = random.chance(0.5)
    ? { id: "t", type: "cylinder", diameter: 8, height: 200, at: [at[0], at[1], -100] }
    : { id: "t", type: "box", size: [8, 200, 8], at: [at[0], at[1], at[2]] };
  const cut: Step = { id: "c", type: "seam", preset: "subtract", stock: ["a"], cutters: ["t"], keepCutters: false };
  const steps = random.chance(0.4) && first.type !== "sphere" ? [first, tool, cut] : [first];
  const solids = buildSteps(...steps).bodies;
  return solids.length === 1 ? { body: solids[0]!, steps } : bodyBy(random);
}

function movesBy(random: Random): Move[] {
  return Array.from({ length: random.pick([1, 1, 1, 2]) }, (): Move => {
    if (random.chance(0.5)) {
      const by: Vec3 = random.pick([
        [random.nice(-40, 40, 5) || 5, 0, 0],
        [0, 0, random.nice(-40, 40, 5) || 5],
        [random.between(-40, 40), random.between(-40, 40), random.between(-40, 40)],
      ]);
      return { kind: "straight", by };
    }
    const at: Vec3 = [random.nice(-40, 40, 5), random.nice(-40, 40, 5), 0];
    const axis: Vec3 = random.pick([
      [0, 0, 1],
      [0, 0, 1],
      [1, 0, 0],
    ]);
    const degrees = random.pick([30, 90, -135, 180, 270, 360]);
    return { kind: "turn", at, axis, angle: (degrees * Math.PI) / 180 };
  });
}

/** The poses of the way, from the beginning to where a part of a chain of moves has come. */
function posed(moves: readonly Move[], part: number) {
  const reached = part * moves.length;
  return moves.flatMap((move, i) => (reached > i ? [placementOf(partOf(move, Math.min(1, reached - i)))] : []));
}

test(`${COUNT} bodies and moves by chance: the room holds the body all along its way, and nothing is in it that was never passed`, () => {
  const counts = { made: 0, free: 0, undivided: 0 };
  for (let i = 0; i < COUNT; i++) {
    const random = new Random(SEED + i);
    const { body, steps } = bodyBy(random);
    const moves = movesBy(random);
    const words = `${SEED + i}: ${JSON.stringify({ steps, moves })}`;
    let swept: ReturnType<typeof sweptRoom>;
    try {
      swept = sweptRoom(body, moves);
    } catch (cause) {
      if (!(cause instanceof KernelFault)) throw cause;
      counts.undivided++;
      continue;
    }
    if ("why" in swept) {
      expect(swept.why, words).toBe("free");
      expect(
        swept.places.every((place) => place >= 0 && place < body.faces.length),
        words,
      ).toBe(true);
      counts.free++;
      continue;
    }
    counts.made++;
    const room: Body = { ...body, id: "room", shape: swept.shape, faces: swept.faces };
    expect(unsoundness(room.shape, "solid"), words).toBeNull();
    const own = volumeOf(body.shape);
    for (let k = 0; k <= 20; k++) {
      const poses = posed(moves, k / 20);
      let shape = body.shape;
      for (const pose of poses) {
        const next = placed(shape, pose);
        if (shape !== body.shape) freeShape(shape);
        shape = next;
      }
      const held = common({ ...body, id: "there", shape }, room);
      if (held !== null) expect(Math.abs(held / own - 1), `${k}, ${words}`).toBeLessThan(1e-6);
      if (shape !== body.shape) freeShape(shape);
    }
    const { min, max } = boxOf(room.shape)!;
    const skin = facesOf(room.shape);
    for (let n = 0; n < 60; n++) {
      const at = min.map((low, k) => random.between(low - 2, max[k]! + 2)) as unknown as Vec3;
      const visited = Array.from({ length: 121 }, (_, k) => k / 120).some((part) => {
        // The way back: each pose undone, the last first.
        const there = posed(moves, part).reduceRight<Vec3>(
          (point, { about, axis, angle, by }) =>
            placedPoint([point[0] - by[0], point[1] - by[1], point[2] - by[2]], {
              about,
              axis,
              angle: -angle,
              by: [0, 0, 0],
            }),
          at,
        );
        return contains(body.shape, there);
      });
      const inside = contains(room.shape, at);
      const off = Math.min(...skin.map((face) => distanceToPoint(face, at)?.gap ?? Number.POSITIVE_INFINITY));
      if (off < 1e-3) continue;
      if (visited) expect(inside, `visited ${at}, ${words}`).toBe(true);
      // Far inside it was passed: the steps of the way looked at are no wider than that.
      if (inside && off > 3) expect(visited, `never passed ${at}, ${words}`).toBe(true);
    }
    freeShape(room.shape);
  }
  if (process.env.PROOF_MOTIONS) console.log(counts);
  // What is told is no way out of the law.
  expect(counts.made).toBeGreaterThanOrEqual(COUNT * 0.5);
});
