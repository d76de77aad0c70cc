import type { Deviation } from "../../deviation";
import { boxOf } from "../facts/box";
import { contains, distanceToPoint } from "../facts/distance";
import { deepPlaces } from "../facts/inner-point";
import { roughArea } from "../facts/mass";
import { pointOnFace } from "../facts/on-face";
import { footOn, leastGap } from "../facts/surface-gap";
import { facesOf, type Shape, shapeKind } from "../library/topology";
import { add, diagonal, scale, type Vec3 } from "../space/vectors";
import { cornerOf, cornersOf, Drawn } from "./drawn";
import type { Cell, Fusion } from "./general-fuse";
import { Triangles } from "./triangles";

/** How many places of a face are asked about. */
const PLACES = 240;
/** Radians between neighbouring triangles. */
const ANGULAR = 0.25;

/** How many places within a cell are asked about. */
const DEPTHS = 3;

/** How far a corner is off by what single precision leaves of it, as a part of its coordinates: twice over. */
const SINGLE = 2.4e-7;

/** How many places of a face are asked about exactly. */
const EXACT_PLACES = 12;

/**
 * By how much more a face may be off between the places that are asked about: a shallow lens that is nothing at two corners is eight ninths
 * of what it is amid them in the triangle's middle; and some more, as not all places are asked about.
 */
const BETWEEN = 1.25;

/** How far within a triangle's corners places are asked about, as a part of the way to its middle. */
const WITHIN = 0.05;

/** mm: what a place may lie off a face and still be on it. */
const ON_FACE = 1e-6;

/** mm: corners are in single precision, and far from the origin they lie off the face by as much. */
const roundedAt = (at: Vec3): number => SINGLE * Math.max(...at.map(Math.abs));

/** Which places of a list are asked about exactly: of its begin more than of the rest, as it is what counts. */
function askedOf(count: number): number[] {
  const evenly = Array.from({ length: EXACT_PLACES }, (_, i) => Math.floor((i * count) / EXACT_PLACES));
  return [...new Set([...BEGIN, ...evenly])].filter((i) => i < count).sort((i, j) => i - j);
}
const BEGIN = [0, 1, 2, 3, 5, 8, 13, 21, 34];

type Corners = [Vec3, Vec3, Vec3];

const middleOf = ([a, b, c]: Corners): Vec3 => scale(add(add(a, b), c), 1 / 3);

/**
 * An opinion of its own on divisions of the same bodies, by triangles. The library divides them in one way after another until
 * one adds up: what is asked of the bodies themselves is found out once.
 */
export class Opinion {
  private readonly solids: readonly number[];
  private readonly meshes = new Map<number, Triangles>();
  private readonly drawn = new WeakMap<Fusion, Drawn>();
  private fineness: number | null = null;

  /** @param divided how many of the arguments, from the first, are what is divided: only what lies within those is looked at. */
  constructor(
    private readonly args: readonly Shape[],
    private readonly divided = args.length,
  ) {
    this.solids = args.flatMap((arg, a) => (shapeKind(arg) === "solid" ? [a] : []));
  }

  /**
   * Every face of a body lies wholly inside each other body, or wholly outside, as the cells on its sides say; and so does the
   * inside of every cell. Places too near to a skin for triangles to tell are left out: of bodies that are nearly the same
   * that is all of their faces, and not their insides.
   * @returns a place where the division says otherwise; null where none was found.
   */
  contradiction(fusion: Fusion): Vec3 | null {
    for (const { face, within, askers } of this.askedFaces(fusion)) {
      const places = this.placesOn(fusion, face);
      // What the library cannot draw nobody can be asked about.
      if (places.length === 0 && this.isLarge(fusion, face)) return pointOnFace(fusion.faceHandle(face));
      for (const a of askers) {
        const claimed = within.has(a);
        for (const at of places) {
          const inside = this.meshOf(a).holds(at);
          if (inside !== null && inside !== claimed) return at;
        }
      }
    }
    for (const cell of this.made(fusion)) {
      const { shape, within } = cell;
      for (const at of deepPlaces(this.drawnOf(fusion).cell(cell)).slice(0, DEPTHS))
        for (const a of this.solids) {
          const inside = this.meshOf(a).holds(at);
          // Triangles of a cell may leave it where a cut hangs in a face: what they say is confirmed before it counts.
          if (
            inside !== null &&
            inside !== within.includes(a) &&
            contains(shape, at) &&
            contains(this.args[a]!, at) === inside
          )
            return at;
        }
    }
    return null;
  }

