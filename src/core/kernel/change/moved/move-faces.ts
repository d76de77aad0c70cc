import { type Curve, PATCH_NUMBERS, patchOfAny, pointsOf, type Structure, structureOf } from "../../binary";
import { noSpans, type RecordSpans, type Span } from "../../binary/contents";
import type { SplineData } from "../../binary/spline-data";
import type { Elementary } from "../../binary/surfaces";
import { rewritten, type WrittenCurve, writeCurve, writeNumbers, writeSpline2, writeSurface } from "../../binary/write";
import { volumeOf } from "../../facts/mass";
import { isValid, openEdges } from "../../facts/measure";
import { meetsItself } from "../../facts/self-contact";
import { recordOf, shapeOfRecord } from "../../library/incidence";
import { freeShape, type Shape } from "../../library/topology";
import { triangulate } from "../../mesh/tessellate";
import { trianglesCross } from "../../space/triangle-crossing";
import { cross, distance, length, type Vec3 } from "../../space/vectors";
import { movedCorner } from "./corners";
import { type Drawn, movedCurve } from "./curve";
import { ellipseImage } from "./ellipse-image";
import { CORNER, type FaceMove, faceMoves, type Meeting, meetingAt } from "./faces";
import { imageOn, placeOf } from "./image";
import { offSurface } from "./surface";

/**
 * A solid with faces moved along their normals, each by its own amount, mm, outwards where above 0, as long as the same faces meet in the same
 * edges and corners as before: each is worked out anew by its closed form and put in the place of the old one in the library's own record. Exact, and in no time.
 *
 * It takes planes, cylinders, cones, balls and rings that meet in lines and circles. Faces that run smoothly into one another move by one amount, or not at all.
 * @param amounts for each face, by place. @returns a handle of the caller's own, with the parts in the same order; null where it is another case, or other
 * faces would meet than did.
 */
export function moveFaces(solid: Shape, amounts: readonly number[]): Shape | null {
  const record = recordOf(solid);
  const spans = noSpans();
  const structure = structureOf(record, spans);
  const changes = new Changes(spans);
  if (!drawAnew(structure, amounts, changes)) return null;
  const made = shapeOfRecord(rewritten(record, changes.all()));
  const [most, least] = [Math.max(...amounts), Math.min(...amounts)];
  const isSound = () => {
    if (openEdges(made).length > 0 || !isValid(made)) return false;
    const [volume, before] = [volumeOf(made), volumeOf(solid)];
    if (!(volume > 0) || (least >= 0 && volume < before) || (most <= 0 && volume > before)) return false;
    // Faces that share a corner are passed over by the one; triangles show where they cross elsewhere.
    return !meetsItself(made) && !trianglesCross(triangulate(made, [], FINENESS));
  };
  if (isSound()) return made;
  freeShape(made);
  return null;
}

/** mm, and radians between neighbours: how fine the triangles are. */
const FINENESS = { linear: 0.1, angular: 0.3 };

type Range = Pick<Drawn, "from" | "to">;

/** What is written anew, and where it stands in the record. */
class Changes {
  private readonly known = new Map<number, readonly [Span, Uint8Array]>();

  constructor(private readonly spans: RecordSpans) {}

  put(span: Span, bytes: Uint8Array): void {
    this.known.set(span[0], [span, bytes]);
  }

  /** A curve or an image with its range; false where other edges run along it, too, or it was moved elsewhere. */
  curve(before: Parameters<RecordSpans["curves"]["get"]>[0], now: WrittenCurve | SplineData, range: Range): boolean {
    const [at, ranges] = [this.spans.curves.get(before), this.spans.ranges.get(before)];
    if (!at || ranges?.length !== 1) return false;
    this.put(at, "kind" in now ? writeCurve(now) : writeSpline2(now));
    this.put([ranges[0]!, ranges[0]! + 16], writeNumbers([range.from, range.to]));
    return true;
  }

