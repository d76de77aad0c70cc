import type { Body } from "../../items";
import { adjacency, meetingsOf } from "../../kernel";
import { baseName } from "../../naming";
import type { Division, Knife, Piece } from "../../seam";
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
  const bounds = new Map(places.map((place) => [place, boundsOf(place, body, moved, way)] as const));
  const byFace = piecesByFace(division);
  const namesAt = knivesAt(division, knives);
  const wanted = way > 0 ? "back" : "front";
  const liesBy = (piece: Piece, place: number) => piece.sides[`${MOVED}-${place}`] === wanted;
  const touched = (piece: Piece) => places.filter((place) => piece.faces.includes(body.faces[place]!));
  /** Of each piece that is between, the faces that pass it. */
  const passed = new Map<Piece, Set<number>>();
  const queue: Piece[] = [];
  const add = (piece: Piece, by: readonly number[]): OffsetFault | null => {
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
    const fault = add(
      piece,
      at.filter((place) => liesBy(piece, place)),
    );
    if (fault) return fault;
  }
  while (queue.length > 0) {
    const piece = queue.pop()!;
    for (const { face } of piece.uses) {
      const names = namesAt.get(face) ?? [];
      for (const next of byFace.get(face) ?? []) {
        if (next === piece || !mayBe(next)) continue;
        const by = [...passed.get(piece)!].filter((place) => liesBy(next, place));
        if (by.length === 0 || by.some((place) => names.some((name) => bounds.get(place)!.has(name)))) continue;
        const fault = add(next, by);
        if (fault) return fault;
      }
    }
  }
  return new Set(passed.keys());
}

/**
 * The surfaces that bound what a moved face passes, by what they are called: its own, those of faces that it meets and that stay, and
 * those of moved ones that it meets, but for where both grow into a corner between them, or are cut back at a ridge.
 * All others divide it for no reason of its own.
 */
function boundsOf(place: number, { shape, faces }: Body, moved: readonly MovedFace[], way: number): Set<string> {
  const others = new Set(moved.map((face) => face.place));
  const open = way > 0 ? "inwards" : "outwards";
  const met = meetingsOf(shape).flatMap(({ faces: [one, two], bend }) =>
    one === place || two === place ? [{ other: one === place ? two : one, bend }] : [],
  );
  const bounds = new Set([`${MOVED}-${place}`]);
  for (const other of adjacency(shape).neighbours[place]!) {
    const bends = met.filter((meeting) => meeting.other === other);
    const through = bends.length > 0 && bends.every(({ bend }) => bend === open);
    if (!others.has(other)) for (const name of [`${STILL}-${other}`, faces[other]!]) bounds.add(baseName(name));
    else if (!through) bounds.add(`${MOVED}-${other}`);
  }
  return bounds;
}

/** What each face of the arrangement is called as a part of the knives, without what tells parts of one apart: two may lie in one surface. */
function knivesAt({ pieces }: Division, knives: readonly Knife[]): Map<number, string[]> {
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

function piecesByFace({ pieces }: Division): Map<number, Piece[]> {
  const byFace = new Map<number, Piece[]>();
  for (const piece of pieces) for (const { face } of piece.uses) byFace.set(face, [...(byFace.get(face) ?? []), piece]);
  return byFace;
}

/** Whether something that runs on ends within a piece: then it may bound less than it ought to. */
function isTorn({ fusion, shape, sides }: Piece): boolean {
  if (Object.values(sides).includes("both")) return true;
  return fusion.cells.some((cell) => cell.shape === shape && cell.faces.some(({ sign }) => sign === 0));
}
