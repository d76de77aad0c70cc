import { cross, dot, type Vec3 } from "../space/vectors";
import { basisAt, newBasis } from "./basis";
import { derivativesOf } from "./curve-at";
import { placed, turned } from "./places";
import { breaksOf, intoFirstRound, unwrappedKnots } from "./spline-data";
import type { SplineSurface, SurfaceFrame, SurfaceRecord } from "./surfaces";

/**
 * A surface by its numbers. `at` writes a place and the derivatives there, three numbers each: the place, by u, by v, twice
 * by u, by u and v, twice by v.
 */
export interface Patch {
  at(u: number, v: number, into: Float64Array): void;
  /**
   * The line of the surface at a u, to be asked for many places: it writes the place and the first derivatives, nine
   * numbers, or the second ones, too. One line at a time, places by themselves in between. Where it is missing, `at` is as quick.
   */
  line?(u: number, orders?: 1 | 2): (v: number, into: Float64Array) => void;
  /** Where it is not smooth. */
  breaks: [readonly number[], readonly number[]];
  /** Where it is the same again and again: all along a way, by v; or all round an axis, by the angle u. */
  alike?: { kind: "along"; way: Vec3 } | { kind: "round"; at: Vec3; axis: Vec3 };
}

/** Numbers to a place of a patch with its derivatives. */
export const PATCH_NUMBERS = 18;

/** A surface by its numbers, where it lies, whatever it is; null for what only the library can say. */
export const patchOfAny = (surface: SurfaceRecord): Patch | null =>
  "axis" in surface ? elementary(surface) : patchOf(surface);

/** A free surface by its numbers, where it lies; null for what is asked of the library, and for elementary surfaces. */
export function patchOf(surface: SurfaceRecord): Patch | null {
  if ("axis" in surface) return null;
  const patch = unmoved(surface);
  return patch && surface.matrix ? moved(patch, surface.matrix) : patch;
}

function unmoved(surface: Exclude<SurfaceRecord, { axis: Vec3 }>): Patch | null {
  switch (surface.kind) {
    case "extrusion":
      return extruded(surface);
    case "revolution":
      return revolved(surface);
    case "spline": {
      const spline = surface.spline?.();
      return spline ? splined(spline) : null;
    }
    case "offset": {
      const base = patchOfAny(surface.of);
      return base && offset(base, surface.by);
    }
  }
}

/** How far a surface turned about an axis is from it, and how high along it, at v: each with two derivatives. */
type Outline = (v: number) => { out: readonly [number, number, number]; up: readonly [number, number, number] };

function outlineOf(surface: Exclude<Extract<SurfaceRecord, SurfaceFrame>, { kind: "plane" }>): Outline {
  switch (surface.kind) {
    case "cylinder":
      return (v) => ({ out: [surface.radius, 0, 0], up: [v, 1, 0] });
    case "cone": {
      const [s, c] = [Math.sin(surface.half), Math.cos(surface.half)];
      return (v) => ({ out: [surface.radius + v * s, s, 0], up: [v * c, c, 0] });
    }
    case "sphere":
    case "torus": {
      const [major, minor] = surface.kind === "torus" ? [surface.major, surface.minor] : [0, surface.radius];
      return (v) => {
        const [c, s] = [minor * Math.cos(v), minor * Math.sin(v)];
        return { out: [major + c, -s, -c], up: [s, c, -s] };
      };
    }
  }
}

function elementary(surface: Extract<SurfaceRecord, SurfaceFrame>): Patch {
  const { at: origin, axis, x, y } = surface;
  if (surface.kind === "plane")
    return {
      breaks: [[], []],
      alike: { kind: "along", way: y },
      at: (u, v, into) => {
        into.fill(0);
        for (let i = 0; i < 3; i++) {
          into[i] = origin[i]! + u * x[i]! + v * y[i]!;
          into[3 + i] = x[i]!;
          into[6 + i] = y[i]!;
        }
      },
    };
  const outline = outlineOf(surface);
  return {
    breaks: [[], []],
    // In a left-handed frame the angle runs the other way about the axis.
    alike: { kind: "round", at: origin, axis: cross(x, y) },
    at: (u, v, into) => {
      const [c, s] = [Math.cos(u), Math.sin(u)];
      const { out, up } = outline(v);
      for (let i = 0; i < 3; i++) {
        const [away, aside] = [c * x[i]! + s * y[i]!, c * y[i]! - s * x[i]!];
        into[i] = origin[i]! + out[0] * away + up[0] * axis[i]!;
        into[3 + i] = out[0] * aside;
        into[6 + i] = out[1] * away + up[1] * axis[i]!;
        into[9 + i] = -out[0] * away;
        into[12 + i] = out[1] * aside;
        into[15 + i] = out[2] * away + up[2] * axis[i]!;
      }
    },
  };
}