  surface(before: Elementary, now: Elementary): boolean {
    const at = this.spans.surfaces.get(before);
    if (at) this.put(at, writeSurface(now));
    return at !== undefined;
  }

  all = () => this.known.values();
}

/** Writes all anew that changes; false where something has no closed form, or would be another. */
function drawAnew(structure: Structure, amounts: readonly number[], changes: Changes): boolean {
  const { faces, edges, vertices } = structure;
  const moves = faceMoves(structure, amounts);
  if (!moves || !surfacesAnew(structure, moves, changes)) return false;
  const isMoved = vertices.map((corner) => corner.faces.some((face) => amounts[face] !== 0));
  const isChanged = edges.map(
    (edge) => edge.faces.some((face) => amounts[face] !== 0) || edge.vertices.some((corner) => isMoved[corner]),
  );
  const meetings = edges.map((edge, place) =>
    isChanged[place] && !edge.point ? meetingAt(structure, moves, place) : null,
  );
  if (edges.some((edge, place) => isChanged[place] && !edge.point && meetings[place] === null)) return false;
  const corners: Vec3[] = [];
  for (const [place, corner] of vertices.entries()) {
    const now = isMoved[place] ? movedCorner(structure, moves, meetings, place) : corner.at;
    if (!now) return false;
    corners.push(now);
    const from = corner.toleranceAt + 8;
    if (isMoved[place]) changes.put([from, from + 24], writeNumbers(now));
  }
  return edges.every((edge, place) => {
    if (!isChanged[place]) return true;
    if (edge.point) return pointAnew(structure, moves, place, corners, changes);
    const drawn = edgeAnew(structure, moves, place, meetings[place]!, corners);
    if (!drawn || !changes.curve(edge.curve!.curve, drawn.curve, drawn)) return false;
    return edge.faces.every((face) =>
      faces[face]!.wires.flat().every(
        (use) => use.edge !== place || imageAnew(structure, moves[face]!, face, use, drawn, changes),
      ),
    );
  });
}

function surfacesAnew({ faces }: Structure, moves: readonly (FaceMove | null)[], changes: Changes): boolean {
  return moves.every((move, place) => {
    if (!move || move.by === 0) return true;
    // Several faces may lie on one surface: it can only go one way.
    const others = faces.flatMap(({ surface }, other) => (surface === faces[place]!.surface ? [moves[other]!] : []));
    if (others.some(({ by, sense }) => by * sense !== move.by * move.sense)) return false;
    return changes.surface(move.before, move.after);
  });
}

/** mm: how nearly what is worked out in two ways is one. */
const AGREE = 1e-8;
/** Parameters that differ by less are the same but for rounding. */
const SAME = 1e-13;
/** Where along an edge it is held against its faces, and its images against it. */
const LOOKS = [0, 0.21, 0.5, 0.83, 1];

const along = ({ from, to }: Drawn, share: number): number => from + share * (to - from);

/** An edge between its corners as they are now; null where it does not lie on both faces, or these meet otherwise now. */
function edgeAnew(
  { edges, vertices }: Structure,
  moves: readonly (FaceMove | null)[],
  place: number,
  meeting: Meeting,
  corners: readonly Vec3[],
): Drawn | null {
  const edge = edges[place]!;
  const before = edge.curve && pointsOf(edge.curve.curve);
  const [first, last] = [edge.vertices[0], edge.vertices.at(-1)];
  if (!before || first === undefined || last === undefined) return null;
  const begins = before(edge.curve!.from).at as unknown as Vec3;
  const isTurned = distance(begins, vertices[first]!.at) > distance(begins, vertices[last]!.at);
  const [a, b] = isTurned ? [last, first] : [first, last];
  const drawn = movedCurve(edge, moves, corners[a]!, corners[b]!);
  const points = drawn && pointsOf(asCurve(drawn.curve));
  if (!points) return null;
  const sides = edge.faces.map((face) => moves[face]!.after);
  const isOn = LOOKS.every((share) => {
    const at = points(along(drawn, share)).at as unknown as Vec3;
    const [one, other] = sides.map((side) => offSurface(side, at));
    if (Math.abs(one!.off) > AGREE || Math.abs(other?.off ?? 0) > AGREE) return false;
    // At its ends a corner may run out smoothly, as where two roundings of one radius meet.
    const isEnd = share === 0 || share === 1;
    return !other || isEnd || meeting === "smooth" || length(cross(one!.way, other.way)) > CORNER;
  });
  return isOn ? drawn : null;
}

