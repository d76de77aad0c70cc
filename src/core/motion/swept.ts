import type { Body } from "../items";
import {
  boxOf,
  centre,
  cross,
  diagonal,
  dot,
  type FaceMove,
  facesOf,
  freeShape,
  length,
  makePlaneFace,
  ownHandle,
  partFace,
  placed,
  type Shape,
  shellOf,
  sub,
  surfaceRecordsOf,
  sweptPatches,
  tessellate,
  type Vec3,
} from "../kernel";
import { divideAll, divideEach, joinPieces, type Knife } from "../seam";
import { leadingPartings, type Parting, speedAt } from "./leading";
import { type Move, placementOf } from "./moves";

/** The room that a body passes through. */
export interface Swept {
  shape: Shape;
  /** By place: what each face came of. */
  faces: string[];
}

/** Why it cannot be had exactly: a face, by place, of which it cannot be told by planes where it leads; or the room is not one solid. */
export interface SweptFault {
  why: "free" | "unclear" | "apart" | "far";
  places: number[];
}

/** How finely a face is looked at to tell whether it leads. */
const LOOK = { linear: 0.2, angular: 0.3 };
/** Ways longer, and circles wider, than so many times the body are not worked out: they take minutes, and the body is lost in them. */
const FAR = 100;

/** How far a move goes, or how far from its axis a place is, mm. */
const reachOf = (move: Move, place: Vec3): number =>
  move.kind === "straight" ? length(move.by) : length(cross(sub(place, move.at), move.axis));

/** As a part of the highest speed: slower than that a place moves along its face. */
const ALONG = 1e-4;

/**
 * The room that a solid passes through along a chain of moves, keeping its direction but for turns that are moves of their own: the body where it
 * begins, and what its leading faces draw on the way. Exact.
 *
 * A place is in it when the way back from it meets the body: it lay in it from the beginning, or came in through a face that led. So where the body
 * comes to stand need not be added.
 */
export function sweptRoom(body: Body, moves: readonly Move[]): Swept | SweptFault {
  const size = diagonal(boxOf(body.shape)!);
  const middle = centre(boxOf(body.shape)!);
  if (moves.some((move) => reachOf(move, middle) > FAR * size)) return { why: "far", places: [] };
  const parts: Body[] = [];
  let pose = ownHandle(body.shape);
  const take = (shape: Shape, mark: string, faces: readonly string[]) =>
    parts.push({ ...body, id: `${body.id} ${mark}`, shape, faces: [...faces] });
  try {
    take(ownHandle(pose), "0", body.faces);
    for (const [m, move] of moves.entries()) {
      const drawn = drawnBy(pose, move);
      if ("why" in drawn) return drawn;
      for (const [i, { shape, places }] of drawn.entries())
        take(
          shape,
          `${m}.${i}`,
          places.map((place, f) => `${body.faces[place]!}>${m}.${f}`),
        );
      const next = placed(pose, placementOf(move));
      freeShape(pose);
      pose = next;
    }
    return united(parts);
  } finally {
    freeShape(pose);
    for (const { shape } of parts) freeShape(shape);
  }
}

/** What the leading faces of a body draw while it makes one move: of each face of it, by place, that it came of. The shapes belong to the caller. */
function drawnBy(shape: Shape, move: Move): { shape: Shape; places: number[] }[] | SweptFault {
  const box = boxOf(shape)!;
  const away = move.kind === "turn" ? length(move.at) : 0;
  const reach = 4 * (diagonal(box) + away + Math.max(...[...box.min, ...box.max].map(Math.abs)));
  const surfaces = surfaceRecordsOf(shape);
  const lead: { part: Shape; place: number }[] = [];
  try {
    for (const [place, face] of facesOf(shape).entries()) {
      const partings = leadingPartings(surfaces[place]!, move);
      if (!partings) return { why: "free", places: [place] };
      const { parts, leads } = parted(face, partings, reach, move);
      for (const [i, part] of parts.entries())
        if (leads[i]) lead.push({ part, place });
        else freeShape(part);
      if (leads.includes(null)) return { why: "unclear", places: [place] };
    }
    if (lead.length === 0) return [];
    return sweptPatches(
      lead.map(({ part }) => part),
      moveOf(move),
    ).map(({ shape: solid, sources }) => ({ shape: solid, places: sources.map((source) => lead[source]!.place) }));
  } finally {
    for (const { part } of lead) freeShape(part);
  }
}

/** A face in parts, with whether each leads: where the quick way leaves one that does both, by the seam engine, which tries harder. */
function parted(face: Shape, partings: readonly Parting[], reach: number, move: Move) {
  const quick = partFace(face, partings, reach);
  const leads = quick.map((part) => leading(part, move));
  if (!leads.includes(null) || partings.length === 0) return { parts: quick, leads };
  for (const part of quick) freeShape(part);
  const sheet: Body = { id: "face", kind: "sheet", shape: shellOf([face]), faces: ["face"], hint: { text: "" } };
  const planes = partings.map(({ at, normal }, i): Knife => {
    const item: Body = {
      id: `plane ${i}`,
      kind: "sheet",
      shape: makePlaneFace(at, normal, reach),
      faces: ["plane"],
      hint: { text: "" },
    };
    return { item, shape: item.shape, faces: item.faces };
  });
  const division = divideEach([sheet], planes);
  try {
    const parts = division.pieces.flatMap(({ shape }) => facesOf(shape).map(ownHandle));
    return { parts, leads: parts.map((part) => leading(part, move)) };
  } finally {
    division.free();
    freeShape(sheet.shape);
    for (const { shape } of planes) freeShape(shape);
  }
}

const moveOf = (move: Move): FaceMove =>
  move.kind === "straight" ? { by: move.by } : { at: move.at, axis: move.axis, angle: move.angle };

/** Whether a part of a face leads; null where some of it does and some trails. */
function leading(part: Shape, move: Move): boolean | null {
  const { positions, normals, indices } = tessellate(part, LOOK);
  const three = (from: Float32Array, corner: number): Vec3 => [
    from[3 * corner]!,
    from[3 * corner + 1]!,
    from[3 * corner + 2]!,
  ];
  let [most, least, fastest] = [0, 0, 0];
  for (let t = 0; t < indices.length; t += 3) {
    const corners = [indices[t]!, indices[t + 1]!, indices[t + 2]!] as const;
    const [a, b, c] = corners.map((corner) => three(positions, corner)) as [Vec3, Vec3, Vec3];
    const flat = cross(sub(b, a), sub(c, a));
    for (const [k, corner] of corners.entries()) {
      const normal = three(normals, corner);
      // At a pole, where a surface has no normal of its own, the library gives any.
      if (!(dot(normal, flat) > 0.5 * length(flat))) continue;
      const speed = speedAt(move, [a, b, c][k]!);
      const outwards = dot(speed, normal);
      most = Math.max(most, outwards);
      least = Math.min(least, outwards);
      fastest = Math.max(fastest, length(speed));
    }
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
