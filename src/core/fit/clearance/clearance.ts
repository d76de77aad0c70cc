import type { Body } from "../../items";
import {
  distanceToPoint,
  facesAtEdges,
  facesOf,
  freeShape,
  meetingsOf,
  offsetSolid,
  roundEdges,
  type Shape,
  triangulate,
  type Vec3,
  type Worked,
} from "../../kernel";
import { SAME_PLACE } from "../../tolerance";
import { type OffsetFault, offsetFaces } from "../offset-faces";

/** How the faces of a grown or shrunk body meet: as they are, run on; or round, as far from the body there as anywhere. */
export type Corners = "sharp" | "round";

/** A body grown or shrunk evenly; its faces with what each came from. */
export interface Clearance {
  shape: Shape;
  /** By place: a face of the body by its name, or a rounding between two of its faces, or more where roundings meet. */
  from: string[];
  /** Faces of the body, by place, of which nothing is left. */
  gone: number[];
  /** How far the distance is off where it was measured at the most, mm, beside what single precision hides; sharp corners are further off by right. */
  within: number;
}

/** Beside what keeps faces from being moved: edges between them that cannot be rounded so, by the faces that meet there. */
export type ClearanceFault = OffsetFault | { why: "round" | "uneven"; places: number[] };

/**
 * A solid of its own whose skin keeps a distance from that of another, mm: outside it where above 0, inside it where below. With round corners every
 * place of it is just so far off: edges where the moved faces run on past each other are rounded with that distance, since a ball that
 * rolls along there inside has its middle on the old edge. With sharp ones it is so far off or further.
 */
export function clearanceCopy(body: Body, by: number, corners: Corners): Clearance | ClearanceFault {
  const whole = corners === "round" ? roundedAtOnce(body, by) : null;
  if (whole && whole.bad === null) return whole.made;
  if (whole) freeShape(whole.made.shape);
  const moved = offsetFaces(
    body,
    body.faces.map((_, place) => ({ place, by })),
  );
  if ("why" in moved) return moved;
  const made = corners === "round" ? rounded(body, moved, by) : { shape: moved.shape, from: moved.faces };
  if ("why" in made) return made;
  const { bad, within } = offBy(body, made.shape, by, corners);
  if (bad === null) return { ...made, gone: moved.gone, within };
  freeShape(made.shape);
  return { why: "uneven", places: placeOf(body, made.from[bad]!) };
}

/** As the library grows or shrinks a body whose moved faces roundings join; null where it cannot, or a face of it is gone. */
function roundedAtOnce(body: Body, by: number): { made: Clearance; bad: number | null } | null {
  const { shape, faces } = body;
  const worked = offsetSolid(shape, by, "round");
  if (!worked) return null;
  const { bad, within } = offBy(body, worked.shape, by, "round");
  const sides = facesAtEdges(shape).map((both) => both.map((place) => faces[place]!));
  const made = { shape: worked.shape, from: namesFrom(worked, faces, sides), gone: [], within };
  return { made, bad };
}

function rounded(
  body: Body,
  { shape, faces }: Pick<Body, "shape" | "faces">,
  by: number,
): Pick<Clearance, "shape" | "from"> | ClearanceFault {
  const meetings = meetingsOf(shape).filter(({ bend }) => bend === (by > 0 ? "outwards" : "inwards"));
  if (meetings.length === 0) return { shape, from: faces };
  const worked = roundEdges(
    shape,
    meetings.map(({ edge }) => ({ place: edge, radius: Math.abs(by) })),
  );
  freeShape(shape);
  if ("faulty" in worked) {
    const at = meetings.filter(({ edge }) => worked.faulty.includes(edge));
    const blamed = (at.length > 0 ? at : meetings.slice(0, 1)).flatMap(({ faces: sides }) => sides);
    return { why: "round", places: [...new Set(blamed.flatMap((place) => placeOf(body, faces[place]!)))] };
  }
  const sides: string[][] = [];
  for (const { edge, faces: both } of meetings) sides[edge] = both.map((place) => faces[place]!);
  return { shape: worked.shape, from: namesFrom(worked, faces, sides) };
}

/** What each face of a copy came from. @param sides of each edge, by place, the faces that meet there. */
const namesFrom = (
  { origins }: Worked,
  faces: readonly string[],
  sides: readonly (readonly string[] | undefined)[],
): string[] =>
  origins.map(({ from, place }) => {
    if (from === "face") return faces[place]!;
    return from === "edge" ? sides[place]?.toSorted().join("|") || "round" : "corner";
  });

const placeOf = (body: Body, name: string): number[] => {
  const place = body.faces.findIndex((face) => name === face || name.startsWith(`${face}~`));
  return place < 0 ? [] : [place];
};

/** How finely the copy is looked at, and in how many places of each face at most. */
const LOOK = { linear: 0.2, angular: 0.4 };
const PLACES = 12;

/** A face of the copy, by place, that does not keep the distance where it is looked at, null where all do, and how far off it is at the most. */
function offBy(body: Body, copy: Shape, by: number, corners: Corners): { bad: number | null; within: number } {
  let within = 0;
  const { positions, indices, faceRanges } = triangulate(copy, facesOf(copy), LOOK);
  const skin = facesOf(body.shape);
  const wanted = Math.abs(by);
  for (let place = 0; place < facesOf(copy).length; place++) {
    const [begin, count] = [faceRanges[2 * place]!, faceRanges[2 * place + 1]!];
    const corner = [...new Set(indices.subarray(begin, begin + count))];
    const step = Math.max(1, corner.length / PLACES);
    for (let i = 0; i < corner.length; i += step) {
      const c = 3 * corner[Math.floor(i)]!;
      const at: Vec3 = [positions[c]!, positions[c + 1]!, positions[c + 2]!];
      const gap = Math.min(...skin.map((face) => distanceToPoint(face, at)?.gap ?? Number.POSITIVE_INFINITY));
      // Places come in single precision.
      const slack = ROUGH + 1e-6 * Math.max(...at.map(Math.abs));
      const off = corners === "round" ? Math.abs(gap - wanted) : wanted - gap;
      if (off > slack) return { bad: place, within: off };
      within = Math.max(within, off - 1e-6 * Math.max(1, ...at.map(Math.abs)));
    }
  }
  return { bad: null, within };
}

/** mm: what the library rounds lies on its faces to within this. */
const ROUGH = 100 * SAME_PLACE;
