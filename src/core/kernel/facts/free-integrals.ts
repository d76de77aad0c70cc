import {
  type EdgeUse,
  type FaceStructure,
  PATCH_NUMBERS,
  type Patch,
  patchOfAny,
  pointsOf,
  type Structure,
} from "../binary";
import { breaksAlong } from "../binary/breaks-along";
import { integrateTo } from "../space/quadrature";
import { add, cross, dot, length, scale, sub, type Vec3 } from "../space/vectors";
import { closings, endsAlong } from "./closings";
import type { FaceIntegrals } from "./integrals";

/** How far the integrals of a face may be off, relative to what they would be if nothing in them cancelled. */
const ACCURACY = 1e-10;

/** A stretch of an edge that goes on by less of a face's width than this runs across it but for rounding: it adds as little. */
const STILL = 1e-13;

/** Quantities that are integrated: the area, the place (three), the normal (three), place · normal; all seen from a place of the face. */
const COUNT = 8;

/** What is integrated along an edge: by u or by v, with the sense that Green's theorem gives it. */
interface Form {
  by: 0 | 1;
  sign: 1 | -1;
  /** Writes the integrals across, up to a place of the surface. @returns false where they would not settle. */
  across(u: number, v: number, into: Float64Array): boolean;
}

/**
 * Integrates over a part of a surface of any kind (drawn out, turned, spline, or offset from one; an elementary one, too): by Green's theorem along its
 * edges in the surface's parameters, ∬ q du dv = −∮ (∫ q dv) du = ∮ (∫ q du) dv. What is inside the brackets has a closed
 * form where the surface is the same all along a way or all round an axis; else it is integrated, too, span by span.
 * @param rough whether eight points a span are taken as they are, which is good to tell places by.
 * @returns null where a curve or the surface is not to be had by its numbers, or the integrals will not settle in time.
 */
export function freeIntegrals(
  structure: Structure,
  face: FaceStructure,
  uses: readonly EdgeUse[],
  rough: boolean,
): FaceIntegrals | null {
  const whole = face.surface && patchOfAny(face.surface);
  if (!whole) return null;
  const runs = uses.map((use) => runOf(face, use));
  if (!runs.every((run) => run !== null)) return null;
  const reach = reachOf(runs);
  const about = middleOf(whole, reach);
  const patch = budgeted(seenFrom(whole, about));
  // What errors are measured by: the size of the whole rectangle of parameters that the face lies in.
  const sizes = sizesOf(patch, reach);
  if (!sizes) return null;
  const accuracy = rough ? null : ACCURACY;
  const { by, sign, across } = formOf(patch, reach, sizes, accuracy);
  const widths = [reach.most - reach.least, reach.high - reach.low] as const;
  const total = new Float64Array(COUNT);
  for (const { way, from, to, point, breaks } of runs) {
    const sums = new Float64Array(COUNT);
    let settles = true;
    let still = 0;
    const values = (t: number, into: Float64Array) => {
      const { at, slope } = point(t);
      const on = slope[by]!;
      if (Math.abs(on) <= still) into.fill(0);
      else if (!across(at[0]!, at[1]!, into)) settles = false;
      for (let i = 0; i < COUNT; i++) into[i]! *= on;
    };
    const ends = [from, ...breaks(patch.breaks), to];
    for (let i = 1; i < ends.length; i++) {
      still = (STILL * widths[by]) / (ends[i]! - ends[i - 1]!);
      if (!integrateTo(accuracy, ends[i - 1]!, ends[i]!, values, sizes, sums) || !settles) return null;
    }
    for (let i = 0; i < COUNT; i++) total[i]! += sign * way * sums[i]!;
  }
  const gaps = closings(structure, uses, (_, place) => {
    const { point, from, to, way } = runs[place]!;
    return endsAlong(point, from, to, way);
  });
  const own = new Float64Array(COUNT);
  for (const { from, to } of gaps) {
    if (Math.abs(to[by]! - from[by]!) <= STILL * widths[by]) continue;
    if (!across((from[0]! + to[0]!) / 2, (from[1]! + to[1]!) / 2, own)) return null;
    for (let i = 0; i < COUNT; i++) total[i]! += sign * (to[by]! - from[by]!) * own[i]!;
  }
  const [area, normal] = [total[0]!, vectorAt(total, 4)];
  return { area, moment: add(scale(about, area), vectorAt(total, 1)), normal, flux: total[7]! + dot(about, normal) };
}

