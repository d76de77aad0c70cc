import { type Curve, PATCH_NUMBERS, type Patch, pointsOf } from "../binary";
import { breaksAlong } from "../binary/breaks-along";
import { derivativesOf } from "../binary/curve-at";
import { add, distance, dot, scale, sub, type Vec3 } from "../space/vectors";

/** Intervals along an edge at whose ends it is looked at. */
const LOOKS = 60;
/** About how many of the places where most was seen it is looked closer, and how often. */
const PEAKS = 4;
const CLOSER = 12;

/** An edge as it runs in space, and on one of its faces. */
export interface Run {
  image: Curve;
  from: number;
  to: number;
  /** Where to look at it, in order. */
  looks: readonly number[];
  inSpace(t: number): { at: Vec3; slope: Vec3 };
  onFace(s: number): { at: Vec3; slope: Vec3; uv: readonly number[]; uvSlope: readonly number[] };
  /** Where the image, or what it lies on, is not smooth. */
  breaks(patch: Patch): number[];
}

/** An edge on one of its faces; null where only the library can say where it runs. @param patch what the face lies on. */
export function runOf(
  { curve, from, to }: { curve: Curve; from: number; to: number },
  image: { curve: Curve; from: number; to: number },
  patch: Patch,
): Run | null {
  const [space, flat] = [pointsOf(curve), pointsOf(image.curve)];
  // The library keeps one range for an edge and its images.
  if (!space || !flat || Math.abs(image.from - from) + Math.abs(image.to - to) > 1e-9 * (to - from)) return null;
  const numbers = new Float64Array(PATCH_NUMBERS);
  return {
    image: image.curve,
    from,
    to,
    looks: looksAlong(from, to, [...(derivativesOf(curve)?.breaks ?? []), ...breaksAlong(image, flat, patch.breaks)]),
    breaks: (on) => breaksAlong(image, flat, on.breaks),
    inSpace: (t) => space(t) as unknown as { at: Vec3; slope: Vec3 },
    onFace: (s) => {
      const { at: uv, slope: uvSlope } = flat(s);
      patch.at(uv[0]!, uv[1]!, numbers);
      const vector = (k: number): Vec3 => [numbers[3 * k]!, numbers[3 * k + 1]!, numbers[3 * k + 2]!];
      return { at: vector(0), slope: add(scale(vector(1), uvSlope[0]!), scale(vector(2), uvSlope[1]!)), uv, uvSlope };
    },
  };
}

/** How far an edge and its image are apart at most: at the same parameter, and wherever on the edge is nearest. */
export function lookedAt({ from, to, looks, inSpace, onFace }: Run): { byParameter: number; apart: number } {
  const byParameter = greatest(looks, (t) => distance(inSpace(t).at, onFace(t).at));
  const apart = greatest(looks, (t) => {
    const { at } = onFace(t);
    return distance(inSpace(nearest(inSpace, at, t, [from, to])).at, at);
  });
  return { byParameter, apart: Math.min(byParameter, apart) };
}

/** Where an edge and its image are farthest apart at the same parameter, and how far. */
export function farthest({ looks, inSpace, onFace }: Run): { size: number; at: Vec3 } {
  let most: { size: number; at: Vec3 } = { size: 0, at: inSpace(looks[0]!).at };
  greatest(looks, (t) => {
    const { at } = inSpace(t);
    const size = distance(at, onFace(t).at);
    if (size > most.size) most = { size, at };
    return size;
  });
  return most;
}

/** Where to look along an edge: evenly, and between each two places where it, its image or its face is not smooth. */
export function looksAlong(from: number, to: number, breaks: readonly number[]): number[] {
  const ends = [...new Set([from, ...breaks.filter((t) => t > from && t < to), to])].sort((a, b) => a - b);
  const between = ends
    .slice(1)
    .flatMap((end, i) => [0, 0.25, 0.5, 0.75].map((share) => ends[i]! + (end - ends[i]!) * share));
  const evenly = Array.from({ length: LOOKS + 1 }, (_, k) => from + ((to - from) * k) / LOOKS);
  return [...new Set([...between, ...evenly, to])].sort((a, b) => a - b);
}

/** The greatest value of a function: at places in order, then closer about the greatest few. */
export function greatest(places: readonly number[], value: (t: number) => number): number {
  const values = places.map(value);
  const seen = values.reduce((most, height) => Math.max(most, height), 0);
  let most = seen;
  const peaks = values
    .map((height, k) => ({ height, k }))
    .filter(({ height, k }) => height >= seen / 2 && height >= (values[k - 1] ?? 0) && height >= (values[k + 1] ?? 0))
    .sort((a, b) => b.height - a.height)
    .slice(0, PEAKS);
  for (const { k } of peaks) {
    let [low, high] = [places[Math.max(0, k - 1)]!, places[Math.min(places.length - 1, k + 1)]!];
    for (let i = 0; i < CLOSER; i++) {
      const [one, other] = [low + (high - low) / 3, high - (high - low) / 3];
      const [a, b] = [value(one), value(other)];
      most = Math.max(most, a, b);
      if (a < b) low = one;
      else high = other;
    }
  }
  return most;
}

/** The parameter, near another, at which a curve is nearest to a place: by Newton's method, within a range. */
export function nearest(
  curve: (t: number) => { at: Vec3; slope: Vec3 },
  place: Vec3,
  start: number,
  [from, to]: readonly [number, number],
): number {
  let t = start;
  for (let step = 0; step < 20; step++) {
    const { at, slope } = curve(t);
    const next = Math.min(to, Math.max(from, t + dot(sub(place, at), slope) / dot(slope, slope)));
    if (!(Math.abs(next - t) > 1e-15 * (to - from))) break;
    t = next;
  }
  return t;
}
