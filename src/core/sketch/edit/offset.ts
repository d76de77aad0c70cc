import {
  add2,
  type Curve,
  cross2,
  distance2,
  dot2,
  length2,
  pointAt,
  scale2,
  slopeAt,
  sub2,
  type Vec2,
} from "../curves";
import type { EntityOf, Sketch } from "../entities";
import { crossings, nearestParameter } from "../profile/crossings";
import { SketchFault } from "../solver/geometry";
import { curveOf, workable } from "./lookup";
import { placeOf, SketchEdit } from "./sketch-edit";

type Link = EntityOf<"line" | "arc">;

/** A curve of a chain, walked one way. */
interface Walked {
  entity: Link;
  from: string;
  to: string;
}

/**
 * Draws curves at a distance from a chain of lines and arcs, or from circles, on the side on which a place lies. One
 * dimension holds the distance of all of them.
 * @throws SketchFault for curves whose offset would be another kind of curve, and where one would vanish.
 */
export function offset(sketch: Sketch, ids: readonly string[], distance: number, near: Vec2): Sketch {
  const edit = new SketchEdit(sketch);
  const isPoint = (id: string) => edit.find(id)?.type === "point";
  const picked = [...new Set(ids)]
    .filter((id) => !isPoint(id))
    .map((id) => {
      const given = edit.given.find((entity) => entity.id === id);
      const known =
        given ?? workable(edit, id, ["line", "arc", "circle"], "Only lines, arcs and circles can be offset exactly");
      return known as EntityOf<"line" | "arc" | "circle">;
    });
  if (picked.length === 0) throw new SketchFault("Pick the lines, arcs or circles to offset first.");
  const pairs: string[] = [];
  for (const circle of picked.filter((entity) => entity.type === "circle")) {
    const out = distance2(near, placeOf(edit, circle.centre)) > circle.radius;
    const radius = circle.radius + (out ? distance : -distance);
    if (radius <= 1e-6) throw vanished(circle.id);
    pairs.push(circle.id, edit.circle(circle.centre, radius));
  }
  for (const chain of chainsOf(picked.filter((entity): entity is Link => entity.type !== "circle")))
    pairs.push(...offsetChain(edit, chain, distance, near));
  edit.size("offset", pairs, distance);
  return edit.parts;
}

const vanished = (id: string) => new SketchFault(`So far in, nothing is left beside “${id}”. Offset by less.`);

/** Curves in the order in which they follow each other, each walked onwards. */
function chainsOf(links: readonly Link[]): Walked[][] {
  const left = new Set(links);
  const chains: Walked[][] = [];
  const next = (point: string): Walked | null => {
    for (const entity of left) {
      if (entity.from === point) return { entity, from: entity.from, to: entity.to };
      if (entity.to === point) return { entity, from: entity.to, to: entity.from };
    }
    return null;
  };
  while (left.size > 0) {
    const [first] = left;
    left.delete(first!);
    const chain: Walked[] = [{ entity: first!, from: first!.from, to: first!.to }];
    for (let more = next(chain.at(-1)!.to); more; more = next(chain.at(-1)!.to)) {
      left.delete(more.entity);
      chain.push(more);
    }
    for (let more = next(chain[0]!.from); more; more = next(chain[0]!.from)) {
      left.delete(more.entity);
      chain.unshift({ entity: more.entity, from: more.to, to: more.from });
    }
    chains.push(chain);
  }
  return chains;
}

/** A curve of a chain as a whole line or circle moved aside, with the directions in which it begins and ends. */
interface Moved extends Walked {
  /** Counter-clockwise arcs walked onwards, and lines, have 1. */
  sense: 1 | -1;
  ways: [Vec2, Vec2];
  radius: number;
}