/** A curve as it is written, as one that is read. */
const asCurve = (curve: WrittenCurve): Curve =>
  curve.kind === "circle" ? { ...curve, major: curve.radius, minor: curve.radius } : curve;

/** Writes the image of an edge on one of its faces; false where it cannot be had, or is not where the edge is. */
function imageAnew(
  { faces, edges }: Structure,
  { after }: FaceMove,
  face: number,
  use: Parameters<Structure["faces"][number]["image"]>[0],
  drawn: Drawn,
  changes: Changes,
): boolean {
  const image = faces[face]!.image(use);
  // On a flat face the library need not keep one.
  if (!image && after.kind === "plane") return true;
  const old = image && pointsOf(image.curve);
  const patch = patchOfAny(after);
  if (!image || !old || !patch) return false;
  const plain = imageOn(after, drawn, old(image.from).at);
  const wave = plain ? null : ellipseImage(after, drawn, old(image.from).at);
  // One that is neither may stay as it is: on a ball or a ring that grows, with all that is about it.
  const isKept = drawn.from === image.from && drawn.to === image.to ? old : null;
  const onFace = plain
    ? pointsOf(asCurve(plain))
    : wave
      ? pointsOf({ kind: "spline", digest: "", spline: () => wave })
      : isKept;
  if (!onFace) return false;
  const inSpace = pointsOf(asCurve(drawn.curve))!;
  const numbers = new Float64Array(PATCH_NUMBERS);
  const allowed = plain || wave ? AGREE : Math.max(AGREE, edges[use.edge]!.tolerance);
  const agrees = LOOKS.every((share) => {
    const t = along(drawn, share);
    const [u, v] = onFace(t).at;
    patch.at(u!, v!, numbers);
    return distance([numbers[0]!, numbers[1]!, numbers[2]!], inSpace(t).at as unknown as Vec3) < allowed;
  });
  const now = plain ?? wave;
  // The library lets edges of several faces share an image that is the same for all: it need not be written.
  const isAsWas =
    isKept &&
    [drawn.from, drawn.to].every((t) => old(t).at.every((value, i) => Math.abs(value - onFace(t).at[i]!) < SAME));
  if (isAsWas && plain?.kind === "line") return agrees;
  return agrees && (now === null || changes.curve(image.curve, now, drawn));
}

/** Writes the image of an edge without length: the tip of a cone is at another v when it moves; a ball's pole at the same. */
function pointAnew(
  { faces, edges }: Structure,
  moves: readonly (FaceMove | null)[],
  place: number,
  corners: readonly Vec3[],
  changes: Changes,
): boolean {
  const edge = edges[place]!;
  const corner = corners[edge.vertices[0]!];
  return edge.faces.every((face) => {
    const after = moves[face]?.after;
    if (!corner || !after || after.kind === "plane") return false;
    return faces[face]!.wires.flat().every((use) => {
      if (use.edge !== place) return true;
      const image = faces[face]!.image(use);
      if (image?.curve.kind !== "line") return false;
      const { at, way } = image.curve;
      const [, v] = placeOf(after, corner, at);
      if (Math.abs(v - at[1]!) < AGREE) return true;
      return changes.curve(image.curve, { kind: "line", at: [at[0]!, v], way }, image);
    });
  });
}
