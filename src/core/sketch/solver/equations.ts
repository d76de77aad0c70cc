import type { Constraint, Dimension, Entity, EntityType } from "../entities";
import type { Contacts } from "./contacts";
import {
  cross,
  type Dual,
  dot,
  hypot,
  minus,
  over,
  type Pair,
  pairMinus,
  plus,
  scaled,
  shifted,
  size,
  times,
} from "./dual";
import { type Geometry, type Local, SketchFault } from "./geometry";
import type { Layout } from "./layout";
import { angleBetween, awayFromLine, hasSides, lengthOf, lookAt, noOtherSide, signOf } from "./sizes";

/** One or more equations that come from one constraint, dimension or arc: each has to come to 0, in millimetres. */
export interface Equations {
  /** The constraint or dimension; an arc's own equation has the arc's id. */
  source: string;
  kind: "constraint" | "dimension" | "shape";
  unknowns: readonly number[];
  run(x: Float64Array): Dual[];
}

const ROUND: readonly EntityType[] = ["circle", "arc"];
const TANGENT_AT_ENDS: readonly EntityType[] = ["line", "arc", "spline"];

/** The equations of a constraint, its branch (which side, in or out) settled by where things stand at the start. */
export function constraintEquations(constraint: Constraint, layout: Layout, contacts: Contacts): Equations {
  const { of, type } = constraint;
  const { kinds, local } = lookAt(of, layout);
  const wrong = (): never => {
    throw new SketchFault(
      `${CONSTRAINT_WORDS[type]} needs ${CONSTRAINT_NEEDS[type]}; here are ${kinds.join(" and ")}.`,
    );
  };
  const is = (...wanted: (EntityType | readonly EntityType[])[]) =>
    kinds.length === wanted.length && wanted.every((kind, i) => ([kind].flat() as EntityType[]).includes(kinds[i]!));
  const start = local.at(layout.start);
  const make = (run: (g: Geometry) => Dual[]): Equations => ({
    source: constraint.id,
    kind: "constraint",
    unknowns: local.unknowns,
    run: (x) => run(local.at(x)),
  });
  const [a, b, c] = of as [string, string, string];
  switch (type) {
    case "coincident":
      if (!is("point", "point")) wrong();
      return make((g) => [...pairMinus(g.point(a), g.point(b))]);
    case "on":
      if (is("point", "line")) return make((g) => [awayFromLine(g, g.point(a), b)]);
      if (is("point", ROUND)) return make((g) => [minus(size(pairMinus(g.point(a), g.centre(b))), g.radius(b))]);
      if (is("point", "ellipse"))
        return make((g) => {
          return [offEllipse(g, a, b)];
        });
      if (is("point", "spline"))
        return make((g) => {
          // That the nearest place slides along as things move does not change how far away it is, to first order.
          const t = g.nearestOnSpline(b, a);
          const slope = g.ofSpline(b, (poles) => poles.slope(t)).map(({ v }) => v) as [number, number];
          const place = g.ofSpline(b, (poles) => poles.at(t));
          const away = pairMinus(g.point(a), place);
          const long = Math.hypot(...slope) || 1;
          return [plus(scaled(away[0], -slope[1] / long), scaled(away[1], slope[0] / long))];
        });
      return wrong();
    case "midpoint":
      if (!is("point", "line")) wrong();
      return make((g) => {
        const [from, to] = g.ends(b);
        const p = g.point(a);
        return [0, 1].map((k) => minus(p[k]!, scaled(plus(from[k]!, to[k]!), 0.5)));
      });
    case "horizontal":
    case "vertical": {
      const k = type === "horizontal" ? 1 : 0;
      if (is("line")) return make((g) => [g.direction(a)[k]]);
      if (is("point", "point")) return make((g) => [minus(g.point(b)[k], g.point(a)[k])]);
      return wrong();
    }
    case "parallel":
      if (!is("line", "line")) wrong();
      return make((g) => [slant(g, g.direction(a), g.direction(b), cross)]);
    case "perpendicular":
      if (!is("line", "line")) wrong();
      return make((g) => [slant(g, g.direction(a), g.direction(b), dot)]);
    case "tangent": {
      if (kinds.length === 2 && kinds.includes("spline") && kinds.every((kind) => TANGENT_AT_ENDS.includes(kind))) {
        const contact = contacts.between(a, b);
        if (contact === null)
          throw new SketchFault("A spline is tangent where it ends: join its end to the end of the other curve first.");
        local.include(contact);
        return make((g) => [slant(g, g.directionAt(a, contact), g.directionAt(b, contact), cross)]);
      }
      if (is("line", ROUND) || is(ROUND, "line")) {
        const [line, round] = kinds[0] === "line" ? [a, b] : [b, a];
        const contact = contacts.between(line, round);
        if (contact !== null) {
          local.include(contact);
          // Where they meet, the line is square to the radius.
          return make((g) => {
            const along = g.direction(line);
            return [over(dot(pairMinus(g.point(contact), g.centre(round)), along), size(along))];
          });
        }
        const side = awayFromLine(start, start.centre(round), line).v < 0 ? -1 : 1;
        return make((g) => [minus(scaled(awayFromLine(g, g.centre(round), line), side), g.radius(round))]);
      }
      if (is(ROUND, ROUND)) {
        const contact = contacts.between(a, b);
        if (contact !== null) {
          local.include(contact);
          // Where they meet, both centres lie on one line with the place.
          return make((g) => {
            const [p, q] = [pairMinus(g.centre(a), g.point(contact)), pairMinus(g.centre(b), g.point(contact))];
            return [slant(g, p, q, cross)];
          });
        }
        const inside = constraint.inside ?? startsInside(start, a, b);
        return make((g) => {
          const apart = size(pairMinus(g.centre(a), g.centre(b)));
          if (!inside) return [minus(apart, plus(g.radius(a), g.radius(b)))];
          const gap = minus(g.radius(a), g.radius(b));
          return [minus(apart, start.radius(a).v < start.radius(b).v ? scaled(gap, -1) : gap)];
        });
      }
      if (is("line", "ellipse") || is("ellipse", "line")) {
        const [line, ellipse] = kinds[0] === "line" ? [a, b] : [b, a];
        // Its distance from the centre is how far the ellipse reaches that way: d² = a² cos² + b² sin².
        return make((g) => {
          const { centre, axis, minor } = g.ellipse(ellipse);
          const along = g.direction(line);
          const reach = over(hypot(cross(along, axis), times(minor, over(dot(along, axis), size(axis)))), size(along));
          const away = awayFromLine(g, centre, line);
          return [minus(away.v < 0 ? scaled(away, -1) : away, reach)];
        });
      }
      return wrong();
    }
    case "equal":
      if (is("line", "line")) return make((g) => [minus(size(g.direction(a)), size(g.direction(b)))]);
      if (is(ROUND, ROUND)) return make((g) => [minus(g.radius(a), g.radius(b))]);
      return wrong();
    case "concentric": {
      const centred: EntityType[] = ["circle", "arc", "ellipse"];
      if (!is(centred, centred)) wrong();
      return make((g) => [...pairMinus(g.centre(a), g.centre(b))]);
    }
    case "symmetric":
      if (!is("point", "point", "line")) wrong();
      return make((g) => {
        const [p, q] = [g.point(a), g.point(b)];
        const along = g.direction(c);
        const between = pairMinus(q, p);
        const middle: Pair = [scaled(plus(p[0], q[0]), 0.5), scaled(plus(p[1], q[1]), 0.5)];
        return [over(dot(between, along), size(along)), awayFromLine(g, middle, c)];
      });
    case "fixed": {
      if (kinds.length !== 1) wrong();
      const here = local.unknowns.map((unknown) => layout.start[unknown]!);
      return {
        source: constraint.id,
        kind: "constraint",
        unknowns: local.unknowns,
        run: (x) =>
          local.unknowns.map((unknown, i) => {
            const d = new Float64Array(local.unknowns.length);
            d[i] = 1;
            return { v: x[unknown]! - here[i]!, d };
          }),
      };
    }
  }
}

