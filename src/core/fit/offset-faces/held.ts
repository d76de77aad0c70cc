import type { Body } from "../../items";
import {
  add,
  aheadOf,
  contains,
  distanceToPoint,
  facesOf,
  meetingsOf,
  normalNear,
  pointOnFace,
  scale,
  triangulate,
  type Vec3,
} from "../../kernel";
import { SAME_PLACE } from "../../tolerance";
import type { MovedFace } from "./moved";
import { originOf } from "./origin";

type Made = Pick<Body, "shape" | "faces">;

/**
 * What a body with moved faces is held against, whichever way it was made: a face of the body before, by place, at which it is not so; null where all is.
 * @param moved all outwards, or all inwards. @param changed the faces that are moved or may have run on, by place.
 */
export function notHeld(
  body: Body,
  made: Made,
  moved: readonly MovedFace[],
  changed: ReadonlySet<number>,
): number | null {
  return misplaced(body, made, moved, changed) ?? notPassed(body, made, moved);
}

/** mm off a face, to see to which side it looks. */
const STEP = 1e-3;

/** A face that is not as far off where it was as it was moved, or looks to the other side there. */
function misplaced(
  { shape, faces: names }: Body,
  made: Made,
  moved: readonly MovedFace[],
  changed: ReadonlySet<number>,
): number | null {
  const amount = new Map(moved.map(({ place, by }) => [place, by]));
  for (const [at, name] of made.faces.entries()) {
    const place = originOf(name, names);
    if (!changed.has(place)) continue;
    const face = facesOf(made.shape)[at]!;
    const on = pointOnFace(face);
    const ahead = aheadOf(shape, place, on);
    // A free surface has no numbers to be asked.
    if (ahead === null) continue;
    if (Math.abs(ahead - (amount.get(place) ?? 0)) > OFF) return place;
    const further = aheadOf(shape, place, add(on, scale(normalNear(face, on), STEP)));
    if (further !== null && further < ahead) return place;
  }
  return null;
}

/** mm: how nearly a moved face lies where it is to. */
const OFF = 100 * SAME_PLACE;

/** In how many places of a face it is looked whether it passed what lies before it, and how far along its way. */
const PLACES = 8;
const ALONG = [0.5, 0.98];
const COARSE = { linear: 0.5, angular: 0.5 };

/**
 * A face before which, on its way, there is no material where it grows, or still some where it is cut back. What lies beyond a surface beside it is
 * left to that.
 */
function notPassed({ shape }: Body, made: Made, moved: readonly MovedFace[]): number | null {
  const amount = new Map(moved.map(({ place, by }) => [place, by]));
  // What runs smoothly on from a face and is moved with it bounds nothing that this passes.
  const neighbours = new Map<number, Set<number>>();
  for (const { faces, bend } of meetingsOf(shape)) {
    if (bend === "smooth" && amount.get(faces[0]) === amount.get(faces[1])) continue;
    for (const [one, other] of [faces, [...faces].reverse()])
      neighbours.set(one!, (neighbours.get(one!) ?? new Set()).add(other!));
  }
  for (const { place, by } of moved) {
    const face = facesOf(shape)[place]!;
    const isCrossed = (from: Vec3, to: Vec3) =>
      [...(neighbours.get(place) ?? [])].some((other) => {
        const [before, after] = [aheadOf(shape, other, from), aheadOf(shape, other, to)];
        if (before === null || after === null) return true;
        const shift = amount.get(other) ?? 0;
        return [0, shift].some((off) => (before - off) * (after - off) <= 0);
      });
    const { positions, indices } = triangulate(face, [], COARSE);
    const corner = (i: number): Vec3 => [positions[3 * i]!, positions[3 * i + 1]!, positions[3 * i + 2]!];
    const step = Math.max(1, Math.floor(indices.length / 3 / PLACES));
    for (let t = 0; t < indices.length / 3; t += step) {
      const [a, b, c] = [corner(indices[3 * t]!), corner(indices[3 * t + 1]!), corner(indices[3 * t + 2]!)];
      // A triangle of a round face lies off it.
      const at = distanceToPoint(face, scale(add(add(a, b), c), 1 / 3))?.on2;
      if (!at) continue;
      const normal = normalNear(face, at);
      for (const share of ALONG) {
        const on = add(at, scale(normal, share * by));
        if (!isCrossed(at, on) && contains(made.shape, on) !== by > 0) return place;
      }
    }
  }
  return null;
}