/** A place of a surface amid the parameters that a face reaches. */
function middleOf(patch: Patch, { least, most, low, high }: Reach): Vec3 {
  const at = new Float64Array(PATCH_NUMBERS);
  patch.at((least + most) / 2, (low + high) / 2, at);
  return vector(at, 0);
}

/** The same surface with the world's origin moved: what is integrated is as small as the face, however far off it lies. */
function seenFrom(patch: Patch, [x, y, z]: Vec3): Patch {
  const { line, alike } = patch;
  const seen = (into: Float64Array) => {
    into[0]! -= x;
    into[1]! -= y;
    into[2]! -= z;
  };
  return {
    ...patch,
    at: (u, v, into) => {
      patch.at(u, v, into);
      seen(into);
    },
    ...(line && {
      line: (u: number, orders?: 1 | 2) => {
        const of = line(u, orders);
        return (v: number, into: Float64Array) => {
          of(v, into);
          seen(into);
        };
      },
    }),
    ...(alike?.kind === "round" && { alike: { ...alike, at: sub(alike.at, [x, y, z]) } }),
  };
}

/** How often a surface is asked for a place at most, one face: about a second. */
const MOST_ASKED = 1_000_000;

/** The same surface, which says nothing any more when it has been asked too often: what is integrated over it settles no more. */
function budgeted(patch: Patch): Patch {
  let left = MOST_ASKED;
  const { line } = patch;
  return {
    ...patch,
    at: (u, v, into) => {
      if (left-- > 0) patch.at(u, v, into);
      else into.fill(Number.NaN);
    },
    ...(line && {
      line: (u: number, orders?: 1 | 2) => {
        const of = line(u, orders);
        return (v: number, into: Float64Array) => {
          if (left-- > 0) of(v, into);
          else into.fill(Number.NaN);
        };
      },
    }),
  };
}

function formOf(patch: Patch, reach: Reach, sizes: Float64Array, accuracy: number | null): Form {
  switch (patch.alike?.kind) {
    case "along":
      return { by: 0, sign: -1, across: along(patch, patch.alike.way) };
    case "round":
      return { by: 1, sign: 1, across: round(patch, patch.alike) };
    default:
      return { by: 0, sign: -1, across: byIntegrating(patch, reach, sizes, accuracy) };
  }
}

/** S = c(u) + v·w: nothing that is integrated depends on v but the place. */
function along(patch: Patch, way: Vec3): Form["across"] {
  const own = new Float64Array(PATCH_NUMBERS);
  return (u, v, into) => {
    patch.at(u, 0, own);
    const at = vector(own, 0);
    const normal = cross(vector(own, 1), way);
    const area = length(normal);
    into[0] = area * v;
    for (let i = 0; i < 3; i++) into[1 + i] = area * (at[i]! * v + (way[i]! * v * v) / 2);
    put(into, scale(normal, v), dot(at, normal) * v);
    return true;
  };
}

/** S = o + R(u)(c(v) − o), R a turn about an axis through o: what is integrated turns with it. */
function round(patch: Patch, { at: origin, axis }: { at: Vec3; axis: Vec3 }): Form["across"] {
  const own = new Float64Array(PATCH_NUMBERS);
  return (u, v, into) => {
    patch.at(0, v, own);
    const from = sub(vector(own, 0), origin);
    const up = scale(axis, dot(from, axis));
    const out = sub(from, up);
    const aside = cross(axis, out);
    const normal = cross(aside, vector(own, 2));
    const normalUp = scale(axis, dot(normal, axis));
    const normalOut = sub(normal, normalUp);
    const area = length(normal);
    const [c, s] = [Math.cos(u), Math.sin(u)];
    into[0] = area * u;
    for (let i = 0; i < 3; i++) into[1 + i] = area * ((origin[i]! + up[i]!) * u + out[i]! * s - aside[i]! * c);
    const turned = add(scale(normalUp, u), add(scale(normalOut, s), scale(cross(axis, normalOut), -c)));
    put(into, turned, dot(from, normal) * u + dot(origin, turned));
    return true;
  };
}

/** Writes what is integrated of the normal, and of place · normal. */
function put(into: Float64Array, normal: Vec3, flux: number): void {
  into.set(normal, 4);
  into[7] = flux;
}

