import { groupedBy } from "../groups";
import {
  adjacency,
  freeShape,
  mergeFaces,
  mergeFacesApart,
  orientedSkin,
  ownHandle,
  type Shape,
  shellOf,
  solidFromFaces,
  tightened,
  type Vec3,
} from "../kernel";
import { faceNamesOf } from "../naming";
import type { Division } from "./division";
import { hangingTogether } from "./neighbours";
import type { Piece } from "./piece";

export interface Joined {
  form: "solid" | "sheet";
  shape: Shape;
  faces: string[];
  pieces: Piece[];
}

/**
 * Joins pieces into bodies: the faces between them vanish and neighbouring faces on one surface become one.
 * Pieces that do not touch along a face stay bodies of their own, so the result may be several.
 * The shapes belong to the caller.
 */
export function joinPieces(division: Division, pieces: readonly Piece[]): Joined[] {
  const [only, second] = pieces;
  if (only && !second) return [{ ...alone(division, only), pieces: [only] }];
  return hangingTogether(pieces).map((places) => {
    const cluster = places.map((place) => pieces[place]!);
    const joined = cluster.length === 1 ? alone(division, cluster[0]!) : together(division, cluster);
    return { ...joined, pieces: cluster };
  });
}

/** Pieces of a sheet with what closes them where they were cut, and places where they stay open there. */
export interface Closed extends Joined {
  open: Vec3[];
}

/**
 * Pieces of one stock sheet, on one side of each cutter, closed where they were cut (`wallsOf`): those that a wall joins are one body,
 * a solid where nothing of it is open any more. The shapes belong to the caller.
 */
export function closePieces(division: Division, pieces: readonly Piece[]): Closed[] {
  const { fusion } = pieces[0]!;
  const { faces: walls, open } = division.wallsOf(pieces);
  const parts = [...pieces.map(({ uses }) => uses.map(({ face }) => face)), ...walls.map((face) => [face])];
  const edgesOf = (faces: readonly number[]) => faces.flatMap((face) => fusion.faceEdges(face).map(({ edge }) => edge));
  return groupedBy(parts.map(edgesOf)).map((places) => {
    const cluster = places.flatMap((place) => pieces[place] ?? []);
    const uses = cluster.flatMap((piece) => piece.uses);
    const own = [...uses.map(({ face }) => face), ...places.flatMap((place) => walls[place - pieces.length] ?? [])];
    const made = orientedSkin(
      own.map((face) => fusion.faceHandle(face)),
      uses.map(({ sign }) => sign),
    );
    const order = made.order.map((place) => own[place]!);
    const joined = merged(
      made.closed ? "solid" : "sheet",
      made.shape,
      order.map((face) => fusion.surface(face).signature),
      order.map((face) => division.nameOf(fusion, face)),
      mergeFacesApart,
    );
    const edges = new Set(edgesOf(uses.map(({ face }) => face)));
    return { ...joined, pieces: cluster, open: open.flatMap(({ edge, at }) => (edges.has(edge) ? [at] : [])) };
  });
}

function alone(division: Division, { form, fusion, shape, uses }: Piece): Omit<Joined, "pieces"> {
  return merged(
    form,
    ownHandle(shape),
    uses.map(({ face }) => fusion.surface(face).signature),
    uses.map(({ face }) => division.nameOf(fusion, face)),
    mergeFacesApart,
  );
}

function together(division: Division, cluster: readonly Piece[]): Omit<Joined, "pieces"> {
  const { form, fusion } = cluster[0]!;
  const count = new Map<number, { sign: 1 | -1; times: number }>();
  for (const { face, sign } of cluster.flatMap((piece) => piece.uses)) {
    const entry = count.get(face);
    if (entry) entry.times++;
    else count.set(face, { sign, times: 1 });
  }
  // A face between two joined solids is used by both and vanishes; the rest is the new skin.
  const kept = [...count].filter(([, { times }]) => form === "sheet" || times === 1);
  const faces = kept.map(([face, { sign }]) => ({ shape: fusion.faceHandle(face), sign }));
  const built =
    form === "sheet"
      ? { shape: shellOf(faces.map((face) => face.shape)), order: kept.map((_, i) => i) }
      : solidFromFaces(faces);
  return merged(
    form,
    built.shape,
    built.order.map((i) => fusion.surface(kept[i]![0]).signature),
    built.order.map((i) => division.nameOf(fusion, kept[i]![0])),
    mergeFaces,
  );
}

/** A body whose neighbouring faces on one surface are one: a face made of several has the name that comes first by letter. */
function merged(
  form: "solid" | "sheet",
  shape: Shape,
  signatures: readonly (string | null)[],
  bases: readonly string[],
  merge: typeof mergeFaces,
): Omit<Joined, "pieces"> {
  const keys = signatures.map((signature, face) => signature ?? bases[face]!);
  const whole = worthMerging(shape, keys) ? merge(shape, keys) : null;
  if (!whole) return named(form, shape, bases);
  freeShape(shape);
  return named(
    form,
    whole.shape,
    whole.sources.map((sources) => sources.map((i) => bases[i]!).sort()[0]!),
  );
}

function named(form: "solid" | "sheet", shape: Shape, bases: readonly string[]): Omit<Joined, "pieces"> {
  const tight = tightened(shape);
  if (tight) freeShape(shape);
  return { form, shape: tight ?? shape, faces: faceNamesOf(tight ?? shape, bases) };
}

/** Whether two neighbouring faces lie on one surface, so that the line between them means nothing any more. */
function worthMerging(shape: Shape, keys: readonly string[]): boolean {
  if (new Set(keys).size === keys.length) return false;
  return adjacency(shape).neighbours.some((list, a) => list.some((b) => a < b && keys[a] === keys[b]));
}
