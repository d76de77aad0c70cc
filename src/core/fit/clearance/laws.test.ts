import { beforeAll, expect, test } from "vitest";
import {
  distanceToPoint,
  facesOf,
  freeShape,
  pointOnFace,
  triangulate,
  unsoundness,
  type Vec3,
  volumeOf,
} from "../../kernel";
import { loadNodeKernel } from "../../kernel/library/node";
import { bossedBody } from "../../testing/trust/bossed-body";
import { common } from "../../testing/trust/common";
import { Random } from "../../testing/trust/random";
import { clearanceCopy } from "./clearance";

beforeAll(loadNodeKernel);

/** How many bodies are tried: a sample on every run, all of them by `npm run proof`. */
const BODIES = Number(process.env.PROOF_CLEARANCES ?? 5);
const SEED = Number(process.env.PROOF_SEED ?? 5200);

test(`${BODIES} bodies by chance, grown and shrunk: the copy is sound, holds the body or lies in it, and keeps the distance everywhere`, () => {
  const counts = { made: 0, told: 0 };
  for (let i = 0; i < BODIES; i++) {
    const random = new Random(SEED + i);
    const { body, steps } = bossedBody(random);
    const by = random.pick([0.01, 0.25, 1]) * random.pick([1, -1]);
    const corners = random.pick(["sharp", "round"] as const);
    const words = JSON.stringify({ by, corners, steps });
    const made = clearanceCopy(body, by, corners);
    if ("why" in made) {
      expect(
        made.places.every((place) => place >= 0 && place < body.faces.length),
        words,
      ).toBe(true);
      counts.told++;
      continue;
    }
    counts.made++;
    const copy = { ...body, id: "copy", shape: made.shape, faces: made.from };
    expect(unsoundness(copy.shape, "solid"), words).toBeNull();
    const [own, its] = [volumeOf(body.shape), volumeOf(copy.shape)];
    expect(by > 0 ? its > own : its < own, words).toBe(true);
    const shared = common(body, copy);
    if (shared !== null) expect(shared / Math.min(own, its), words).toBeCloseTo(1, 6);
    for (const [place, face] of facesOf(copy.shape).entries()) {
      const { positions } = triangulate(face, [face], { linear: 0.05, angular: 0.3 });
      const at: Vec3[] = [pointOnFace(face)];
      for (let n = 0; n < 4; n++) {
        const c = 3 * random.whole(0, positions.length / 3 - 1);
        at.push([positions[c]!, positions[c + 1]!, positions[c + 2]!]);
      }
      for (const [n, point] of at.entries()) {
        const gap = Math.min(...facesOf(body.shape).map((own) => distanceToPoint(own, point)!.gap));
        // Corners of triangles come in single precision, and the library lays a rounding to a ten thousandth of a millimetre.
        const slack = n > 0 ? 5e-4 : made.from[place]!.includes("|") ? 1e-4 : 1e-5;
        expect(gap, `${made.from[place]}: ${words}`).toBeGreaterThan(Math.abs(by) - slack);
        if (corners === "round") expect(gap, `${made.from[place]}: ${words}`).toBeLessThan(Math.abs(by) + slack);
      }
    }
    freeShape(copy.shape);
  }
  // What is told is no way out of the law.
  expect(counts.made).toBeGreaterThanOrEqual(BODIES * 0.5);
  if (process.env.PROOF_CLEARANCES) console.log(counts);
});
