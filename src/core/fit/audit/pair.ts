import type { Body } from "../../items";
import { has } from "../../items/kinds";
import {
  areaOf,
  type Box,
  cross,
  diagonal,
  distance,
  distanceToPoint,
  type Fusion,
  facesOf,
  fuse,
  identityOf,
  innerPoint,
  length,
  looseBoxOf,
  nearest,
  normalNear,
  pointOnFace,
  type Shape,
  sub,
  triangulate,
  unit,
  type Vec3,
  volumeOf,
  volumeWithin,
} from "../../kernel";
import { SAME_PLACE, UNMADE } from "../../tolerance";

/** How two bodies lie to each other. Lengths in mm, areas in mm², volumes in mm³. */
export interface Pair {
  state: "apart" | "touch" | "overlap";
  /** Whether one of them is a sheet, which shares no room. */
  skin: boolean;
  /** The least distance between them: 0 where they touch or overlap. */
  gap: number;
  /** Where: on each of them, where they are nearest; where they touch or overlap, the same place on both. */
  at: [Vec3, Vec3];
  /** The faces of each, by place, that are nearest, that touch, or that bound what they share. */
  faces: [number[], number[]];
  /** The area that they touch in; 0 along an edge or in a point. Null where they are apart. */
  contact: number | null;
  /** What they share: how much, how far that may be off, and how deep, read at places of the faces that bound it. Null where nothing. */
  overlap: { volume: number; within: number; depth: number } | null;
}

const known = new WeakMap<object, WeakMap<object, Pair>>();

/**
 * How two bodies, solids or sheets, lie to each other, where they are: from their exact forms. Measured once for two shapes: while neither changes
 * it is free.
 * @throws KernelFault where they meet and cannot be divided by one another
 */
export function pairOf(one: Body, other: Body): Pair {
  const [a, b] = [identityOf(one.shape), identityOf(other.shape)];
  const own = known.get(a) ?? new WeakMap<object, Pair>();
  known.set(a, own);
  const turned = known.get(b)?.get(a);
  const found = own.get(b) ?? (turned ? turnedRound(turned) : measured(one, other));
  own.set(b, found);
  return found;
}

const turnedRound = ({ at, faces, ...rest }: Pair): Pair => ({
  ...rest,
  at: [at[1], at[0]],
  faces: [faces[1], faces[0]],
});

/** mm: bodies cannot be nearer than their boxes are. */
export function boxGap(one: Box, other: Box): number {
  const apart = [0, 1, 2].map((k) => Math.max(0, other.min[k]! - one.max[k]!, one.min[k]! - other.max[k]!));
  return Math.hypot(...apart);
}

/** The boxes of two bodies, as far as they are known, are further apart than this, mm. */
export function surelyApart(one: Body, other: Body, mm: number): boolean {
  const [a, b] = [looseBoxOf(one.shape), looseBoxOf(other.shape)];
  return a !== null && b !== null && boxGap(a, b) > mm;
}

function measured(one: Body, other: Body): Pair {
  const near = nearest(one.shape, other.shape)!;
  const skin = !has(one, "closed") || !has(other, "closed");
  const apart = (): Pair => {
    const faces: Pair["faces"] = [facing(one.shape, near.on1, near.on2), facing(other.shape, near.on2, near.on1)];
    const at = amidst(one, other, faces, near.gap) ?? [near.on1, near.on2];
    return { state: "apart", skin, gap: near.gap, at, faces, contact: null, overlap: null };
  };
  // The library finds the least distance of curved faces step by step: what is nearer than can be made may as well overlap.
  if (near.gap > UNMADE) return apart();
  const fusion = fuse([one.shape, other.shape], false);
  try {
    const overlap = overlapOf(fusion, one, other);
    if (overlap) return overlap;
    const touch = contactOf(fusion, one, other, near.on1);
    return touch.contact === 0 && near.gap > SAME_PLACE ? apart() : touch;
  } finally {
    fusion.free();
  }
}

/** What two solids share; null where nothing. */
function overlapOf(fusion: Fusion, one: Body, other: Body): Pair | null {
  if (!has(one, "closed") || !has(other, "closed")) return null;
  const shared = fusion.cells.filter(({ within }) => within.includes(0) && within.includes(1));
  if (shared.length === 0) return null;
  const largest = shared.reduce((most, cell) => (volumeOf(cell.shape) > volumeOf(most.shape) ? cell : most));
  const bounding = new Set(shared.flatMap(({ faces }) => faces.map(({ face }) => face)));
  const at = innerPoint(largest.shape) ?? pointOnFace(facesOf(largest.shape)[0]!);
  return {
    state: "overlap",
    skin: false,
    gap: 0,
    at: [at, at],
    faces: [placesOf(fusion, 0, bounding), placesOf(fusion, 1, bounding)],
    contact: null,
    overlap: {
      volume: shared.reduce((sum, { shape }) => sum + volumeOf(shape), 0),
      within: shared.reduce((sum, { shape }) => sum + volumeWithin(shape), 0),
      depth: Math.max(...shared.map((cell) => depthOf(cell, fusion, [one.shape, other.shape]))),
    },
  };
}

/** Faces of an argument, by place, some part of which is among these. */
const placesOf = (fusion: Fusion, argument: 0 | 1, faces: ReadonlySet<number>): number[] =>
  fusion.images[argument]!.flatMap((parts, place) => (parts.some(({ face }) => faces.has(face)) ? [place] : []));

/** How finely faces are looked at for the depth, as a part of their size: what two bodies share may be thin. */
const FINE = { linear: 1 / 400, angular: 0.2 };