function extruded({ of, way }: Extract<SurfaceRecord, { kind: "extrusion" }>): Patch | null {
  const curve = derivativesOf(of);
  if (!curve) return null;
  const own = new Float64Array(9);
  return {
    breaks: [curve.breaks, []],
    alike: { kind: "along", way },
    at: (u, v, into) => {
      curve.at(u, own);
      for (let i = 0; i < 3; i++) {
        into[i] = own[i]! + v * way[i]!;
        into[3 + i] = own[3 + i]!;
        into[6 + i] = way[i]!;
        into[9 + i] = own[6 + i]!;
        into[12 + i] = 0;
        into[15 + i] = 0;
      }
    },
  };
}

function revolved({ of, axisAt, axisWay }: Extract<SurfaceRecord, { kind: "revolution" }>): Patch | null {
  const curve = derivativesOf(of);
  if (!curve) return null;
  const own = new Float64Array(9);
  const [k1, k2, k3] = axisWay;
  return {
    breaks: [[], curve.breaks],
    alike: { kind: "round", at: axisAt, axis: axisWay },
    at: (u, v, into) => {
      curve.at(v, own);
      const [c, s] = [Math.cos(u), Math.sin(u)];
      // Each of the curve's three vectors turned, and its derivatives by the angle (Rodrigues' formula).
      for (let order = 0; order < 3; order++) {
        const shift = order === 0 ? axisAt : ZERO;
        const x = own[3 * order]! - shift[0];
        const y = own[3 * order + 1]! - shift[1];
        const z = own[3 * order + 2]! - shift[2];
        const along = k1 * x + k2 * y + k3 * z;
        const out = [x - along * k1, y - along * k2, z - along * k3];
        const aside = [k2 * z - k3 * y, k3 * x - k1 * z, k1 * y - k2 * x];
        for (let i = 0; i < 3; i++) {
          const still = shift[i]! + along * axisWay[i]!;
          const turned = c * out[i]! + s * aside[i]!;
          const on = c * aside[i]! - s * out[i]!;
          if (order === 0) {
            into[i] = still + turned;
            into[3 + i] = on;
            into[9 + i] = -turned;
          } else if (order === 1) {
            into[6 + i] = still + turned;
            into[12 + i] = on;
          } else into[15 + i] = still + turned;
        }
      }
    },
  };
}

const ZERO: Vec3 = [0, 0, 0];

