import type { Body } from "../../items";
import {
  adjacency,
  type Box,
  bowsOf,
  distanceToPoint,
  dot,
  facesOf,
  freeShape,
  grownBox,
  KernelFault,
  looseBoxOf,
  makeBox,
  meetingsOf,
  normalNear,
  pointOnFace,
  type Shape,
  sub,
  surfacesOf,
  triangulate,
  type Vec3,
  wholeFace,
} from "../../kernel";
import { baseName, faceNamesOf } from "../../naming";
import { type Division, divideEach, joinPieces, type Knife, type Piece } from "../../seam";
import { SAME_PLACE } from "../../tolerance";
import { knivesAt, piecesByFace } from "../offset-faces/between";

/** What a face is replaced by: a surface, as it lies, that reaches through the room that is asked for. It belongs to this. */
export type Onto = (room: Box) => { shape: Shape; faces: readonly string[] } | null;

/** Why a face could not be replaced. */
export interface ReplaceFault {
  /**
   * `askew`: the surface stands square to the face, and has no side towards it. `short`: it ends before it reaches all round. `open`: faces beside
   * never meet it. `ends`: there is no such surface. `nothing`: no material is left. `apart`: what is left is several bodies. `undivided`: the surfaces could not be divided.
   */
  why: "askew" | "short" | "open" | "ends" | "nothing" | "apart" | "undivided";
}

const [BODY, ONTO, SELF, STILL] = ["replace-body", "}onto", "}self", "}still"];
const WALLS = ["x-", "x+", "y-", "y+", "z-", "z+"].map((wall) => `replace-room:${wall}`);

/** mm around all that takes part in which faces meet. */
const ROOM = 1.0173;
/** Cosine of the angle between the face and the surface from which on it is told which side of that is towards the body: 87 degrees. */
const ASKEW = 0.05;

/**
 * A solid with one of its faces replaced by a surface, which the faces beside it run on to meet, or are cut back to. Where the surface lies outside
 * the body, the room between it and the face is the body's; where it lies inside, what is beyond it and at the face is not.
 * So it may do both at once. What is new goes by the name of the face that it stands for.
 * @param place the face, by place. @param onto the surface. @param flip whether the body lies on the other side of it than the face says.
 */
export function replaceFace(
  body: Body,
  place: number,
  onto: Onto,
  flip: boolean,
): Pick<Body, "shape" | "faces"> | ReplaceFault {
  const owned: Shape[] = [];
  try {
    const near = onto(roomOf(body, 0));
    if (!near) return { why: "ends" };
    owned.push(near.shape);
    const inner = innerSide(body, place, near.shape, flip);
    if (!inner) return { why: "askew" };
    const room = roomOf(body, furthest(body, place, near.shape));
    const target = onto(room);
    if (!target) return { why: "ends" };
    owned.push(target.shape);
    const knives = [
      knifeOf(
        ONTO!,
        target.shape,
        target.faces.map((_, i) => `${ONTO}-${i}`),
      ),
      ...neighboursRunOn(body, place, room, owned),
    ];
    const grown = withRoomUpTo(body, place, knives, room, inner, owned);
    if ("why" in grown) return grown;
    if (grown.shape !== body.shape) owned.push(grown.shape);
    const made = withoutBeyond(body, grown, place, [...knives, ...ownSurface(body, place, room, owned)], inner);
    if ("why" in made) return made;
    if (stands(body, made, place, target.shape)) return { shape: made.shape, faces: named(made, body, place) };
    freeShape(made.shape);
    return { why: "short" };
  } catch (cause) {
    if (!(cause instanceof KernelFault) || cause.fatal) throw cause;
    return { why: "undivided" };
  } finally {
    for (const shape of owned) freeShape(shape);
  }
}

type InnerSide = "front" | "back";

/** On which side of the surface the body is, told at the middle of the face; null where the two stand square to each other. */
function innerSide(body: Body, place: number, target: Shape, flip: boolean): InnerSide | null {
  const face = facesOf(body.shape)[place]!;
  const at = pointOnFace(face);
  const same = dot(normalNear(target, at), normalNear(face, at));
  if (Math.abs(same) < ASKEW) return null;
  return same > 0 === flip ? "front" : "back";
}