function offsetChain(edit: SketchEdit, chain: readonly Walked[], distance: number, near: Vec2): string[] {
  const closed = chain.length > 1 && chain.at(-1)!.to === chain[0]!.from;
  const left = sideOf(edit, chain, near) * distance;
  const moved = chain.map((walked): Moved => {
    const { entity } = walked;
    const onwards = walked.from === entity.from;
    const curve = curveOf(edit, entity.id);
    const way = (t: number): Vec2 => {
      const slope = slopeAt(curve, t);
      return scale2(slope, (onwards ? 1 : -1) / (length2(slope) || 1));
    };
    const sense = onwards ? 1 : -1;
    const radius =
      entity.type === "arc" ? distance2(placeOf(edit, entity.centre), placeOf(edit, entity.from)) - sense * left : 0;
    if (entity.type === "arc" && radius <= 1e-6) throw vanished(entity.id);
    return { ...walked, sense, ways: onwards ? [way(0), way(1)] : [way(1), way(0)], radius };
  });
  const beside = (point: string, way: Vec2): Vec2 => add2(placeOf(edit, point), scale2([-way[1], way[0]], left));
  const count = moved.length;
  const corner = (i: number): { at: Vec2; smooth: boolean } => {
    const [a, b] = [moved[(i + count - 1) % count]!, moved[i % count]!];
    const smooth = Math.abs(cross2(a.ways[1], b.ways[0])) < 1e-6 && dot2(a.ways[1], b.ways[0]) > 0;
    const aside = beside(b.from, b.ways[0]);
    if (smooth) return { at: aside, smooth };
    const meets = crossings(wide(edit, a, beside), wide(edit, b, beside)).map(({ at }) => at);
    if (meets.length === 0) throw vanished(b.entity.id);
    const wanted = scale2(add2(aside, beside(a.to, a.ways[1])), 0.5);
    return { at: meets.reduce((best, at) => (distance2(at, wanted) < distance2(best, wanted) ? at : best)), smooth };
  };
  const ends = Array.from({ length: closed ? count : count + 1 }, (_, i) => {
    if (!closed && i === 0) return { at: beside(moved[0]!.from, moved[0]!.ways[0]), smooth: false };
    if (!closed && i === count) return { at: beside(moved[count - 1]!.to, moved[count - 1]!.ways[1]), smooth: false };
    return corner(i);
  });
  const endOf = (i: number) => ends[closed ? i % count : i]!;
  moved.forEach((one, i) => {
    const [p, q] = [endOf(i).at, endOf(i + 1).at];
    if (one.entity.type === "line" && dot2(sub2(q, p), one.ways[0]) <= 1e-9) throw vanished(one.entity.id);
  });
  const points = ends.map(({ at }) => edit.point(at));
  const made = moved.map(({ entity, sense }, i) => {
    const [p, q] = [points[i]!, points[closed ? (i + 1) % count : i + 1]!];
    const [from, to] = sense === 1 ? [p, q] : [q, p];
    return entity.type === "line" ? edit.line(from, to) : edit.arc(entity.centre, from, to);
  });
  // Where two run smoothly on, the direction holds the place along them; then an arc's distance follows from the other.
  ends.forEach(({ smooth }, i) => {
    if (smooth) edit.hold("tangent", [made[(i + count - 1) % count]!, made[i % count]!]);
  });
  if (!closed) squareEnds(edit, chain, points);
  return moved.flatMap(({ entity }, i) => {
    const follows =
      entity.type === "arc" &&
      ((endOf(i).smooth && (i > 0 || moved[count - 1]!.entity.type === "line")) ||
        (endOf(i + 1).smooth && moved[(i + 1) % count]!.entity.type === "line"));
    return follows ? [] : [entity.id, made[i]!];
  });
}

/** On which side of the walk a place lies: 1 to the left. */
function sideOf(edit: SketchEdit, chain: readonly Walked[], near: Vec2): 1 | -1 {
  let best = { away: Number.POSITIVE_INFINITY, side: 1 as 1 | -1 };
  for (const { entity, from } of chain) {
    const curve = curveOf(edit, entity.id);
    const t = nearestParameter(curve, near) ?? 0;
    const place = pointAt(curve, t);
    const away = distance2(place, near);
    if (away >= best.away) continue;
    const turn = cross2(slopeAt(curve, t), sub2(near, place)) * (from === entity.from ? 1 : -1);
    best = { away, side: turn >= 0 ? 1 : -1 };
  }
  return best.side;
}

/** A moved curve as far as it could reach to meet its neighbours. */
function wide(
  edit: SketchEdit,
  { entity, from, ways, radius }: Moved,
  beside: (point: string, way: Vec2) => Vec2,
): Curve {
  const base = { id: entity.id, entity: entity.id };
  if (entity.type === "arc")
    return {
      ...base,
      closed: true,
      shape: { kind: "arc", centre: placeOf(edit, entity.centre), radius, start: 0, sweep: 2 * Math.PI },
    };
  const [start, way] = [beside(from, ways[0]), scale2(ways[0], 200_000)];
  return { ...base, closed: false, shape: { kind: "line", from: sub2(start, way), to: add2(start, way) } };
}

/** The ends of an open offset stay square beside the ends of what it was drawn from. */
function squareEnds(edit: SketchEdit, chain: readonly Walked[], points: readonly string[]): void {
  const ends = [
    [chain[0]!, chain[0]!.from, points[0]!],
    [chain.at(-1)!, chain.at(-1)!.to, points.at(-1)!],
  ] as const;
  for (const [{ entity }, old, end] of ends) {
    const rung = edit.line(old, end);
    edit.asConstruction([rung], true);
    if (entity.type === "line") edit.hold("perpendicular", [entity.id, rung]);
    else edit.hold("on", [entity.centre, rung]);
  }
}
