import type { Deviation } from "../../deviation";
import { boxOf } from "../facts/box";
import { contains } from "../facts/distance";
import { deepPlaces } from "../facts/inner-point";
import { leastGap } from "../facts/surface-gap";
import { facesOf, type Shape, shapeKind } from "../library/topology";
import { tessellate } from "../mesh/tessellate";
import { rayHit } from "../space/ray-hit";
import { add, cross, diagonal, dot, length, scale, squareTo, sub, unit, type Vec3 } from "../space/vectors";
import type { Cell, Fusion } from "./general-fuse";

/** How many places of a face are asked about. */
const PLACES = 240;
/** Radians between neighbouring triangles. */
const ANGULAR = 0.25;
/** A direction that no drawing has. */
const ASTRAY: Vec3 = [0.5390876, 0.3120871, 0.7823091];

/** How many places within a cell are asked about. */
const DEPTHS = 3;

/**
 * An opinion of its own on a division, by triangles: every face of a body lies wholly inside each other body, or wholly
 * outside, as the cells on its sides say; and so does the inside of every cell. Places too near to a skin for triangles to tell
 * are left out: of bodies that are nearly the same that is all of their faces, and not their insides.
 * @param divided how many of the arguments, from the first, are what is divided: only cells within those are looked into.
 * @returns a place where the division says otherwise; null where none was found.
 */
export function contradiction(args: readonly Shape[], fusion: Fusion, divided = args.length): Vec3 | null {
  const solids = solidsOf(args);
  const linear = fineness(args);
  const meshes = new Map(solids.map((a) => [a, new Triangles(args[a]!, linear)] as const));
  for (const { face, within, askers } of askedFaces(args, fusion)) {
    const places = placesOn(fusion.faceHandle(face), linear);
    for (const a of askers) {
      const claimed = within.has(a);
      for (const at of places) {
        const inside = meshes.get(a)!.holds(at);
        if (inside !== null && inside !== claimed) return at;
      }
    }
  }
  for (const { shape, within } of fusion.cells) {
    if (within.every((a) => a >= divided)) continue;
    for (const at of deepPlaces(tessellate(shape, { linear, angular: ANGULAR })).slice(0, DEPTHS))
      for (const a of solids) {
        const inside = meshes.get(a)!.holds(at);
        // Triangles of a cell may leave it where a cut hangs in a face: what they say is confirmed before it counts.
        if (
          inside !== null &&
          inside !== within.includes(a) &&
          contains(shape, at) &&
          contains(args[a]!, at) === inside
        )
          return at;
      }
  }
  return null;
}

/** How far a corner is off by what single precision leaves of it, as a part of its coordinates: twice over. */
const SINGLE = 2.4e-7;

/** How many places of a face are asked about exactly. */
const EXACT_PLACES = 12;

/** By how much more than at corners a face may be off between them, where it bends away from the other: of a shallow lens, and half. */
const BETWEEN = 1.5;

/**
 * How far a division is off at most, beyond what it says, among places that triangles cannot tell, and where: corners of a
 * face's triangles, which lie on it, near the skin of another body and further from it than a tolerance. Bodies that are
 * nearly the same are divided so where the library does not see that their skins cross.
 * @param tolerance mm: how far off the division is said to be. @param divided as for `contradiction`.
 * @returns null where it is off nowhere.
 */
