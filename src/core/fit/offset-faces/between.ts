import type { Body } from "../../items";
import {
  add,
  adjacency,
  aheadOf,
  distanceToPoint,
  dot,
  facesOf,
  length,
  meetingsOf,
  type Shape,
  scale,
  sub,
  triangulate,
  unit,
  type Vec3,
} from "../../kernel";
import { baseName } from "../../naming";
import type { Division, Knife, Piece } from "../../seam";
import { SAME_PLACE } from "../../tolerance";
import type { MovedFace, OffsetFault } from "./moved";

/**
 * What moved faces, and those beside them that run on, are called while they divide: with a face's place behind it. These come behind
 * all other names by letter, so that where one runs on into a face of the body, the whole goes by the name of that (`joinPieces`).
 */
export const [MOVED, STILL] = ["}moved", "}still"];

/** The walls of the room around a body that grows. */
export const WALLS = ["x-", "x+", "y-", "y+", "z-", "z+"].map((wall) => `offset-room:${wall}`);

/**
 * The pieces between faces as they were and as they are, moved.
 *
 * They touch the old face, or lie beyond those that do with nothing between that bounds what the face passes: a surface that runs on for the
 * sake of another face divides it, too. Where two moved faces meet, and both grow into a corner between them (or are cut back
 * at a ridge), what lies behind the one is the body's, though it lies before the other.
 * @param knives what divides the one stock body, in order. @param mayBe whether a piece is on the side of the body's skin that the faces move to.
 */
export function piecesBetween(
  division: Division,
  body: Body,
  knives: readonly Knife[],
  moved: readonly MovedFace[],
  way: number,
  mayBe: (piece: Piece) => boolean,
): Set<Piece> | OffsetFault {
  const places = moved.map(({ place }) => place);
  const corners = new Map(places.map((place) => [place, cornersWith(place, body, moved, way)] as const));
  const bounds = new Map(places.map((place) => [place, boundsOf(place, body, moved, corners.get(place)!)] as const));
  const byFace = piecesByFace(division);
  const namesAt = knivesAt(division, knives);
  const wanted = way > 0 ? "back" : "front";
  const liesBy = (piece: Piece, place: number) => piece.sides[`${MOVED}-${place}`] === wanted;
  const touched = (piece: Piece) => places.filter((place) => piece.faces.includes(body.faces[place]!));
  /** Of each piece that is between, the faces that pass it. */
  const passed = new Map<Piece, Set<number>>();
  const queue: Piece[] = [];
  const note = (piece: Piece, by: readonly number[]): OffsetFault | null => {
    const before = passed.get(piece);
    const fresh = by.filter((place) => !before?.has(place));
    if (fresh.length === 0) return null;
    if (!before) {
      if (piece.faces.some((name) => WALLS.includes(name))) return { why: "open", places: [...by] };
      if (isTorn(piece)) return { why: "undivided", places: [...by] };
    }
    passed.set(piece, new Set([...(before ?? []), ...fresh]));
    queue.push(piece);
    return null;
  };
  for (const piece of division.pieces) {
    if (!mayBe(piece)) continue;
    const at = touched(piece);
    const open = at.find((place) => piece.sides[`${MOVED}-${place}`] === "both");
    if (open !== undefined) return { why: "open", places: [open] };
    const fault = note(
      piece,
      at.filter((place) => liesBy(piece, place)),
    );
    if (fault) return fault;
  }
  const amount = new Map(moved.map(({ place, by }) => [place, by] as const));
  const where = new Map<number, Vec3[]>();
  /** Whether a face passes, on its way, where a face of the arrangement lies, or a part of it that nothing bounds. */
  const passes = (place: number, piece: Piece, face: number): boolean => {
    const places = where.get(face) ?? placesOn(piece.fusion.faceHandle(face));
    where.set(face, places);
    const bounding = (namesAt.get(face) ?? []).flatMap((name) => bounds.get(place)!.get(name) ?? []);
    // A free surface has no numbers to be asked: nothing on it is ruled out, and what bounds it does so everywhere.
    const onWay = places.filter((at) => {
      const ahead = aheadOf(body.shape, place, at);
      return ahead === null || (ahead * way > -SAME_PLACE && ahead * way < Math.abs(amount.get(place)!) + SAME_PLACE);
    });
    return onWay.length > 0 && bounding.every((other) => !onWay.some((at) => boundsAt(body, place, other, at)));
  };
  while (queue.length > 0) {
    const piece = queue.pop()!;
    for (const { face } of piece.uses) {
      const names = namesAt.get(face) ?? [];
      for (const next of byFace.get(face) ?? []) {
        if (next === piece || !mayBe(next)) continue;
        // Past what bounds a face that the piece touches goes only what grows into a corner with it.
        const left = touched(piece).filter((place) => names.includes(`${MOVED}-${place}`));
        const by = [...passed.get(piece)!].filter(
          (place) =>
            liesBy(next, place) && passes(place, piece, face) && left.every((other) => corners.get(place)!.has(other)),
        );
        if (by.length === 0) continue;
        const fault = note(next, by);
        if (fault) return fault;
      }
    }
  }
  return new Set(passed.keys());
}

