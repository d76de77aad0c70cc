import type { Body, Item } from "../../items";
import {
  add,
  adjacency,
  type Box,
  distanceToPoint,
  facesOf,
  freeShape,
  grownBox,
  KernelFault,
  looseBoxOf,
  makeBox,
  movedFace,
  normalNear,
  pointOnFace,
  type Shape,
  scale,
  sub,
  surfacesOf,
  triangulate,
  type Vec3,
} from "../../kernel";
import { baseName, faceNamesOf } from "../../naming";
import { divideEach, joinPieces, type Knife, type Piece } from "../../seam";
import { SAME_PLACE } from "../../tolerance";
import { movedBar } from "./bar";
import { MOVED, piecesBetween, STILL, WALLS } from "./between";
import { notHeld } from "./held";
import { movedInPlace } from "./in-place";
import type { MovedFace, OffsetFault } from "./moved";
import { originOf } from "./origin";
import { movedWhole } from "./whole";

/** The body with faces moved: every face goes by the name that it had. */
export interface Offset extends Pick<Body, "shape" | "faces"> {
  /** Faces, by place in the body that was given, of which nothing is left. */
  gone: number[];
}

/** mm around a body within which its faces meet after they are moved, beside what they are moved by. */
const ROOM = 1;

/**
 * A solid with faces moved along their normals, while the faces beside them run on along their own surfaces to meet them, or are cut
 * back to them. Outwards and inwards at once: those that grow come first.
 *
 * Between a face as it was and as it is lies the room that is gained (or the material that is lost). It is what touches the old
 * face, of all that the moved faces and their neighbours, run on, divide space into. So it is exact wherever a surface
 * can be moved exactly: flat, cylindrical, conical, spherical and ring-shaped ones.
 */
export function offsetFaces(body: Body, moved: readonly MovedFace[]): Offset | OffsetFault {
  const atOnce = movedBar(body, moved) ?? movedInPlace(body, moved) ?? movedWhole(body, moved);
  return atOnce ? { ...atOnce, gone: [] } : offsetByDividing(body, moved);
}

/** The same, whatever meets what before and after: as the first paragraph says, by dividing. */
export function offsetByDividing(body: Body, moved: readonly MovedFace[]): Offset | OffsetFault {
  const names = body.faces;
  let now: Body = body;
  const done = (fault: OffsetFault): OffsetFault => {
    if (now !== body) freeShape(now.shape);
    return fault;
  };
  for (const way of [1, -1]) {
    const wanted = moved.filter(({ by }) => Math.sign(by) === way);
    if (wanted.length === 0) continue;
    const placed = wanted.flatMap(({ place, by }) =>
      now.faces.flatMap((name, at) => (originOf(name, names) === place ? [{ place: at, by }] : [])),
    );
    // What has become one with others, or is gone, is told as that.
    if (placed.length === 0) continue;
    const made = offsetOneWay(now, placed, way);
    if ("why" in made) return done({ ...made, places: made.places.map((place) => originOf(now.faces[place]!, names)) });
    if (now !== body) freeShape(now.shape);
    now = { ...body, ...made };
  }
  const left = new Set(now.faces.map((name) => originOf(name, names)));
  const by = new Map(moved.map((face) => [face.place, face.by] as const));
  const gone = names.flatMap((_, place) =>
    left.has(place) || isPartOf(now, body, place, by.get(place) ?? 0) ? [] : [place],
  );
  return { shape: now.shape, faces: now.faces, gone };
}

/** Whether a face, where it was moved to, is part of one that goes by another name: two in one surface that have become one. */
function isPartOf({ shape }: Body, before: Body, place: number, by: number): boolean {
  const { signature } = surfacesOf(before.shape)[place]!;
  if (signature === null) return false;
  const face = facesOf(before.shape)[place]!;
  const at = pointOnFace(face);
  const there = add(at, scale(normalNear(face, at), by));
  return facesOf(shape).some((other) => (distanceToPoint(other, there)?.gap ?? 1) < SAME_PLACE);
}

/** How far faces run on: beside themselves, so that they cross no more than they have to, or through all the room, where that is too short. */
const REACHES = ["near", "far"] as const;
type Reach = (typeof REACHES)[number];