export function misplaced(
  args: readonly Shape[],
  fusion: Fusion,
  tolerance: number,
  divided = args.length,
): Deviation | null {
  const linear = fineness(args);
  const made = fusion.cells.filter(({ within }) => within.some((a) => a < divided));
  const used = new Set(made.flatMap(({ faces }) => faces.map(({ face }) => face)));
  const skins = args.map((arg) => facesOf(arg).map((_, place) => place));
  let most: Deviation | null = null;
  for (const { face, within, askers } of askedFaces(args, fusion)) {
    if (!used.has(face)) continue;
    const { positions } = tessellate(fusion.faceHandle(face), { linear, angular: ANGULAR });
    for (const a of askers) {
      const near: Deviation[] = [];
      for (let v = 0; v < positions.length; v += 3) {
        const at: Vec3 = [positions[v]!, positions[v + 1]!, positions[v + 2]!];
        const size = leastGap(args[a]!, skins[a]!, at);
        // Corners are in single precision: far from the origin they lie off the face by as much.
        const rounded = SINGLE * Math.max(...at.map(Math.abs));
        if (size > tolerance + rounded && size < 3 * linear) near.push({ at, size });
      }
      // Those furthest off first: the first that is misplaced is the worst of those asked about, and none of those before it that
      // were not is further off than the one after the last that is right.
      near.sort((p, q) => q.size - p.size);
      const step = Math.max(1, near.length / EXACT_PLACES);
      let unasked = 0;
      for (let i = 0; i < near.length; i += step) {
        const { size } = near[unasked]!;
        if (size <= (most?.size ?? 0)) break;
        const { at } = near[Math.floor(i)]!;
        if (contains(args[a]!, at) !== within.has(a)) {
          most = { size, at };
          break;
        }
        unasked = Math.floor(i) + 1;
      }
    }
  }
  return most && { ...most, size: BETWEEN * most.size };
}

const solidsOf = (args: readonly Shape[]): number[] =>
  args.flatMap((arg, a) => (shapeKind(arg) === "solid" ? [a] : []));

/** The faces that lie in or out of other bodies: which they are said to lie in, and all solids that may be asked, as it is not their own. */
function askedFaces(
  args: readonly Shape[],
  fusion: Fusion,
): { face: number; within: ReadonlySet<number>; askers: number[] }[] {
  const solids = solidsOf(args);
  const own = args.map((_, a) => new Set(fusion.images[a]!.flat().map(({ face }) => face)));
  return [...claimsOf(fusion.cells)].flatMap(([face, within]) => {
    const askers = solids.filter((a) => !own[a]!.has(face));
    return askers.length > 0 ? [{ face, within, askers }] : [];
  });
}

/** mm: places on one body's face are as far off as the triangles of the other are: room for both. */
function fineness(args: readonly Shape[]): number {
  const sizes = args.flatMap((arg) => {
    const box = boxOf(arg);
    return box ? [diagonal(box)] : [];
  });
  return Math.max(1e-4, 2e-3 * Math.min(...sizes));
}

/** For each face, the arguments whose inside lies on both of its sides, or on the one side where there is a cell. */
function claimsOf(cells: readonly Cell[]): Map<number, Set<number>> {
  const claims = new Map<number, Set<number>>();
  for (const { faces, within } of cells)
    for (const { face } of faces) {
      const before = claims.get(face);
      claims.set(face, before ? new Set(within.filter((a) => before.has(a))) : new Set(within));
    }
  // A face that is the skin of a body has that body on one side only, and is never asked about it; one with a single cell
  // lies in nothing but what that cell lies in.
  return claims;
}

/** Middles of a face's triangles, evenly over the list. */
function placesOn(face: Shape, linear: number): Vec3[] {
  const { positions, indices } = tessellate(face, { linear, angular: ANGULAR });
  const count = indices.length / 3;
  const step = Math.max(1, count / PLACES);
  const places: Vec3[] = [];
  const corner = (i: number): Vec3 => [positions[i * 3]!, positions[i * 3 + 1]!, positions[i * 3 + 2]!];
  for (let t = 0; t < count; t += step) {
    const i = 3 * Math.floor(t);
    places.push(scale(add(add(corner(indices[i]!), corner(indices[i + 1]!)), corner(indices[i + 2]!)), 1 / 3));
  }
  // A cut that ends within a face hangs in it, and the library has been seen to span such a face with triangles that leave it.
  return places.filter((at) => leastGap(face, [0], at) <= 3 * linear);
}

interface Triangle {
  a: Vec3;
  ab: Vec3;
  ac: Vec3;
  normal: Vec3;
}

/** Cells along each side of the grid that triangles are sorted into. */
const GRID = 64;

