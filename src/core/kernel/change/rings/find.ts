import { type EdgeUse, PATCH_NUMBERS, patchOfAny, pointsOf, type Structure, type SurfaceRecord } from "../../binary";
import { add, cross, dot, scale, type Vec3 } from "../../space/vectors";
import {
  type Axis,
  axisOf,
  footOn,
  isThrough,
  type Meridian,
  middleOfCircle,
  type Outline,
  offOutline,
  onMeridian,
  outlineAbout,
  outwardsAt,
  placeOff,
} from "./meridian";

/** Sine of an angle: a cone that opens by less is a cylinder, and one that opens by all but that is flat. */
export const FLAT = 1e-9;

/** What runs round a ring at one of its two sides. */
export interface Rim {
  at: Meridian;
  edges: number[];
}

/** A face that goes round an axis as its two neighbours do, and what it is in the half plane that ends there. */
export interface Ring {
  face: number;
  axis: Axis;
  /** Outwards from the axis where it begins, and how far it goes about the axis' way from there, radians. */
  begin: Vec3;
  sweep: number;
  rims: readonly [Rim, Rim];
  /** Its edges in half planes: where it begins and ends, or where it meets itself. */
  ends: number[];
  /** An arc about a middle; null where it is straight from rim to rim. */
  middle: Meridian | null;
  radius: number;
  /** Whether the normal of its surface points away from the middle; of a straight one away from the axis. */
  away: boolean;
}

/** What a face is looked for as: an arc of one of some radii that touches both neighbours, or straight between them. */
export type Wanted = { radii: readonly number[] } | "straight";

/**
 * Of the section from rim to rim: what is exact lies no farther from what the library drew, which is right at the corners and has been
 * seen to lie 2 µm off between them. What a ring is comes from its neighbours, to the last digit; this only tells that it is one.
 */
const DRAWN = 0.005;
/** mm: two places of an edge's end are one; corners that lie farther from where they belong stay as they are. */
const SAME = 1e-7;
/** Into how many parts a rim and a section are divided to look whether the face is what it is taken for. */
const LOOKS = 12;

/** A face that is drawn freely as the ring that it is; null where it is none, or what the library drew is too far from it. */
export function ringOf(structure: Structure, face: number, wanted: Wanted): Ring | null {
  const { faces, edges, vertices } = structure;
  const { surface, wires } = faces[face]!;
  const patch = surface && isDrawnFreely(structure, face) ? patchOfAny(surface) : null;
  if (!patch) return null;
  const uses = new Map(wires.flat().map((use) => [use.edge, use] as const));
  const beside = (edge: number): SurfaceRecord | null => {
    const other = edges[edge]!.faces.find((place) => place !== face);
    return other === undefined ? null : faces[other]!.surface;
  };
  const neighbours = [...uses.keys()].flatMap((edge) => beside(edge) ?? []);
  const axis = axisOf(neighbours);
  if (!axis) return null;

  const [rims, ends]: [Rim[], number[]] = [[], []];
  for (const edge of uses.keys()) {
    const { point, curve, faces: both, vertices: corners } = edges[edge]!;
    if (point || !curve || corners.length === 0) return null;
    const next = beside(edge);
    const outline = next && outlineAbout(axis, next);
    const begins = onMeridian(axis, vertices[corners[0]!]!.at);
    if (both.length === 1 || (next && isThrough(axis, next))) ends.push(edge);
    else if (!outline || Math.abs(offOutline(outline, begins).off) > SAME) return null;
    else {
      const rim = rims.find(({ at }) => Math.hypot(at[0] - begins[0], at[1] - begins[1]) < SAME);
      if (rim) rim.edges.push(edge);
      else rims.push({ at: begins, edges: [edge] });
    }
  }
  const [first, second, third] = rims;
  if (!first || !second || third) return null;

  const round = sweptBetween(structure, axis, ends, first.edges[0]!);
  if (!round) return null;
  const outlines = [first, second].map(({ edges: [edge] }) => outlineAbout(axis, beside(edge!)!)!) as [
    Outline,
    Outline,
  ];

  // Places of the face, from rim to rim, by the images of an edge of each.
  const numbers = new Float64Array(PATCH_NUMBERS);
  const inParameters = ({ edges: [edge] }: Rim) => {
    const image = faces[face]!.image(uses.get(edge!) as EdgeUse);
    const points = image && pointsOf(image.curve);
    return image && points ? (share: number) => points(image.from + share * (image.to - image.from)).at : null;
  };
  const [a, b] = [inParameters(first), inParameters(second)];
  if (!a || !b) return null;
  const placeOf = ([u, v]: readonly number[]): Vec3 => {
    patch.at(u!, v!, numbers);
    return [numbers[0]!, numbers[1]!, numbers[2]!];
  };
  const [quarter, ...others] = [a(0.25), b(0.25), b(0.75)].map((at) => outwardsAt(axis, placeOf(at)));
  const opposite = dot(quarter!, others[0]!) < dot(quarter!, others[1]!);
  const placeAt = (along: number, across: number): Vec3 => {
    const [from, to] = [a(along), b(opposite ? 1 - along : along)];
    return placeOf(from.map((value, k) => value + across * (to[k]! - value)));
  };
  const section = sectionOf(outlines, [first.at, onMeridian(axis, placeAt(0.5, 0.5)), second.at], wanted);
  if (!section) return null;
  const { contacts, middle, radius } = section;
  const { off } = drawnAs(section);
  const most = DRAWN * Math.hypot(contacts[1][0] - contacts[0][0], contacts[1][1] - contacts[0][1]);
  for (let i = 0; i <= LOOKS; i++)
    for (let k = 0; k <= LOOKS; k++)
      if (!(Math.abs(off(onMeridian(axis, placeAt(i / LOOKS, k / LOOKS)))) < most)) return null;
  const looked = placeAt(0.5, 0.5);
  const normal = cross([numbers[3]!, numbers[4]!, numbers[5]!], [numbers[6]!, numbers[7]!, numbers[8]!]);
  const outwards = outwardsAt(axis, looked);
  const at = onMeridian(axis, looked);
  const away = middle ? add(scale(outwards, at[0] - middle[0]), scale(axis.way, at[1] - middle[1])) : outwards;
  return {
    face,
    axis,
    ...round,
    rims: [
      { ...first, at: contacts[0] },
      { ...second, at: contacts[1] },
    ],
    ends,
    middle,
    radius,
    away: dot(normal, away) > 0,
  };
}