/** The faces beside the one that is replaced, run on; what cannot run on need not, as long as what it bounds is closed without. */
function neighboursRunOn(body: Body, place: number, room: Box, owned: Shape[]): Knife[] {
  const beside = [...new Set(adjacency(body.shape).neighbours[place]!)].filter((other) => other !== place);
  return beside.flatMap((other): Knife[] => {
    const shape = wholeFace(body.shape, other, room);
    if (!shape) return [];
    owned.push(shape);
    // Faces on a surface without a signature are one where they have one name (`joinPieces`).
    const plain = surfacesOf(body.shape)[other]!.signature === null;
    return [knifeOf(`${STILL}-${other}`, shape, [plain ? body.faces[other]! : `${STILL}-${other}`])];
  });
}

/** The surface of the face itself: what stands on it is told from what lies under it. */
function ownSurface(body: Body, place: number, room: Box, owned: Shape[]): Knife[] {
  const shape = wholeFace(body.shape, place, room);
  if (!shape) return [];
  owned.push(shape);
  return [knifeOf(SELF!, shape, [SELF!])];
}

function knifeOf(id: string, shape: Shape, faces: string[]): Knife {
  return { item: { id, kind: "sheet", shape, faces, hint: { text: "Face" } }, shape, faces };
}

/** The body with the room between the face and the surface, where that lies outside. */
function withRoomUpTo(
  body: Body,
  place: number,
  knives: readonly Knife[],
  room: Box,
  inner: InnerSide,
  owned: Shape[],
): Pick<Body, "shape" | "faces"> | ReplaceFault {
  const box = makeBox(room.min, sub(room.max, room.min));
  owned.push(box);
  const stock: Body = { id: "replace-room", kind: "solid", shape: box, faces: WALLS, hint: { text: "Room" } };
  const own: Knife = { item: { ...body, id: BODY! }, shape: body.shape, faces: body.faces };
  const division = divideEach([stock], [own, ...knives]);
  try {
    const isBody = ({ sides }: Piece) => sides[BODY!] === "in";
    const mayBe = (piece: Piece) => !isBody(piece) && piece.sides[ONTO!] !== other(inner);
    const gained = atFace(division, body, place, [own, ...knives], mayBe, "inwards");
    const fault = faultOf(gained);
    if (fault) return fault;
    if (gained.length === 0) return body;
    return joined(
      division,
      division.pieces.filter((piece) => isBody(piece) || gained.includes(piece)),
      body,
    );
  } finally {
    division.free();
  }
}

/** What is left without that which lies beyond the surface, at the face. */
function withoutBeyond(
  body: Body,
  grown: Pick<Body, "shape" | "faces">,
  place: number,
  knives: readonly Knife[],
  inner: InnerSide,
): Pick<Body, "shape" | "faces"> | ReplaceFault {
  const division = divideEach([{ ...body, ...grown, id: BODY! }], knives);
  try {
    const lost = atFace(division, body, place, knives, (piece) => piece.sides[ONTO!] !== inner, "outwards");
    const beyond = lost.filter((piece) => piece.sides[ONTO!] === other(inner));
    if (beyond.length < lost.length) return { why: "short" };
    const kept = division.pieces.filter((piece) => !beyond.includes(piece));
    if (kept.length === 0) return { why: "nothing" };
    // What hung on the body through that alone goes with it where it lay under the face, as the rest of a rounding does: nothing that stands on it.
    return joined(division, kept, body, (pieces) =>
      pieces.some(({ sides }) => sides[ONTO!] === inner || sides[SELF!] === "front"),
    );
  } finally {
    division.free();
  }
}

/**
 * The pieces at the face: those that touch it, and what lies beyond the surface of a rounding beside it, which runs smoothly on from
 * it and, run on, only comes by there.
 * @param bow which way roundings bend whose run-on surfaces lie on that side of the skin
 */
function atFace(
  division: Division,
  body: Body,
  place: number,
  knives: readonly Knife[],
  mayBe: (piece: Piece) => boolean,
  bow: "outwards" | "inwards",
): Piece[] {
  const name = body.faces[place]!;
  const found = new Set(
    division.pieces.filter((piece) => mayBe(piece) && piece.faces.some((face) => isPartOf(face, name))),
  );
  const through = roundedBeside(body, place, bow);
  if (through.size === 0) return [...found];
  const byFace = piecesByFace(division);
  const names = knivesAt(division, knives);
  const queue = [...found];
  while (queue.length > 0)
    for (const { face } of queue.pop()!.uses) {
      if (!(names.get(face) ?? []).some((knife) => through.has(knife))) continue;
      for (const next of byFace.get(face) ?? []) {
        if (found.has(next) || !mayBe(next)) continue;
        found.add(next);
        queue.push(next);
      }
    }
  return [...found];
}

