import { beforeAll, expect, test } from "vitest";
import type { Body } from "../../items";
import {
  allFaceFacts,
  cross,
  dot,
  facesOf,
  freeShape,
  innerPoint,
  KernelFault,
  makePlaneFace,
  pointOnFace,
  sub,
  unit,
  unsoundness,
  type Vec3,
  volumeOf,
} from "../../kernel";
import { loadNodeKernel } from "../../kernel/library/node";
import { type Division, divideAll } from "../../seam";
import { bossedBody } from "../../testing/trust/bossed-body";
import { meetingPairs } from "../../testing/trust/meeting-pairs";
import { Random } from "../../testing/trust/random";
import { originOf } from "../offset-faces/origin";
import { replaceFace } from "./replace-face";

beforeAll(loadNodeKernel);

/** How many bodies are tried: a sample on every run, all of them by `npm run proof`. */
const BODIES = Number(process.env.PROOF_REPLACED ?? 8);
const SEED = Number(process.env.PROOF_SEED ?? 6400);

const onto = (origin: Vec3, normal: Vec3) => () => ({ shape: makePlaneFace(origin, normal, 2000), faces: ["plane"] });

/** What differs between two bodies: a place in each piece, and whether it is gained. Null where they lie too near to each other to be divided. */
function differences(before: Body, after: Body): { at: Vec3; gained: boolean }[] | null {
  let division: Division;
  try {
    division = divideAll([
      { ...before, id: "before" },
      { ...after, id: "after" },
    ]);
  } catch (cause) {
    if (cause instanceof KernelFault && !cause.fatal) return null;
    throw cause;
  }
  try {
    return division.pieces.flatMap(({ stock, shape }) => {
      const at = stock.length === 1 && volumeOf(shape) > 1e-6 ? innerPoint(shape) : null;
      return at ? [{ at, gained: stock[0] === "after" }] : [];
    });
  } finally {
    division.free();
  }
}

test(`${BODIES} bodies by chance, a flat face taken to a plane beside it: what differs lies between the two, and back again it is as it was`, () => {
  const counts = { made: 0, told: 0, back: 0, undivided: 0 };
  for (let i = 0; i < BODIES; i++) {
    const random = new Random(SEED + i);
    const { body, steps } = bossedBody(random);
    const facts = allFaceFacts(body.shape);
    const flat = facts.flatMap(({ kind }, place) => (kind === "plane" ? [place] : []));
    const place = random.pick(flat);
    const face = facesOf(body.shape)[place]!;
    const normal = facts[place]!.direction!;
    const at = pointOnFace(face);
    const side = unit(cross(normal, Math.abs(normal[2]) < 0.9 ? [0, 0, 1] : [1, 0, 0]));
    const lean = random.chance(0.4) ? 0 : random.between(-0.2, 0.2);
    const tilted = unit([0, 1, 2].map((k) => normal[k]! + lean * side[k]!) as unknown as Vec3);
    const by = random.pick([-2.5, -0.3, 0, 0.3, 2.5]) + random.between(-0.1, 0.1);
    const origin = [0, 1, 2].map((k) => at[k]! + by * normal[k]!) as unknown as Vec3;
    const words = JSON.stringify({ face: body.faces[place], origin, tilted, steps });
    const made = replaceFace(body, place, onto(origin, tilted), false);
    if ("why" in made) {
      counts.told++;
      continue;
    }
    counts.made++;
    const after: Body = { ...body, shape: made.shape, faces: made.faces };
    expect(unsoundness(after.shape, "solid"), words).toBeNull();
    const over = (p: Vec3) => dot(sub(p, at), normal);
    const beyond = (p: Vec3) => dot(sub(p, origin), tilted);
    const differ = differences(body, after);
    if (!differ) counts.undivided++;
    for (const { at: p, gained } of differ ?? []) {
      // What is gained lies over the face and this side of the plane; what is lost, under the face and beyond the plane.
      expect(gained ? Math.min(over(p), -beyond(p)) : Math.min(-over(p), beyond(p)), words).toBeGreaterThan(-1e-6);
    }
    expect(
      made.faces.filter((name) => originOf(name, body.faces) < 0),
      words,
    ).toEqual([]);
    for (const [n, name] of made.faces.entries())
      if (name === body.faces[place])
        expect(Math.abs(beyond(pointOnFace(facesOf(made.shape)[n]!))), words).toBeLessThan(1e-6);
    const own = made.faces.indexOf(body.faces[place]!);
    if (own >= 0 && meetingPairs(after) === meetingPairs(body)) {
      const back = replaceFace(after, own, onto(at, normal), false);
      expect("why" in back ? back.why : null, words).toBeNull();
      if (!("why" in back)) {
        counts.back++;
        expect(volumeOf(back.shape) / volumeOf(body.shape), words).toBeCloseTo(1, 7);
        freeShape(back.shape);
      }
    }
    freeShape(made.shape);
  }
  // What is told is no way out of the law.
  expect(counts.made).toBeGreaterThanOrEqual(BODIES * 0.6);
  expect(counts.undivided).toBeLessThanOrEqual(1 + BODIES * 0.1);
  if (process.env.PROOF_REPLACED) console.log(counts);
});
