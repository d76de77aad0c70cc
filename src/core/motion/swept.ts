import type { Body } from "../items";
import {
  boxOf,
  diagonal,
  dot,
  drawnFace,
  facesOf,
  freeShape,
  length,
  ownHandle,
  partFace,
  placed,
  type Shape,
  surfaceRecordsOf,
  tessellate,
  turnedFace,
  type Vec3,
} from "../kernel";
import { divideAll, joinPieces } from "../seam";
import { leadingPartings, speedAt } from "./leading";
import { type Move, placementOf } from "./moves";

/** The room that a body passes through. */
export interface Swept {
  shape: Shape;
  /** By place: what each face came of. */
  faces: string[];
}

/** Why it cannot be had exactly: a face, by place, of which it cannot be told by planes where it leads; or the room is not one solid. */
export type SweptFault = { why: "free" | "unclear"; places: number[] } | { why: "apart"; places: number[] };

/** How finely a face is looked at to tell whether it leads. */
const LOOK = { linear: 0.2, angular: 0.3 };
/** As a part of the highest speed: slower than that a place moves along its face. */
const ALONG = 1e-4;
/** Radians: a turn is swept in parts no larger than that where a circle may meet a face's leading part more than once. */
const QUARTER = Math.PI / 2;

/**
 * The room that a solid passes through along a chain of moves, keeping its direction but for turns that are moves of their own: the body where each move
 * begins and ends, and what its leading faces draw on the way. Exact.
 *
 * A place is in it when the way back from it meets the body: it was inside then already, or came in through a face that led.
 */
export function sweptRoom(body: Body, moves: readonly Move[]): Swept | SweptFault {
  const parts: Body[] = [];
  let pose = ownHandle(body.shape);
  const take = (shape: Shape, mark: string, faces: readonly string[]) =>
    parts.push({ ...body, id: `${body.id} ${mark}`, shape, faces: [...faces] });
  try {
    take(ownHandle(pose), "0", body.faces);
    for (const [m, move] of moves.entries()) {
      const drawn = drawnBy(pose, move);
      if ("why" in drawn) return drawn;
      for (const [i, { shape, place }] of drawn.entries()) {
        const name = body.faces[place]!;
        take(
          shape,
          `${m}.${i}`,
          facesOf(shape).map((_, f) => `${name}>${m}.${f}`),
        );
      }
      const next = placed(pose, placementOf(move));
      freeShape(pose);
      pose = next;
      // Whoever has gone all round is back where it was.
      if (!isWhole(move)) take(ownHandle(pose), `${m + 1}`, body.faces);
    }
    return united(parts);
  } finally {
    freeShape(pose);
    for (const { shape } of parts) freeShape(shape);
  }
}

const isWhole = (move: Move): boolean => move.kind === "turn" && Math.abs(move.angle) >= 2 * Math.PI - 1e-12;

/** What the leading faces of a body draw while it makes one move. The shapes belong to the caller. */
function drawnBy(shape: Shape, move: Move): { shape: Shape; place: number }[] | SweptFault {
  const drawn: { shape: Shape; place: number }[] = [];
  const box = boxOf(shape)!;
  const away = move.kind === "turn" ? length(move.at) : 0;
  const reach = 4 * (diagonal(box) + away + Math.max(...[...box.min, ...box.max].map(Math.abs)));
  const unclear = (why: "free" | "unclear", place: number): SweptFault => {
    for (const one of drawn) freeShape(one.shape);
    return { why, places: [place] };
  };
  const surfaces = surfaceRecordsOf(shape);
  for (const [place, face] of facesOf(shape).entries()) {
    const partings = leadingPartings(surfaces[place]!, move);
    if (!partings) return unclear("free", place);
    const parts = partFace(face, partings, reach);
    try {
      for (const part of parts) {
        const leads = leading(part, move);
        if (leads === null) return unclear("unclear", place);
        if (leads) drawn.push(...drawnFrom(part, move, partings.length > 1).map((one) => ({ shape: one, place })));
      }
    } finally {
      for (const part of parts) freeShape(part);
    }
  }
  return drawn;
}

function drawnFrom(face: Shape, move: Move, twice: boolean): Shape[] {
  if (move.kind === "straight") return [drawnFace(face, move.by)];
  const count = twice ? Math.ceil(Math.abs(move.angle) / QUARTER - 1e-9) : 1;
  const angle = move.angle / count;
  return Array.from({ length: count }, (_, i) => {
    const turn = { about: move.at, axis: move.axis, angle: i * angle, by: [0, 0, 0] as Vec3 };
    const begun = i === 0 ? ownHandle(face) : placed(face, turn);
    const solid = turnedFace(begun, move.at, move.axis, angle);
    freeShape(begun);
    return solid;
  });
}

/** Whether a part of a face leads; null where some of it does and some trails. */
function leading(part: Shape, move: Move): boolean | null {
  const { positions, normals } = tessellate(part, LOOK);
  let [most, least, fastest] = [0, 0, 0];
  for (let i = 0; i < positions.length; i += 3) {
    const speed = speedAt(move, [positions[i]!, positions[i + 1]!, positions[i + 2]!]);
    const outwards = dot(speed, [normals[i]!, normals[i + 1]!, normals[i + 2]!]);
    most = Math.max(most, outwards);
    least = Math.min(least, outwards);
    fastest = Math.max(fastest, length(speed));
  }
  const slow = ALONG * fastest;
  if (most > slow && least < -slow) return null;
  return most > slow;
}

function united(parts: readonly Body[]): Swept | SweptFault {
  const division = divideAll(parts);
  try {
    const joined = joinPieces(division, division.pieces);
    const [only, ...others] = joined;
    if (!only || others.length > 0 || only.form !== "solid") {
      for (const { shape } of joined) freeShape(shape);
      return { why: "apart", places: [] };
    }
    return { shape: only.shape, faces: only.faces };
  } finally {
    division.free();
  }
}