  /**
   * How far a division is off at most, beyond what it says, among places that triangles cannot tell, and where: places on a
   * face, near the skin of another body and further from it than a tolerance. Bodies that are nearly the same are divided so
   * where the library does not see that their skins cross.
   * @param tolerance mm: how far off the division is said to be.
   * @returns null where it is off nowhere.
   */
  misplaced(fusion: Fusion, tolerance: number): Deviation | null {
    let most = null as Deviation | null;
    for (const { face, within, askers } of this.askedFaces(fusion)) {
      const places = [...cornersOf(this.drawnOf(fusion).face(face)), ...this.betweenCorners(fusion, face)];
      for (const a of askers)
        most =
          this.furthestOff(fusion, face, this.nearTo(a, places, tolerance), a, within.has(a), most?.size ?? 0) ?? most;
    }
    for (const off of this.mergedApart(fusion, tolerance)) if (off.size > (most?.size ?? 0)) most = off;
    return most && { ...most, size: BETWEEN * most.size };
  }

  /** Faces that several arguments are said to share, and that lie off the surface that one of them has there: how far, and where. */
  private *mergedApart(fusion: Fusion, tolerance: number): Generator<Deviation> {
    const origins = new Map<number, [a: number, place: number][]>();
    for (const [a, ofArg] of fusion.images.entries())
      for (const [place, parts] of ofArg.entries())
        for (const { face } of parts) origins.set(face, [...(origins.get(face) ?? []), [a, place]]);
    for (const [face, [first, ...others]] of origins) {
      if (others.length === 0 || ![first!, ...others].some(([a]) => a < this.divided)) continue;
      const corners = cornersOf(this.drawnOf(fusion).face(face));
      for (const [a, place] of [first!, ...others])
        for (const at of corners) {
          const size = leastGap(this.args[a]!, [place], at);
          if (size > tolerance + roundedAt(at)) yield { at, size };
        }
    }
  }

  /**
   * Places on a face amid its triangles and just within their corners, put onto its own surface. All corners may lie in the
   * plane that ends another body, and so on its skin, where all the rest of the face is beside it.
   */
  private betweenCorners(fusion: Fusion, face: number): Vec3[] {
    const [arg, place] = this.originOf(fusion, face);
    return this.trianglesOf(fusion, face).flatMap((corners) => {
      const middle = middleOf(corners);
      const beside = corners.map((corner) => add(scale(corner, 1 - WITHIN), scale(middle, WITHIN)));
      return [middle, ...beside].map((at) => footOn(arg, place, at)).filter((foot) => foot !== null);
    });
  }

  /** Places that a body's triangles cannot tell, as they lie too near to its skin, and further from it than a tolerance. */
  private nearTo(a: number, places: readonly Vec3[], tolerance: number): Deviation[] {
    const near: Deviation[] = [];
    const skin = facesOf(this.args[a]!).map((_, place) => place);
    for (const at of places) {
      if (this.meshOf(a).holds(at) !== null) continue;
      const size = leastGap(this.args[a]!, skin, at);
      if (size > tolerance + roundedAt(at)) near.push({ at, size });
    }
    return near;
  }

  /** The worst of places that lie on the wrong side of a body's skin, some of them asked about; null where none is worse than what is known. */
  private furthestOff(
    fusion: Fusion,
    face: number,
    near: Deviation[],
    a: number,
    claimed: boolean,
    known: number,
  ): Deviation | null {
    // Those furthest off first: the first that is misplaced is the worst of those asked about, and none of those before it that
    // were not is further off than the one after the last that is right.
    near.sort((p, q) => q.size - p.size);
    let unasked = 0;
    for (const i of askedOf(near.length)) {
      const { size } = near[unasked]!;
      if (size <= known) return null;
      const { at } = near[i]!;
      if (contains(this.args[a]!, at) !== claimed && this.isOn(fusion, face, at)) return { size, at };
      unasked = i + 1;
    }
    return null;
  }