/** What roundings beside a face are called as knives: faces that it runs smoothly on to, and that bend only one way there. */
function roundedBeside(body: Body, place: number, bow: "outwards" | "inwards"): Set<string> {
  const smooth = new Set(
    meetingsOf(body.shape).flatMap(({ faces, bend }) => (bend === "smooth" && faces.includes(place) ? faces : [])),
  );
  const bows = bowsOf(body.shape).filter(({ faces }) => faces.includes(place));
  const beside = [...smooth].filter((one) => one !== place);
  const only = beside.filter((one) => bows.every(({ faces, bow: its }) => !faces.includes(one) || its === bow));
  return new Set(only.flatMap((one) => [`${STILL}-${one}`, body.faces[one]!]));
}

const other = (side: InnerSide): InnerSide => (side === "front" ? "back" : "front");
const isPartOf = (name: string, face: string): boolean => name === face || name.startsWith(`${face}~`);

/** Why room cannot be gained: it goes on to the walls of all that is looked at, or something ends within it. */
function faultOf(gained: readonly Piece[]): ReplaceFault | null {
  if (gained.some(({ sides }) => sides[ONTO!] === "both")) return { why: "short" };
  if (gained.some(({ faces }) => faces.some((name) => WALLS.includes(name)))) return { why: "open" };
  const torn = gained.some(
    ({ fusion, shape, sides }) =>
      Object.values(sides).includes("both") ||
      fusion.cells.some((cell) => cell.shape === shape && cell.faces.some(({ sign }) => sign === 0)),
  );
  return torn ? { why: "undivided" } : null;
}

function joined(
  division: Division,
  kept: readonly Piece[],
  body: Body,
  stays: (pieces: readonly Piece[]) => boolean = () => true,
): Pick<Body, "shape" | "faces"> | ReplaceFault {
  const lumps = joinPieces(division, kept);
  const [made, ...more] = lumps.filter(({ pieces }) => stays(pieces));
  for (const lump of lumps) if (lump !== made || more.length > 0) freeShape(lump.shape);
  if (!made) return { why: "nothing" };
  if (more.length > 0) return { why: "apart" };
  const { shape } = made;
  const names = made.faces.map((name) => {
    const base = baseName(name);
    return base.startsWith(`${STILL}-`) ? body.faces[Number(base.slice(STILL!.length + 1))]! : name;
  });
  return { shape, faces: faceNamesOf(shape, names) };
}

/** Whether all of the face has gone to the surface: what is left of it lies in that. */
function stands(body: Body, made: Pick<Body, "shape" | "faces">, place: number, target: Shape): boolean {
  const faces = facesOf(made.shape);
  const own = made.faces.flatMap((name, at) => (isPartOf(name, body.faces[place]!) ? [faces[at]!] : []));
  const lies = (face: Shape) => (distanceToPoint(target, pointOnFace(face))?.gap ?? 1) < SAME_PLACE;
  // What is new may have become one with another face of the body in the same surface, by the name of that.
  const isThere = made.faces.some((name) => name.startsWith(ONTO!)) || faces.some(lies);
  return isThere && own.every(lies);
}

/** The names of the faces, that of the face for those that stand for it. */
function named({ shape, faces }: Pick<Body, "shape" | "faces">, body: Body, place: number): string[] {
  const names = faces.map((name) => (name.startsWith(ONTO!) ? body.faces[place]! : name));
  return faceNamesOf(shape, names);
}

/** How far the surface is from the face where it is furthest, mm, as far as its corners say. */
function furthest(body: Body, place: number, target: Shape): number {
  const face = facesOf(body.shape)[place]!;
  const { positions } = triangulate(face, [face], { linear: 1, angular: 0.5 });
  let most = 0;
  for (let c = 0; c < positions.length; c += 3) {
    const at: Vec3 = [positions[c]!, positions[c + 1]!, positions[c + 2]!];
    most = Math.max(most, distanceToPoint(target, at)?.gap ?? 0);
  }
  return most;
}

/**
 * A room in which the faces of a body meet what they run on to. Its walls lie nowhere that a drawing would have something: what ends just
 * in a wall is not divided rightly.
 */
function roomOf({ shape }: Body, reach: number): Box {
  const box = looseBoxOf(shape)!;
  const more = Math.max(...sub(box.max, box.min)) + 2 * reach + ROOM;
  return grownBox(box, more);
}