/**
 * How deep what two bodies share is: as far as any place looked at, on those of its faces that are of the one, lies from those that are of the other. Exact for
 * a pin in a bore and for flat faces side by side, where it is the same everywhere.
 */
function depthOf(cell: Fusion["cells"][number], fusion: Fusion, shapes: readonly [Shape, Shape]): number {
  const of = [0, 1].map((a) => new Set(fusion.images[a]!.flatMap((parts) => parts.map(({ face }) => face))));
  const [mine, its] = of.map((own) =>
    [...new Set(cell.faces.flatMap(({ face }) => (own.has(face) ? [face] : [])))].map((face) =>
      fusion.faceHandle(face),
    ),
  ) as [Shape[], Shape[]];
  // One that lies within the other altogether would have to go all the way out of its skin.
  const [from, to] = mine.length === 0 ? [its, facesOf(shapes[0])] : [mine, its.length > 0 ? its : facesOf(shapes[1])];
  const depthAt = (at: Vec3) => Math.min(...to!.map((face) => distanceToPoint(face, at)?.gap ?? 0));
  return Math.max(0, ...from!.map((face) => deepest(face, depthAt)));
}

/** As many places of a face are looked at at first. */
const LOOKS = 80;

/** The most of something over the corners of a face's mesh, and a place amidst it: from the best of some, corner by corner for as long as it grows. */
function deepest(face: Shape, depthAt: (at: Vec3) => number): number {
  const box = looseBoxOf(face);
  const size = box ? diagonal(box) : 1;
  const { positions, indices } = triangulate(face, [face], { linear: size * FINE.linear, angular: FINE.angular });
  const known = new Map<number, number>();
  const at = (corner: number): number => {
    const found =
      known.get(corner) ?? depthAt([positions[3 * corner]!, positions[3 * corner + 1]!, positions[3 * corner + 2]!]);
    known.set(corner, found);
    return found;
  };
  const count = positions.length / 3;
  let best = 0;
  for (let i = 0; i < count; i += Math.max(1, count / LOOKS)) if (at(Math.floor(i)) > at(best)) best = Math.floor(i);
  for (let next = best; ; best = next) {
    for (let t = 0; t < indices.length; t += 3) {
      const corners = [indices[t]!, indices[t + 1]!, indices[t + 2]!];
      if (corners.includes(best)) for (const corner of corners) if (at(corner) > at(next)) next = corner;
    }
    if (next === best) break;
  }
  return Math.max(depthAt(pointOnFace(face)), count > 0 ? at(best) : 0);
}

/** Where two bodies that share no room touch: in faces, or along an edge or in a point. */
function contactOf(fusion: Fusion, one: Body, other: Body, near: Vec3): Pair {
  const ofOther = new Set(fusion.images[1]!.flatMap((parts) => parts.map(({ face }) => face)));
  const shared = new Set(
    fusion.images[0]!.flatMap((parts) => parts.flatMap(({ face }) => (ofOther.has(face) ? [face] : []))),
  );
  const handles = [...shared].map((face) => fusion.faceHandle(face));
  const areas = handles.map(areaOf);
  const at = handles.length > 0 ? pointOnFace(handles[areas.indexOf(Math.max(...areas))]!) : near;
  return {
    state: "touch",
    skin: !has(one, "closed") || !has(other, "closed"),
    gap: 0,
    at: [at, at],
    faces:
      shared.size > 0
        ? [placesOf(fusion, 0, shared), placesOf(fusion, 1, shared)]
        : [facesAt(one.shape, near), facesAt(other.shape, near)],
    contact: areas.reduce((sum, area) => sum + area, 0),
    overlap: null,
  };
}

/**
 * The faces of a shape, by place, at which it is nearest to a place beside it: those that look straight there. Where flat faces lie side by
 * side the library names a corner of one, at which others end. All that meet there where none looks so.
 */
function facing(shape: Shape, at: Vec3, to: Vec3): number[] {
  const places = facesAt(shape, at);
  const way = unit(sub(to, at));
  const straight = places.filter((place) => length(cross(normalNear(facesOf(shape)[place]!, at), way)) < STRAIGHT);
  return straight.length > 0 ? straight : places;
}

/**
 * A place well within the faces that are nearest, as far apart there as anywhere: flat faces side by side, a pin in its bore. Null where they are
 * nearest in one place only.
 */
function amidst(one: Body, other: Body, faces: Pair["faces"], gap: number): Pair["at"] | null {
  const shapes = [one.shape, other.shape] as const;
  for (const from of [0, 1] as const)
    for (const place of faces[from]) {
      const at = pointOnFace(facesOf(shapes[from])[place]!);
      for (const onto of faces[1 - from]!) {
        const foot = distanceToPoint(facesOf(shapes[1 - from]!)[onto]!, at);
        if (foot && foot.gap < gap + SAME_PLACE) return from === 0 ? [at, foot.on2] : [foot.on2, at];
      }
    }
  return null;
}

/** Sines: what the library finds step by step is at right angles to within this. */
const STRAIGHT = 1e-4;

/** The faces of a shape, by place, that a point lies on. */
function facesAt(shape: Shape, at: Vec3): number[] {
  return facesOf(shape).flatMap((face, place) => {
    const box = looseBoxOf(face);
    if (box && boxGap(box, { min: at, max: at }) > SAME_PLACE) return [];
    const near = distanceToPoint(face, at);
    return near && distance(near.on2, at) < SAME_PLACE ? [place] : [];
  });
}