/** The same for faces that all go one way. */
function offsetOneWay(
  body: Body,
  moved: readonly MovedFace[],
  way: number,
): Pick<Body, "shape" | "faces"> | OffsetFault {
  const [near, far] = REACHES;
  const made = runOnAndArranged(body, moved, way, near);
  return "why" in made && made.why !== "ends" ? runOnAndArranged(body, moved, way, far) : made;
}

function runOnAndArranged(
  body: Body,
  moved: readonly MovedFace[],
  way: number,
  reach: Reach,
): Pick<Body, "shape" | "faces"> | OffsetFault {
  const owned: Shape[] = [];
  const most = Math.max(...moved.map(({ by }) => Math.abs(by)));
  try {
    const room = roomOf(body, most);
    const still = neighboursOf(body, moved);
    const knives: Knife[] = [];
    for (const { place, by } of [...moved, ...still.map((place) => ({ place, by: 0 }))]) {
      const shape = movedFace(body.shape, place, by, reach === "far" ? room : roomBeside(body, place, most));
      // A neighbour that cannot run on need not, as long as what it bounds is closed without.
      if (!shape && by === 0) continue;
      if (!shape) return { why: "ends", places: [place] };
      owned.push(shape);
      // Faces on a surface without a signature are one where they have one name (`joinPieces`).
      const id = `${by === 0 ? STILL : MOVED}-${place}`;
      const plain = by === 0 && surfacesOf(body.shape)[place]!.signature === null;
      knives.push(knifeOf(id, shape, plain ? body.faces[place]! : id));
    }
    const stock: Body =
      way > 0
        ? { id: "offset-room", kind: "solid", shape: boxShape(room, owned), faces: WALLS, hint: { text: "Room" } }
        : { ...body, id: "offset-body" };
    const own: Knife[] =
      way > 0 ? [{ item: { ...body, id: "offset-body" }, shape: body.shape, faces: body.faces }] : [];
    return arranged(body, moved, way, stock, [...own, ...knives]);
  } catch (cause) {
    if (!(cause instanceof KernelFault) || cause.fatal) throw cause;
    return { why: "undivided", places: moved.map(({ place }) => place) };
  } finally {
    for (const shape of owned) freeShape(shape);
  }
}

/** The body with what lies between its faces and the moved ones, or without it. */
function arranged(
  body: Body,
  moved: readonly MovedFace[],
  way: number,
  stock: Body,
  knives: readonly Knife[],
): Pick<Body, "shape" | "faces"> | OffsetFault {
  const division = divideEach([stock], knives);
  try {
    const inBody = ({ sides }: Piece) => way < 0 || sides["offset-body"] === "in";
    const between = piecesBetween(division, body, knives, moved, way, (piece) => inBody(piece) === way < 0);
    if ("why" in between) return between;
    const kept = division.pieces.filter((piece) =>
      way > 0 ? inBody(piece) || between.has(piece) : !between.has(piece),
    );
    if (kept.length === 0) return { why: "nothing", places: moved.map(({ place }) => place) };
    const [joined, ...more] = joinPieces(division, kept);
    if (more.length > 0) {
      for (const { shape } of [joined!, ...more]) freeShape(shape);
      return { why: "apart", places: moved.map(({ place }) => place) };
    }
    const nameOf = (name: string) => {
      const [kind, place] = baseName(name).split("-");
      return kind === MOVED || kind === STILL ? body.faces[Number(place)]! : name;
    };
    const { shape } = joined!;
    const names = ownNames(body, moved, shape, joined!.faces.map(nameOf));
    const faces = faceNamesOf(shape, names);
    const changed = new Set([...moved.map(({ place }) => place), ...neighboursOf(body, moved)]);
    const stray = strayed(body, { shape, faces }, moved, changed) ?? notHeld(body, { shape, faces }, moved, changed);
    if (stray === null) return { shape, faces };
    freeShape(shape);
    return { why: "undivided", places: [stray] };
  } finally {
    division.free();
  }
}

/**
 * The names of faces where several of the body lie in one surface and move as one: what divides is called by one of them, and each face of what is made goes by the
 * name of the one that it is nearest to.
 */