function splined(surface: SplineSurface): Patch {
  const { knots, periodic } = surface;
  const [p, q] = surface.degrees;
  const us = periodic[0] ? unwrappedKnots(knots[0], p) : knots[0];
  const vs = periodic[1] ? unwrappedKnots(knots[1], q) : knots[1];
  const [firstU, firstV] = [intoFirstRound(knots[0], periodic[0]), intoFirstRound(knots[1], periodic[1])];
  const [along, across] = [newBasis(), newBasis()];
  const net = liftedNet(surface);
  const [rows, columns] = [surface.poles.length, surface.poles[0]!.length];
  // Of each column of poles: its sum by the functions along, and by their derivatives, four numbers each.
  // Those of a place that is asked for by itself, and those of the line that is gone along.
  const [own, held] = [new Float64Array(3 * FOUR * columns), new Float64Array(3 * FOUR * columns)];
  const sums = new Float64Array(PATCH_NUMBERS + 6);

  /** Sums the poles of some columns by the functions along, and by as many derivatives as are wanted. */
  const sumAlong = (lines: Float64Array, first: number, count: number, orders: 1 | 2) => {
    for (let k = 0; k < count; k++) {
      const column = (first + k) % columns;
      const into = 3 * FOUR * column;
      lines.fill(0, into, into + 3 * FOUR);
      for (let i = 0; i <= p; i++) {
        const from = FOUR * (((along.first + i) % rows) * columns + column);
        for (let order = 0; order <= orders; order++) {
          const share = along.rows[order]![i]!;
          const there = into + FOUR * order;
          for (let m = 0; m < FOUR; m++) lines[there + m]! += share * net[from + m]!;
        }
      }
    }
  };
  /** Adds up, by the functions across, one of the sums of the columns: into four numbers. */
  const sumAcross = (lines: Float64Array, by: number, order: number, into: number) => {
    let [x, y, z, w] = [0, 0, 0, 0];
    const shares = across.rows[order]!;
    for (let j = 0; j <= q; j++) {
      const from = 3 * FOUR * ((across.first + j) % columns) + FOUR * by;
      const share = shares[j]!;
      x += share * lines[from]!;
      y += share * lines[from + 1]!;
      z += share * lines[from + 2]!;
      w += share * lines[from + 3]!;
    }
    sums[into] = x;
    sums[into + 1] = y;
    sums[into + 2] = z;
    sums[into + 3] = w;
  };
  /** The place and the first derivatives, where poles have weights, too. */
  const firsts = (into: Float64Array) => {
    const [w, wu, wv] = [sums[3]!, sums[7]!, sums[11]!];
    for (let i = 0; i < 3; i++) {
      const at = sums[i]! / w;
      into[i] = at;
      into[3 + i] = (sums[4 + i]! - wu * at) / w;
      into[6 + i] = (sums[8 + i]! - wv * at) / w;
    }
  };
  /** The second derivatives, from the first. */
  const seconds = (into: Float64Array) => {
    const [w, wu, wv, wuu, wuv, wvv] = [sums[3]!, sums[7]!, sums[11]!, sums[15]!, sums[19]!, sums[23]!];
    for (let i = 0; i < 3; i++) {
      const [at, du, dv] = [into[i]!, into[3 + i]!, into[6 + i]!];
      into[9 + i] = (sums[12 + i]! - 2 * wu * du - wuu * at) / w;
      into[12 + i] = (sums[16 + i]! - wu * dv - wv * du - wuv * at) / w;
      into[15 + i] = (sums[20 + i]! - 2 * wv * dv - wvv * at) / w;
    }
  };

  return {
    breaks: [breaksOf(knots[0], periodic[0]), breaksOf(knots[1], periodic[1])],
    at: (u, v, into) => {
      basisAt(us, p, firstU(u), along);
      basisAt(vs, q, firstV(v), across);
      sumAlong(own, across.first, q + 1, 2);
      for (const [k, [by, order]] of ORDERS.entries()) sumAcross(own, by, order, FOUR * k);
      firsts(into);
      seconds(into);
    },
    line: (u, orders = 1) => {
      basisAt(us, p, firstU(u), along, orders);
      sumAlong(held, 0, columns, orders);
      return (v, into) => {
        basisAt(vs, q, firstV(v), across, orders);
        for (let k = 0; k < (orders === 1 ? FIRSTS : ORDERS.length); k++)
          sumAcross(held, ORDERS[k]![0], ORDERS[k]![1], FOUR * k);
        firsts(into);
        if (orders === 2) seconds(into);
      };
    },
  };
}

/** Numbers of a pole with its weight. */
const FOUR = 4;

/** The derivatives of a patch by u and by v, in the order of its numbers: the place and the first ones come first. */
const ORDERS = [
  [0, 0],
  [1, 0],
  [0, 1],
  [2, 0],
  [1, 1],
  [0, 2],
] as const;
const FIRSTS = 3;

/** Poles times their weights, with the weights behind: row by row, one after the other. */
function liftedNet({ poles, weights }: SplineSurface): Float64Array {
  const columns = poles[0]!.length;
  const net = new Float64Array(FOUR * poles.length * columns);
  for (const [i, line] of poles.entries())
    for (const [j, pole] of line.entries()) {
      const w = weights?.[i]?.[j] ?? 1;
      net.set([pole[0] * w, pole[1] * w, pole[2] * w, w], FOUR * (i * columns + j));
    }
  return net;
}