  /** Whether a place on a face's surface is one on the face: beside its edges, triangles may reach past them. */
  private isOn(fusion: Fusion, face: number, at: Vec3): boolean {
    return (distanceToPoint(fusion.faceHandle(face), at)?.gap ?? 0) <= ON_FACE + roundedAt(at);
  }

  /** The faces of what is divided that some body can be asked about, as their own it is not, with what they are said to lie in. */
  private askedFaces(fusion: Fusion): { face: number; within: ReadonlySet<number>; askers: number[] }[] {
    const own = this.args.map((_, a) => new Set(fusion.images[a]!.flat().map(({ face }) => face)));
    // Sheets that are divided bound no cell of theirs: what is made of them is their faces.
    const used = new Set([
      ...own.slice(0, this.divided).flatMap((faces) => [...faces]),
      ...this.made(fusion).flatMap(({ faces }) => faces.map(({ face }) => face)),
    ]);
    const claims = claimsOf(fusion.cells);
    return [...used].flatMap((face) => {
      // What is in no cell lies in no body.
      const within = claims.get(face) ?? new Set<number>();
      const askers = this.solids.filter((a) => !own[a]!.has(face));
      return askers.length > 0 ? [{ face, within, askers }] : [];
    });
  }

  /** Middles of a face's triangles. */
  private placesOn(fusion: Fusion, face: number): Vec3[] {
    const places = this.trianglesOf(fusion, face).map(middleOf);
    // A cut that ends within a face hangs in it, and the library has been seen to span such a face with triangles that leave it.
    const [arg, place] = this.originOf(fusion, face);
    return places.filter((at) => leastGap(arg, [place], at) <= 3 * this.linear);
  }

  /** Whether a face is larger than what triangles may leave out. */
  private isLarge(fusion: Fusion, face: number): boolean {
    return roughArea(fusion.faceHandle(face)) > (3 * this.linear) ** 2;
  }

  /** Some of a face's triangles, evenly over the list. */
  private trianglesOf(fusion: Fusion, face: number): Corners[] {
    const { positions, indices } = this.drawnOf(fusion).face(face);
    const count = indices.length / 3;
    const step = Math.max(1, count / PLACES);
    const corner = (i: number) => cornerOf(positions, indices[i]!);
    const triangles: Corners[] = [];
    for (let t = 0; t < count; t += step) {
      const i = 3 * Math.floor(t);
      triangles.push([corner(i), corner(i + 1), corner(i + 2)]);
    }
    return triangles;
  }

  /** The body that a face is part of a face of, and which face that is: on whose surface it lies. */
  private originOf({ images, faceHandle }: Fusion, face: number): [Shape, number] {
    for (const [a, arg] of this.args.entries()) {
      const place = images[a]!.findIndex((parts) => parts.some((part) => part.face === face));
      if (place >= 0) return [arg, place];
    }
    return [faceHandle(face), 0];
  }

  /** A division as triangles. */
  drawnOf(fusion: Fusion): Drawn {
    let drawn = this.drawn.get(fusion);
    if (!drawn) {
      drawn = new Drawn(fusion, { linear: this.linear, angular: ANGULAR });
      this.drawn.set(fusion, drawn);
    }
    return drawn;
  }

  private made({ cells }: Fusion): Cell[] {
    return cells.filter(({ within }) => within.some((a) => a < this.divided));
  }

  private meshOf(a: number): Triangles {
    let mesh = this.meshes.get(a);
    if (!mesh) {
      mesh = new Triangles(this.args[a]!, this.linear, ANGULAR);
      this.meshes.set(a, mesh);
    }
    return mesh;
  }

  /** mm: places on one body's face are as far off as the triangles of the other are: room for both. */
  private get linear(): number {
    this.fineness ??= finenessOf(this.args);
    return this.fineness;
  }
}

function finenessOf(args: readonly Shape[]): number {
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