export const CONSTRAINT_WORDS: Record<Constraint["type"], string> = {
  coincident: "Coincident",
  on: "On a curve",
  midpoint: "Midpoint",
  horizontal: "Horizontal",
  vertical: "Vertical",
  parallel: "Parallel",
  perpendicular: "Perpendicular",
  tangent: "Tangent",
  equal: "Equal",
  concentric: "Concentric",
  symmetric: "Symmetric",
  fixed: "Fixed",
};

const CONSTRAINT_NEEDS: Record<Constraint["type"], string> = {
  coincident: "two points",
  on: "a point and a curve",
  midpoint: "a point and a line",
  horizontal: "a line or two points",
  vertical: "a line or two points",
  parallel: "two lines",
  perpendicular: "two lines",
  tangent: "a line and a round curve, two circles or arcs, or a spline and a line or arc that meet at their ends",
  equal: "two lines, or two circles or arcs",
  concentric: "two circles, arcs or ellipses",
  symmetric: "two points and a line",
  fixed: "one entity",
};

/**
 * The equations of a dimension with its value in millimetres or degrees.
 * @throws SketchFault when it is between things that have no such size.
 */
export function dimensionEquations(dimension: Dimension, value: number, layout: Layout): Equations {
  const { local } = lookAt(dimension.of, layout);
  if (dimension.type === "offset") {
    if (value < 0) throw new SketchFault(noOtherSide(dimension, value));
    return offsetEquations(dimension, value, layout, local);
  }
  const start = local.at(layout.start);
  if (value < 0 && dimension.type !== "angle" && !hasSides(dimension, start))
    throw new SketchFault(noOtherSide(dimension, value));
  const sign = signOf(dimension, start);
  return {
    source: dimension.id,
    kind: "dimension",
    unknowns: local.unknowns,
    run: (x) => [deviation(dimension, value, local.at(x), sign)],
  };
}