/** From the lowest v on, span by span. */
function byIntegrating(patch: Patch, reach: Reach, sizes: Float64Array, accuracy: number | null): Form["across"] {
  const line = lineOf(patch);
  const at = new Float64Array(PATCH_NUMBERS);
  const { low, least, most } = reach;
  // The outer integral goes over all of u.
  const own = sizes.map((value) => value / (most - least));
  const spans = patch.breaks[1].filter((knot) => knot > low);
  return (u, v, into) => {
    into.fill(0);
    const place = line(u);
    const inner = (t: number, out: Float64Array) => {
      place(t, at);
      valuesAt(at, out);
    };
    let from = low;
    for (const end of [...spans.filter((knot) => knot < v), v]) {
      if (end !== from && !integrateTo(accuracy, from, end, inner, own, into)) return false;
      from = end;
    }
    return true;
  };
}

const vectorAt = (numbers: Float64Array, at: number): Vec3 => [numbers[at]!, numbers[at + 1]!, numbers[at + 2]!];
const vector = (numbers: Float64Array, k: number): Vec3 => vectorAt(numbers, 3 * k);

/** An edge of a face in the parameters of its surface. */
interface Run {
  way: 1 | -1;
  from: number;
  to: number;
  point(t: number): { at: number[]; slope: number[] };
  /** Where it is not smooth, or runs over a place where the surface is not, in order. */
  breaks(ofSurface: Patch["breaks"]): number[];
}

function runOf(face: FaceStructure, use: EdgeUse): Run | null {
  const image = face.image(use);
  const point = image && pointsOf(image.curve);
  if (!image || !point) return null;
  const { from, to } = image;
  return { way: use.way, from, to, point, breaks: (ofSurface) => breaksAlong(image, point, ofSurface) };
}

/** The parameters that the edges of a face reach: of u, and of v. */
interface Reach {
  least: number;
  most: number;
  low: number;
  high: number;
}

const LOOKS = 8;

function reachOf(runs: readonly Run[]): Reach {
  const [us, vs]: [number[], number[]] = [[], []];
  for (const { from, to, point, breaks } of runs) {
    const ends = [from, ...breaks([[], []]), to];
    for (let i = 1; i < ends.length; i++)
      for (let k = 0; k <= LOOKS; k++) {
        const { at } = point(ends[i - 1]! + ((ends[i]! - ends[i - 1]!) * k) / LOOKS);
        us.push(at[0]!);
        vs.push(at[1]!);
      }
  }
  const least = (list: readonly number[]) =>
    list.reduce((best, value) => Math.min(best, value), Number.POSITIVE_INFINITY);
  const most = (list: readonly number[]) => -least(list.map((value) => -value));
  return { least: least(us), most: most(us), low: least(vs), high: most(vs) };
}

/** The lines of a surface, each to be asked for many places. */
const lineOf = (patch: Patch): NonNullable<Patch["line"]> => patch.line ?? ((u) => (v, into) => patch.at(u, v, into));

/** What is integrated, at a place of a surface with its first derivatives: times the area that its parameters span there. */
function valuesAt(at: Float64Array, into: Float64Array): void {
  const [x, y, z] = [at[0]!, at[1]!, at[2]!];
  const a = at[4]! * at[8]! - at[5]! * at[7]!;
  const b = at[5]! * at[6]! - at[3]! * at[8]!;
  const c = at[3]! * at[7]! - at[4]! * at[6]!;
  const area = Math.sqrt(a * a + b * b + c * c);
  into[0] = area;
  into[1] = x * area;
  into[2] = y * area;
  into[3] = z * area;
  into[4] = a;
  into[5] = b;
  into[6] = c;
  into[7] = x * a + y * b + z * c;
}

/** Sizes of the integrals over the whole rectangle of parameters, roughly, with no sign. */
function sizesOf(patch: Patch, { low, high, least, most }: Reach): Float64Array | null {
  const at = new Float64Array(PATCH_NUMBERS);
  const own = new Float64Array(COUNT);
  let [area, far] = [0, 0];
  for (let i = 0; i < LOOKS; i++)
    for (let j = 0; j < LOOKS; j++) {
      patch.at(least + ((i + 0.5) / LOOKS) * (most - least), low + ((j + 0.5) / LOOKS) * (high - low), at);
      valuesAt(at, own);
      area += own[0]!;
      if (own[0]! > 0) far = Math.max(far, Math.hypot(own[1]!, own[2]!, own[3]!) / own[0]!);
    }
  area *= ((most - least) * (high - low)) / LOOKS ** 2;
  const sizes = new Float64Array(COUNT).fill(area * Math.max(far, Math.sqrt(area)));
  sizes[0] = area;
  sizes.fill(area, 4, 7);
  return area > 0 && sizes.every(Number.isFinite) ? sizes : null;
}
