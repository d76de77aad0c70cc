import { formatLength } from "../../units";
import type { Dimension, EntityType } from "../entities";
import { atan2, cross, type Dual, dot, minus, over, type Pair, pairMinus, plus, scaled, size } from "./dual";
import { type Geometry, Local, SketchFault } from "./geometry";
import type { Layout } from "./layout";

// What dimensions measure, and on which side of what.

/** The size that a dimension tells at some values, mm or degrees. */
export function measuredSize(dimension: Dimension, layout: Layout, x: Float64Array): number {
  const { local } = lookAt(dimension.of, layout);
  const g = local.at(x);
  if (dimension.type === "angle") return (angleBetween(dimension, g).v * 180) / Math.PI;
  return Math.abs(lengthOf(dimension, g).v);
}

/**
 * Dimensions with the sides written down that count as above 0, where one has come out at it or below: what is drawn then stands
 * on neither side or on the other, and the next drawing that starts from there would take that for the side that is meant.
 *
 * @param sizeOf a dimension's value, mm or degrees.
 */
export function withSides(
  dimensions: readonly Dimension[],
  layout: Layout,
  sizeOf: (one: Dimension) => number,
): Dimension[] {
  return dimensions.map((dimension) => {
    if (dimension.type === "angle" || dimension.side !== undefined || sizeOf(dimension) > 0) return dimension;
    const start = lookAt(dimension.of, layout).local.at(layout.start);
    return hasSides(dimension, start) ? { ...dimension, side: signOf(dimension, start) } : dimension;
  });
}

/** Distances to a line, and along an axis, keep the side that they have in the drawing, where none is written down. */
export function signOf(dimension: Dimension, start: Geometry): 1 | -1 {
  if (dimension.type === "angle") return 1;
  return dimension.side ?? (lengthOf(dimension, start).v < 0 ? -1 : 1);
}

/** Whether a distance can lie on one side or the other: along an axis, and from a line. */
export function hasSides({ type, of }: Dimension, g: Geometry): boolean {
  if (type === "across" || type === "upright") return true;
  return type === "distance" && of.length === 2 && of.some((id) => g.type(id) === "line");
}

export const noOtherSide = ({ name, type }: Dimension, value: number): string =>
  `The ${name ? `size “${name}”` : type} comes out as ${formatLength(value)}. Only distances along an axis or from a line may be below 0, and turn round.`;

export function angleBetween(dimension: Extract<Dimension, { type: "angle" }>, g: Geometry): Dual {
  const [a, b] = dimension.of as [string, string];
  if (!b || g.type(a) !== "line" || g.type(b) !== "line") throw new SketchFault("An angle needs two lines.");
  const [turnA, turnB] = dimension.reverse;
  const da = g.direction(a);
  const db = g.direction(b);
  const k = turnA === turnB ? 1 : -1;
  return atan2(scaled(cross(da, db), k), scaled(dot(da, db), k));
}

export function lengthOf(dimension: Dimension, g: Geometry): Dual {
  const [a, b] = dimension.of as [string, string | undefined];
  const kinds = dimension.of.map((id) => g.type(id));
  const round = kinds[0] === "circle" || kinds[0] === "arc";
  switch (dimension.type) {
    case "radius":
      if (dimension.of.length === 1 && round) return g.radius(a);
      throw new SketchFault("A radius needs one circle or arc.");
    case "diameter":
      if (dimension.of.length === 1 && round) return scaled(g.radius(a), 2);
      throw new SketchFault("A diameter needs one circle or arc.");
    case "offset":
      if (kinds[0] === "line" && kinds[1] === "line") return awayFromLine(g, g.ends(b!)[0], a);
      return minus(g.radius(b!), g.radius(a));
    case "across":
    case "upright": {
      const k = dimension.type === "across" ? 0 : 1;
      if (kinds[0] === "line" && b === undefined) return g.direction(a)[k];
      if (kinds[0] === "point" && kinds[1] === "point") return minus(g.point(b!)[k], g.point(a)[k]);
      throw new SketchFault("A distance along an axis needs two points or a line.");
    }
    default:
      if (kinds[0] === "line" && b === undefined) return size(g.direction(a));
      if (kinds[0] === "text" && b === undefined) return g.height(a);
      if (kinds[0] === "point" && kinds[1] === "point") return size(pairMinus(g.point(a), g.point(b!)));
      if (kinds[0] === "point" && kinds[1] === "line") return awayFromLine(g, g.point(a), b!);
      if (kinds[0] === "line" && kinds[1] === "point") return awayFromLine(g, g.point(b!), a);
      // Between parallel lines: from the middle of the second to the first.
      if (kinds[0] === "line" && kinds[1] === "line") {
        const [from, to] = g.ends(b!);
        return awayFromLine(g, [scaled(plus(from[0], to[0]), 0.5), scaled(plus(from[1], to[1]), 0.5)], a);
      }
      throw new SketchFault("A distance needs a line, two points, a point and a line, or two parallel lines.");
  }
}

export function lookAt(of: readonly string[], layout: Layout): { kinds: EntityType[]; local: Local } {
  const local = new Local(layout);
  for (const id of of) local.include(id);
  return { kinds: of.map((id) => local.entity(id).type), local };
}

/** The distance of a point from a line, positive on its left. */
export function awayFromLine(g: Geometry, point: Pair, line: string): Dual {
  const [from] = g.ends(line);
  const along = g.direction(line);
  return over(cross(along, pairMinus(point, from)), size(along));
}