/** Each pair of an offset: both ends of a line as far from the other, round curves with radii that differ by it. */
function offsetEquations({ id, of }: Dimension, value: number, layout: Layout, local: Local): Equations {
  const pairs = pairsOf(of, (one) => local.entity(one).type);
  const gaps = (g: Geometry): Dual[] =>
    pairs.flatMap(([from, to]) =>
      g.type(from) === "line"
        ? g.ends(to).map((end) => awayFromLine(g, end, from))
        : [minus(g.radius(to), g.radius(from))],
    );
  const signs = gaps(local.at(layout.start)).map(({ v }) => (v < 0 ? -1 : 1));
  return {
    source: id,
    kind: "dimension",
    unknowns: local.unknowns,
    run: (x) => gaps(local.at(x)).map((gap, i) => shifted(scaled(gap, signs[i]!), -value)),
  };
}

function pairsOf(of: readonly string[], kindOf: (id: string) => EntityType): [string, string][] {
  const pairs = Array.from({ length: Math.floor(of.length / 2) }, (_, i): [string, string] => [
    of[2 * i]!,
    of[2 * i + 1]!,
  ]);
  const fits = ([from, to]: [string, string]) =>
    (kindOf(from) === "line" && kindOf(to) === "line") || (ROUND.includes(kindOf(from)) && ROUND.includes(kindOf(to)));
  if (of.length % 2 === 1 || !pairs.every(fits))
    throw new SketchFault("An offset needs pairs of lines, or of circles and arcs.");
  return pairs;
}

function deviation(dimension: Dimension, value: number, g: Geometry, sign: 1 | -1): Dual {
  if (dimension.type !== "angle") return shifted(scaled(lengthOf(dimension, g), sign), -value);
  const turn = angleBetween(dimension, g);
  let rest = turn.v - (value * Math.PI) / 180;
  rest -= 2 * Math.PI * Math.round(rest / (2 * Math.PI));
  // In millimetres at the end of the longer line, so that an angle weighs as much as a length.
  const [a, b] = dimension.of as [string, string];
  const reach = Math.max(size(g.direction(a)).v, size(g.direction(b)).v, 1);
  return scaled({ v: rest, d: turn.d }, reach);
}

/** What holds of a curve because of what it is: an arc ends as far from its centre as it begins. */
export function shapeEquations(entity: Entity, layout: Layout): Equations | null {
  const make = (run: (g: Geometry) => Dual[]): Equations => {
    const { local } = lookAt([entity.id], layout);
    return { source: entity.id, kind: "shape", unknowns: local.unknowns, run: (x) => run(local.at(x)) };
  };
  if (entity.type === "arc")
    return make((g) => {
      const centre = g.point(entity.centre);
      return [minus(size(pairMinus(g.point(entity.from), centre)), size(pairMinus(g.point(entity.to), centre)))];
    });
  if (entity.type === "ellipse" && entity.from !== undefined && entity.to !== undefined) {
    const [from, to] = [entity.from, entity.to];
    return make((g) => [offEllipse(g, from, entity.id), offEllipse(g, to, entity.id)]);
  }
  return null;
}

/** How far a point is from an ellipse, along the ray from its centre and on the scale of the drawn axis. */
function offEllipse(g: Geometry, point: string, ellipse: string): Dual {
  const { centre, axis, half, minor } = g.ellipse(ellipse);
  const out = pairMinus(g.point(point), centre);
  const share = hypot(over(dot(out, axis), times(half, half)), over(cross(axis, out), times(half, minor)));
  return times(shifted(share, -1), half);
}

/** How far two directions are from parallel (cross) or square (dot): the miss at the end of the longer, mm. */
function slant(g: Geometry, a: Pair, b: Pair, product: (a: Pair, b: Pair) => Dual): Dual {
  const la = hypot(a[0], a[1]);
  const lb = hypot(b[0], b[1]);
  return over(product(a, b), la.v < lb.v ? nonZero(g, la) : nonZero(g, lb));
}

const nonZero = (g: Geometry, a: Dual): Dual => (a.v < 1e-9 ? g.number(1e-9) : a);

/** Whether two circles are nearer to touching from inside than from outside. */
function startsInside(g: Geometry, a: string, b: string): boolean {
  const apart = size(pairMinus(g.centre(a), g.centre(b))).v;
  const [ra, rb] = [g.radius(a).v, g.radius(b).v];
  return Math.abs(apart - Math.abs(ra - rb)) < Math.abs(apart - (ra + rb));
}
