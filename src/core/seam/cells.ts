import { type Box, centre, corners, cross, diagonal, dot, length, scale, sub, unit, type Vec3 } from "../kernel";

/** A plane by a place on it and its normal. */
interface Flat {
  origin: Vec3;
  normal: Vec3;
}

/** As a part of the box: nearer than this, places, lines and planes are the same. */
const SAME = 1e-7;

/**
 * Into how many parts planes divide a box. One after the other: a plane adds as many as the ones before it divide it into, which are one
 * more than the lines in which they cross it, and for each place where lines cross one less than there are lines through it (after
 * Steiner 1826; Zaslavsky 1975 for those that are not in general position).
 * @param enough it stops counting once there are more.
 */
export function cellsOfPlanes(planes: readonly Flat[], box: Box, enough = Number.POSITIVE_INFINITY): number {
  const size = diagonal(box);
  const middle = centre(box);
  const known: { normal: Vec3; away: number }[] = [];
  let cells = 1;
  for (const { origin, normal } of planes) {
    if (cells > enough) break;
    const own = { normal: unit(normal), away: dot(unit(normal), sub(origin, middle)) };
    const sides = corners(box).map((corner) => dot(own.normal, sub(corner, middle)) - own.away);
    if (Math.min(...sides) > -SAME * size || Math.max(...sides) < SAME * size) continue;
    const same = known.some(({ normal: other, away }) => {
      const sign = Math.sign(dot(other, own.normal));
      return length(cross(other, own.normal)) < SAME && Math.abs(away - sign * own.away) < SAME * size;
    });
    if (same) continue;
    cells += regionsOf(own, known, box, middle, size);
    known.push(own);
  }
  return cells;
}

type Known = { normal: Vec3; away: number };
interface Line {
  at: Vec3;
  way: Vec3;
}

/** How many parts of a plane there are between the lines in which others cross it within a box. */
function regionsOf(own: Known, others: readonly Known[], box: Box, middle: Vec3, size: number): number {
  const lines = new Map<string, Line>();
  for (const other of others) {
    const line = lineOf(own, other);
    if (!line || !crosses(line, box, middle, SAME * size)) continue;
    // The same line whichever way it runs.
    const sign = Math.sign(line.way.find((x) => Math.abs(x) > 1e-6)!);
    lines.set(keyOf([...line.way.map((x) => sign * x), ...line.at.map((x) => x / size)]), line);
  }
  const places = new Map<string, Set<Line>>();
  const all = [...lines.values()];
  for (const [i, a] of all.entries())
    for (const b of all.slice(i + 1)) {
      const place = meeting(a, b);
      if (!place || !holds(box, middle, place, SAME * size)) continue;
      const key = keyOf(place.map((x) => x / size));
      const through = places.get(key);
      if (through) through.add(a).add(b);
      else places.set(key, new Set([a, b]));
    }
  return 1 + all.length + [...places.values()].reduce((sum, through) => sum + through.size - 1, 0);
}

const keyOf = (values: readonly number[]): string => values.map((x) => Math.round(x * 1e8) + 0).join(" ");

/** The line in which two planes cross, by its place nearest to the middle; null where they are parallel. */
function lineOf(a: Known, b: Known): Line | null {
  const along = cross(a.normal, b.normal);
  const square = dot(along, along);
  if (square < SAME ** 2) return null;
  const at = cross(sub(scale(b.normal, a.away), scale(a.normal, b.away)), along);
  return { at: scale(at, 1 / square), way: unit(along) };
}

/** Whether a line goes through the inside of a box. */
function crosses({ at, way }: Line, box: Box, middle: Vec3, slack: number): boolean {
  let [from, to] = [-Infinity, Infinity];
  for (let k = 0; k < 3; k++) {
    const [low, high] = [box.min[k]! - middle[k]! + slack, box.max[k]! - middle[k]! - slack];
    if (Math.abs(way[k]!) < 1e-12) {
      if (at[k]! < low || at[k]! > high) return false;
      continue;
    }
    const ends = [(low - at[k]!) / way[k]!, (high - at[k]!) / way[k]!];
    from = Math.max(from, Math.min(...ends));
    to = Math.min(to, Math.max(...ends));
  }
  return to > from;
}

/** Where two lines of one plane cross; null where they are parallel. */
function meeting(a: Line, b: Line): Vec3 | null {
  const turn = cross(a.way, b.way);
  const square = dot(turn, turn);
  if (square < SAME ** 2) return null;
  const t = dot(cross(sub(b.at, a.at), b.way), turn) / square;
  return [a.at[0] + t * a.way[0], a.at[1] + t * a.way[1], a.at[2] + t * a.way[2]];
}

const holds = (box: Box, middle: Vec3, at: Vec3, slack: number): boolean =>
  [0, 1, 2].every((k) => {
    const x = at[k]! + middle[k]!;
    return x > box.min[k]! + slack && x < box.max[k]! - slack;
  });