/** Whether a face, or an edge of it, is a spline. */
export const isDrawnFreely = ({ faces, edges }: Structure, face: number): boolean =>
  faces[face]!.surface?.kind === "spline" ||
  faces[face]!.wires.flat().some(({ edge }) => edges[edge]!.curve?.curve.kind === "spline");

/** Where a ring begins and how far it goes, by its edges in half planes: one where it meets itself, or two. */
function sweptBetween(
  { edges, vertices }: Structure,
  axis: Axis,
  ends: readonly number[],
  rim: number,
): { begin: Vec3; sweep: number } | null {
  const ways = ends.map((edge) => outwardsAt(axis, vertices[edges[edge]!.vertices[0]!]!.at));
  const [one, other] = ways;
  if (!one || ways.length > 2) return null;
  if (!other) return edges[ends[0]!]!.faces.length === 1 ? { begin: one, sweep: 2 * Math.PI } : null;
  const { curve, from, to } = edges[rim]!.curve!;
  const along = pointsOf(curve);
  if (!along) return null;
  const amid = outwardsAt(axis, along((from + to) / 2).at as unknown as Vec3);
  const sweep = angleFrom(axis, one, other);
  return angleFrom(axis, one, amid) < sweep ? { begin: one, sweep } : { begin: other, sweep: 2 * Math.PI - sweep };
}

/** How far one way out from an axis is turned from another about the axis' way, 0 to 2π. */
export function angleFrom({ way }: Axis, one: Vec3, other: Vec3): number {
  const angle = Math.atan2(dot(cross(one, other), way), dot(one, other));
  return angle < 0 ? angle + 2 * Math.PI : angle;
}

interface Section {
  contacts: readonly [Meridian, Meridian];
  middle: Meridian | null;
  radius: number;
}

/** What a ring is between two outlines, from three places of it; null where it is not what is looked for. */
function sectionOf(
  outlines: readonly [Outline, Outline],
  drawn: readonly [Meridian, Meridian, Meridian],
  wanted: Wanted,
): Section | null {
  const ends = [drawn[0], drawn[2]] as const;
  if (wanted === "straight") {
    const contacts = [footOn(outlines[0], ends[0]), footOn(outlines[1], ends[1])] as const;
    const [out, up] = [contacts[1][0] - contacts[0][0], contacts[1][1] - contacts[0][1]];
    // A flat ring has no line at which it would meet itself: it stays as it is drawn.
    const isFlat = Math.abs(up) < FLAT * Math.hypot(out, up);
    return isFlat || isMoved(contacts, ends) ? null : { contacts, middle: null, radius: 0 };
  }
  // On which side the middle lies is told by what was drawn; how far away by the radius that was asked for.
  const about = middleOfCircle(drawn);
  if (!about) return null;
  const [chord, amid] = [
    Math.hypot(ends[1][0] - ends[0][0], ends[1][1] - ends[0][1]),
    [(ends[0][0] + ends[1][0]) / 2, (ends[0][1] + ends[1][1]) / 2] as const,
  ];
  const [x, y] = [about[0] - amid[0], about[1] - amid[1]];
  for (const radius of wanted.radii) {
    const far = Math.sqrt(Math.max(radius ** 2 - (chord / 2) ** 2, 0)) / Math.hypot(x, y);
    const near: Meridian = [amid[0] + far * x, amid[1] + far * y];
    const offs = outlines.map((outline) => (offOutline(outline, near).off > 0 ? radius : -radius));
    const middle = placeOff(outlines, [offs[0]!, offs[1]!], near);
    // A ring that is thinner than its hole: one that would run through the axis has no closed form here.
    if (!middle || middle[0] <= radius) continue;
    const contacts = [footOn(outlines[0], middle), footOn(outlines[1], middle)] as const;
    if (!isMoved(contacts, ends)) return { contacts, middle, radius };
  }
  return null;
}

const isMoved = (now: readonly Meridian[], drawn: readonly Meridian[]) =>
  now.some((place, i) => Math.hypot(place[0] - drawn[i]![0], place[1] - drawn[i]![1]) > SAME);

/** How far places are off a section's arc or line. */
function drawnAs({ contacts: [a, b], middle, radius }: Section): { off(place: Meridian): number } {
  if (middle) return { off: (place) => Math.hypot(place[0] - middle[0], place[1] - middle[1]) - radius };
  const [x, y] = [b[0] - a[0], b[1] - a[1]];
  const long = Math.hypot(x, y);
  return { off: (place) => ((place[0] - a[0]) * y - (place[1] - a[1]) * x) / long };
}