function ownNames(body: Body, moved: readonly MovedFace[], shape: Shape, names: readonly string[]): string[] {
  const amount = new Map(moved.map(({ place, by }) => [place, by]));
  const surfaces = surfacesOf(body.shape);
  return names.map((name, at) => {
    const place = originOf(name, body.faces);
    const signature = surfaces[place]?.signature ?? null;
    if (signature === null || !amount.has(place)) return name;
    const alike = moved.filter(
      (face) => face.by === amount.get(place) && surfaces[face.place]!.signature === signature,
    );
    if (alike.length < 2) return name;
    const on = pointOnFace(facesOf(shape)[at]!);
    const gaps = alike.map(
      (face) => distanceToPoint(facesOf(body.shape)[face.place]!, on)?.gap ?? Number.POSITIVE_INFINITY,
    );
    return body.faces[alike[gaps.indexOf(Math.min(...gaps))]!.place]!;
  });
}

/** How far a face may get from where it was, as a part of what is moved: two that both move meet so far off where they are ten degrees apart. */
const FURTHEST = 12;

/**
 * A face, by place, that reaches further from where it was than it can by what was moved; null where none does. What runs on is endless,
 * and has been taken for its face where it only comes by.
 */
function strayed(
  body: Body,
  made: Pick<Body, "shape" | "faces">,
  moved: readonly MovedFace[],
  changed: ReadonlySet<number>,
): number | null {
  const reach = FURTHEST * Math.max(...moved.map(({ by }) => Math.abs(by))) + SAME_PLACE;
  const surfaces = surfacesOf(body.shape);
  const { positions, indices, faceRanges } = triangulate(made.shape, facesOf(made.shape), COARSE);
  for (const [at, name] of made.faces.entries()) {
    const place = originOf(name, body.faces);
    if (!changed.has(place)) continue;
    // Faces in one surface may have become one, by the name of either.
    const { signature } = surfaces[place]!;
    const old = [...changed].filter(
      (other) => other === place || (signature !== null && surfaces[other]!.signature === signature),
    );
    const [begin, count] = [faceRanges[2 * at]!, faceRanges[2 * at + 1]!];
    const corners = [...new Set(indices.subarray(begin, begin + count))];
    const step = Math.max(1, corners.length / LOOKS);
    for (let i = 0; i < corners.length; i += step) {
      const c = 3 * corners[Math.floor(i)]!;
      const corner: Vec3 = [positions[c]!, positions[c + 1]!, positions[c + 2]!];
      if (old.every((other) => (distanceToPoint(facesOf(body.shape)[other]!, corner)?.gap ?? 0) > reach)) return place;
    }
  }
  return null;
}

/** How finely faces are looked at, and in how many places each. */
const COARSE = { linear: 0.5, angular: 0.5 };
const LOOKS = 40;

function roomOf({ shape }: Body, by: number): Box {
  const box = looseBoxOf(shape)!;
  // Neighbours that lean meet the moved face further out than it is moved.
  const more = Math.max(...sub(box.max, box.min)) + 4 * by + ROOM;
  return grownBox(box, more);
}

/** As far beside a face as neighbours that lean by less than 75 degrees go on until they meet it moved. */
function roomBeside({ shape }: Body, place: number, by: number): Box {
  const box = looseBoxOf(facesOf(shape)[place]!)!;
  const more = 4 * by + ROOM;
  return grownBox(box, more);
}

function boxShape({ min, max }: Box, owned: Shape[]): Shape {
  const shape = makeBox(min, sub(max, min));
  owned.push(shape);
  return shape;
}

/** The faces beside those that are moved, by place, without these. */
function neighboursOf(body: Body, moved: readonly MovedFace[]): number[] {
  const own = new Set(moved.map(({ place }) => place));
  const { neighbours } = adjacency(body.shape);
  return [...new Set([...own].flatMap((place) => neighbours[place]!))].filter((place) => !own.has(place));
}

function knifeOf(id: string, shape: Shape, name: string): Knife {
  const item: Item = { id, kind: "sheet", shape, faces: [name], hint: { text: "Face" } };
  return { item, shape, faces: [name] };
}