/** A solid as triangles that can be asked whether they hold a place. They are sorted as seen along the ray that asks. */
class Triangles {
  private readonly cells = new Map<number, Triangle[]>();
  private readonly slack: number;
  private readonly u: Vec3;
  private readonly v: Vec3;
  private low: [number, number] = [Number.POSITIVE_INFINITY, Number.POSITIVE_INFINITY];
  private high: [number, number] = [Number.NEGATIVE_INFINITY, Number.NEGATIVE_INFINITY];

  constructor(solid: Shape, linear: number) {
    this.slack = 3 * linear;
    this.u = squareTo(unit(ASTRAY));
    this.v = cross(unit(ASTRAY), this.u);
    const { positions, indices } = tessellate(solid, { linear, angular: ANGULAR });
    const corner = (i: number): Vec3 => [positions[i * 3]!, positions[i * 3 + 1]!, positions[i * 3 + 2]!];
    const list: { triangle: Triangle; places: [number, number][] }[] = [];
    for (let t = 0; t < indices.length; t += 3) {
      const [a, b, c] = [corner(indices[t]!), corner(indices[t + 1]!), corner(indices[t + 2]!)];
      const [ab, ac] = [sub(b, a), sub(c, a)];
      const n = cross(ab, ac);
      const size = length(n);
      if (!(size > 0)) continue;
      const places = [a, b, c].map((at) => this.seen(at));
      for (const place of places)
        for (const i of [0, 1] as const) {
          this.low[i] = Math.min(this.low[i], place[i] - this.slack);
          this.high[i] = Math.max(this.high[i], place[i] + this.slack);
        }
      list.push({ triangle: { a, ab, ac, normal: scale(n, 1 / size) }, places });
    }
    for (const { triangle, places } of list) {
      const range = ([0, 1] as const).map((i) => {
        const values = places.map((place) => place[i]);
        return [
          this.cell(Math.min(...values) - this.slack, i),
          this.cell(Math.max(...values) + this.slack, i),
        ] as const;
      });
      for (let i = range[0]![0]; i <= range[0]![1]; i++)
        for (let j = range[1]![0]; j <= range[1]![1]; j++) {
          const key = i * GRID + j;
          const cell = this.cells.get(key);
          if (cell) cell.push(triangle);
          else this.cells.set(key, [triangle]);
        }
    }
  }

  private seen(at: Vec3): [number, number] {
    return [dot(at, this.u), dot(at, this.v)];
  }

  private cell(value: number, i: 0 | 1): number {
    const size = (this.high[i] - this.low[i]) / GRID;
    return Math.max(0, Math.min(GRID - 1, Math.floor((value - this.low[i]) / size)));
  }

  /** Whether a place is inside; null where it lies too near to the skin to tell. */
  holds(at: Vec3): boolean | null {
    const [x, y] = this.seen(at);
    if (x < this.low[0] || y < this.low[1] || x > this.high[0] || y > this.high[1]) return false;
    let crossings = 0;
    for (const triangle of this.cells.get(this.cell(x, 0) * GRID + this.cell(y, 1)) ?? []) {
      const t = rayHit(at, ASTRAY, triangle);
      if (t !== null && t > 0) crossings++;
      if (Math.abs(dot(sub(at, triangle.a), triangle.normal)) < this.slack && isOver(at, triangle, this.slack))
        return null;
    }
    return crossings % 2 === 1;
  }
}

/** Whether a place near a triangle's plane is over the triangle, or nearly. */
function isOver(at: Vec3, { a, ab, ac, normal }: Triangle, slack: number): boolean {
  const foot = sub(at, scale(normal, dot(sub(at, a), normal)));
  const away = sub(foot, a);
  const reach = Math.max(length(ab), length(ac), length(sub(ac, ab)));
  if (length(away) > reach + slack) return false;
  const [d00, d01, d11] = [dot(ab, ab), dot(ab, ac), dot(ac, ac)];
  const [d20, d21] = [dot(away, ab), dot(away, ac)];
  const det = d00 * d11 - d01 * d01;
  if (det <= 0) return length(away) < slack;
  const [v, w] = [(d11 * d20 - d01 * d21) / det, (d00 * d21 - d01 * d20) / det];
  const room = slack / Math.sqrt(Math.min(d00, d11));
  return v > -room && w > -room && v + w < 1 + room;
}