/** The other moved faces, by place, with which a face grows into a corner wherever they meet, or is cut back at a ridge. */
function cornersWith(place: number, { shape }: Body, moved: readonly MovedFace[], way: number): Set<number> {
  const others = new Set(moved.map((face) => face.place));
  const wanted = way > 0 ? "inwards" : "outwards";
  const [yes, no] = [new Set<number>(), new Set<number>()];
  for (const { faces, bend } of meetingsOf(shape)) {
    if (!faces.includes(place)) continue;
    const other = faces[0] === place ? faces[1] : faces[0];
    if (others.has(other)) (bend === wanted ? yes : no).add(other);
  }
  return new Set([...yes].filter((other) => !no.has(other)));
}

/**
 * The surfaces that bound what a moved face passes, by what they are called: its own, those of faces that it meets and that stay, and
 * those of moved ones that it meets, but for `corners`; each with the face that it is of. All others divide it for no reason of its own.
 */
function boundsOf(
  place: number,
  { shape, faces }: Body,
  moved: readonly MovedFace[],
  corners: ReadonlySet<number>,
): Map<string, number> {
  const others = new Set(moved.map((face) => face.place));
  const bounds = new Map([[`${MOVED}-${place}`, place]]);
  for (const other of adjacency(shape).neighbours[place]!) {
    if (!others.has(other)) for (const name of [`${STILL}-${other}`, faces[other]!]) bounds.set(baseName(name), other);
    else if (!corners.has(other)) bounds.set(`${MOVED}-${other}`, other);
  }
  return bounds;
}

/**
 * Whether another face that runs on bounds, at a place of it, what a moved face passes: followed back to where the moved face was, it comes to the
 * edge of the two, or past the moved face. Where it crosses that amid itself it is a stray part, that divides for no reason.
 */
function boundsAt({ shape }: Body, place: number, other: number, at: Vec3): boolean {
  const crossing = place === other ? null : onBoth(shape, place, other, at);
  const faces = facesOf(shape);
  if (!crossing || (distanceToPoint(faces[place]!, crossing)?.gap ?? 1) > NEAR) return true;
  return (distanceToPoint(faces[other]!, crossing)?.gap ?? 0) < NEAR;
}

/** The place on the surfaces of two faces that is next to another; null where it is not found. */
function onBoth(shape: Shape, one: number, other: number, near: Vec3): Vec3 | null {
  let at = near;
  for (let round = 0; round < ROUNDS; round++) {
    const [a, b] = [slopeOf(shape, one, at), slopeOf(shape, other, at)];
    if (!a || !b) return null;
    if (Math.abs(a.ahead) < NEAR / 10 && Math.abs(b.ahead) < NEAR / 10) return at;
    const across = sub(b.way, scale(a.way, dot(a.way, b.way)));
    const size = length(across);
    if (size < LEANING) return null;
    at = sub(at, scale(a.way, a.ahead));
    at = sub(at, scale(across, (b.ahead - a.ahead * dot(a.way, b.way)) / size ** 2));
  }
  return null;
}

/** How far a place lies before a face's surface, and the way in which that grows; null where it has no closed form. */
function slopeOf(shape: Shape, place: number, at: Vec3): { ahead: number; way: Vec3 } | null {
  const ahead = aheadOf(shape, place, at);
  if (ahead === null) return null;
  const by = (i: number, step: number) =>
    aheadOf(shape, place, at.map((value, k) => (k === i ? value + step : value)) as unknown as Vec3)!;
  return { ahead, way: unit([0, 1, 2].map((i) => by(i, STEP) - by(i, -STEP)) as unknown as Vec3) };
}

/** mm: places that are nearer are one. */
const NEAR = 1e-6;
const ROUNDS = 30;
/** mm, to see in which way it grows. */
const STEP = 1e-4;
/** Sine of an angle: surfaces that lean less against each other are not followed. */
const LEANING = 1e-4;

/** The middles of a face's triangles. */
function placesOn(face: Shape): Vec3[] {
  const { positions, indices } = triangulate(face, [], { linear: 0.5, angular: 0.3 });
  const corner = (i: number): Vec3 => [positions[3 * i]!, positions[3 * i + 1]!, positions[3 * i + 2]!];
  return Array.from({ length: indices.length / 3 }, (_, t) => {
    const [a, b, c] = [corner(indices[3 * t]!), corner(indices[3 * t + 1]!), corner(indices[3 * t + 2]!)];
    return scale(add(add(a, b), c), 1 / 3);
  });
}

/** What each face of the arrangement is called as a part of the knives, without what tells parts of one apart: two may lie in one surface. */
export function knivesAt({ pieces }: Division, knives: readonly Knife[]): Map<number, string[]> {
  const names = new Map<number, string[]>();
  const images = pieces[0]?.fusion.images ?? [];
  // The stock is the first that is divided.
  knives.forEach(({ faces }, k) => {
    images[k + 1]!.forEach((parts, f) => {
      for (const { face } of parts) names.set(face, [...(names.get(face) ?? []), baseName(faces[f]!)]);
    });
  });
  return names;
}

/** The pieces that have a face of the arrangement. */
export function piecesByFace({ pieces }: Division): Map<number, Piece[]> {
  const byFace = new Map<number, Piece[]>();
  for (const piece of pieces) for (const { face } of piece.uses) byFace.set(face, [...(byFace.get(face) ?? []), piece]);
  return byFace;
}

/** Whether something that runs on ends within a piece: then it may bound less than it ought to. */
function isTorn({ fusion, shape, sides }: Piece): boolean {
  if (Object.values(sides).includes("both")) return true;
  return fusion.cells.some((cell) => cell.shape === shape && cell.faces.some(({ sign }) => sign === 0));
}