/**
 * Every point moved along the normal, S + d·n with n = (Su × Sv) / |Su × Sv|. Its second derivatives would ask for the
 * third ones of what it is offset from: they are NaN.
 */
function offset(base: Patch, by: number): Patch {
  const own = new Float64Array(PATCH_NUMBERS);
  /** How the normal's direction changes where a × b + c × d is how the normal does: by what of it is across, over its length. */
  const slope = (a: number, b: number, c: number, d: number, size: number, into: Float64Array, to: number) => {
    for (let i = 0; i < 3; i++) {
      const [j, k] = [(i + 1) % 3, (i + 2) % 3];
      change[i] =
        own[a + j]! * own[b + k]! - own[a + k]! * own[b + j]! + own[c + j]! * own[d + k]! - own[c + k]! * own[d + j]!;
    }
    const lengthening = change[0]! * n[0]! + change[1]! * n[1]! + change[2]! * n[2]!;
    for (let i = 0; i < 3; i++) into[to + i]! += (by * (change[i]! - lengthening * n[i]!)) / size;
  };
  const [n, change] = [new Float64Array(3), new Float64Array(3)];
  const moveOut = (into: Float64Array) => {
    for (let i = 0; i < 3; i++) {
      const [j, k] = [(i + 1) % 3, (i + 2) % 3];
      n[i] = own[U + j]! * own[V + k]! - own[U + k]! * own[V + j]!;
    }
    const size = Math.sqrt(n[0]! * n[0]! + n[1]! * n[1]! + n[2]! * n[2]!);
    for (let i = 0; i < 3; i++) {
      n[i]! /= size;
      into[i] = own[i]! + by * n[i]!;
      into[U + i] = own[U + i]!;
      into[V + i] = own[V + i]!;
    }
    slope(UU, V, U, UV, size, into, U);
    slope(UV, V, U, VV, size, into, V);
  };
  const { line } = base;
  return {
    breaks: base.breaks,
    ...(base.alike ? { alike: base.alike } : {}),
    at: (u, v, into) => {
      base.at(u, v, own);
      moveOut(into);
      into.fill(Number.NaN, UU);
    },
    ...(line && {
      line: (u: number, orders: 1 | 2 = 1) => {
        const of = line(u, 2);
        return (v: number, into: Float64Array) => {
          of(v, own);
          moveOut(into);
          if (orders === 2) into.fill(Number.NaN, UU);
        };
      },
    }),
  };
}

/** Where each derivative of a patch begins among its numbers. */
const [U, V, UU, UV, VV] = [3, 6, 9, 12, 15] as const;

/** A patch where it was moved to; null where the movement mirrors. */
function moved(patch: Patch, m: readonly number[]): Patch | null {
  const rows = [m.slice(0, 3), m.slice(4, 7), m.slice(8, 11)] as unknown as [Vec3, Vec3, Vec3];
  if (dot(cross(rows[0], rows[1]), rows[2]) <= 0) return null;
  const own = new Float64Array(PATCH_NUMBERS);
  const place = { id: 1, matrix: m };
  const { alike } = patch;
  const there =
    alike?.kind === "along"
      ? { ...alike, way: turned(place, alike.way) }
      : alike && { ...alike, at: placed(place, alike.at), axis: turned(place, alike.axis) };
  const move = (numbers: number, into: Float64Array) => {
    for (let k = 0; k < numbers; k += 3)
      for (let i = 0; i < 3; i++) {
        const row = rows[i]!;
        into[k + i] = row[0] * own[k]! + row[1] * own[k + 1]! + row[2] * own[k + 2]! + (k === 0 ? m[4 * i + 3]! : 0);
      }
  };
  const line = patch.line;
  return {
    breaks: patch.breaks,
    ...(there ? { alike: there } : {}),
    at: (u, v, into) => {
      patch.at(u, v, own);
      move(PATCH_NUMBERS, into);
    },
    ...(line && {
      line: (u: number, orders: 1 | 2 = 1) => {
        const of = line(u, orders);
        return (v: number, into: Float64Array) => {
          of(v, own);
          move(orders === 1 ? UU : PATCH_NUMBERS, into);
        };
      },
    }),
  };
}
