import { allOf, type Dimension, type Entity, placeOf, type Sketch, type Vec2 } from "@/core/sketch";

/** How a dimension is drawn, in the plane, mm: thin lines, the line that carries the text, and where the text stands. */
export interface SizeMark {
  thin: [Vec2, Vec2][];
  /** The line or bow that is measured along, as a chain of points; with an arrow at each end that has one. */
  along: Vec2[];
  arrows: "both" | "end";
  text: Vec2;
}

const add = (a: Vec2, b: Vec2, k = 1): Vec2 => [a[0] + b[0] * k, a[1] + b[1] * k];
const middle = (a: Vec2, b: Vec2): Vec2 => [(a[0] + b[0]) / 2, (a[1] + b[1]) / 2];
const length = (a: Vec2): number => Math.hypot(a[0], a[1]);
const unit = (a: Vec2): Vec2 => {
  const size = length(a) || 1;
  return [a[0] / size, a[1] / size];
};

/**
 * @param gap how far from what it measures a dimension stands that was never moved, mm.
 * @param inside a place in the middle of the drawing, to stand away from.
 */
export function sizeMark(dimension: Dimension, sketch: Sketch, gap: number, inside: Vec2): SizeMark | null {
  const find = (id: string): Entity | undefined => allOf(sketch).find((entity) => entity.id === id);
  const point = (id: string): Vec2 => placeOf(sketch, id);
  const ends = (id: string): [Vec2, Vec2] => {
    if (id === "axis-x") return [point("origin"), [1, 0]];
    if (id === "axis-y") return [point("origin"), [0, 1]];
    const line = find(id);
    return line?.type === "line" ? [point(line.from), point(line.to)] : [point(id), point(id)];
  };
  const isLine = (id: string) => id.startsWith("axis-") || find(id)?.type === "line";
  const foot = (at: Vec2, id: string): Vec2 => {
    const [a, b] = ends(id);
    const way = unit([b[0] - a[0], b[1] - a[1]]);
    return add(a, way, (at[0] - a[0]) * way[0] + (at[1] - a[1]) * way[1]);
  };
  const [a, b] = dimension.of as [string, string | undefined];
  const first = find(a);
  switch (dimension.type) {
    case "radius":
    case "diameter": {
      if (first?.type !== "circle" && first?.type !== "arc") return null;
      const centre = point(first.centre);
      const radius = first.type === "circle" ? first.radius : length(add(point(first.from), centre, -1));
      const out = dimension.at ? unit(add(dimension.at, centre, -1)) : slanted(first, centre, point);
      const rim = add(centre, out, radius);
      const text = dimension.at ?? add(rim, out, gap);
      const start = dimension.type === "diameter" ? add(centre, out, -radius) : centre;
      return { thin: [[rim, text]], along: [start, rim], arrows: dimension.type === "diameter" ? "both" : "end", text };
    }
    case "angle": {
      if (!b) return null;
      const [p, q] = [ends(a), ends(b)];
      const way = ([from, to]: [Vec2, Vec2], turned: boolean): Vec2 =>
        unit(turned ? add(from, to, -1) : add(to, from, -1));
      const [u, v] = [way(p, dimension.reverse[0]), way(q, dimension.reverse[1])];
      const det = u[0] * v[1] - u[1] * v[0];
      const between = add(q[0], p[0], -1);
      const apex = Math.abs(det) < 1e-9 ? p[0] : add(p[0], u, (between[0] * v[1] - between[1] * v[0]) / det);
      const radius = dimension.at ? Math.max(length(add(dimension.at, apex, -1)), gap / 2) : gap * 1.6;
      const start = Math.atan2(u[1], u[0]);
      let sweep = Math.atan2(v[1], v[0]) - start;
      while (sweep > Math.PI) sweep -= 2 * Math.PI;
      while (sweep < -Math.PI) sweep += 2 * Math.PI;
      const on = (share: number, k = 1): Vec2 =>
        add(apex, [Math.cos(start + sweep * share), Math.sin(start + sweep * share)], radius * k);
      const along = Array.from({ length: 17 }, (_, i) => on(i / 16));
      return {
        thin: [
          [apex, on(0, 1.1)],
          [apex, on(1, 1.1)],
        ],
        along,
        arrows: "both",
        text: dimension.at ?? on(0.5, 1.3),
      };
    }
    case "offset": {
      if (!b) return null;
      if (isLine(a) && isLine(b)) {
        const at = middle(...ends(b));
        return straight(foot(at, a), at, null, 0, inside, dimension.at);
      }
      const round = (id: string): [Vec2, number] => {
        const entity = find(id);
        if (entity?.type === "circle") return [point(entity.centre), entity.radius];
        if (entity?.type !== "arc") return [[0, 0], 0];
        return [point(entity.centre), length(add(point(entity.from), point(entity.centre), -1))];
      };
      const [[centre, from], [, to]] = [round(a), round(b)];
      const out = unit([1, 1]);
      return straight(add(centre, out, from), add(centre, out, to), null, 0, inside, dimension.at);
    }
    default: {
      if (first?.type === "text") {
        const at = point(first.at);
        const along = unit(add(point(first.along), at, -1));
        const up: Vec2 = [-along[1], along[0]];
        return straight(at, add(at, up, first.height), up, gap / 2, add(at, along, 1), dimension.at);
      }
      let [p, q]: [Vec2, Vec2] = b === undefined ? ends(a) : [point(a), point(b)];
      if (b !== undefined && isLine(a) !== isLine(b)) {
        const [at, line] = isLine(a) ? [point(b), a] : [point(a), b];
        [p, q] = [foot(at, line), at];
      } else if (b !== undefined && isLine(a)) {
        q = middle(...ends(b));
        p = foot(q, a);
      }
      const direction: Vec2 | null =
        dimension.type === "across" ? [1, 0] : dimension.type === "upright" ? [0, 1] : null;
      return straight(p, q, direction, gap, inside, dimension.at);
    }
  }
}

/** A size along a straight line, or along an axis, moved aside so that it stands clear of what it measures. */
function straight(
  p: Vec2,
  q: Vec2,
  direction: Vec2 | null,
  gap: number,
  inside: Vec2,
  at: readonly [number, number] | undefined,
): SizeMark {
  const way = direction ?? unit(add(q, p, -1));
  let left: Vec2 = [-way[1], way[0]];
  const half = middle(p, q);
  // Away from the middle of the drawing.
  if ((inside[0] - half[0]) * left[0] + (inside[1] - half[1]) * left[1] > 0) left = [-left[0], -left[1]];
  const height = (of: Vec2) => of[0] * left[0] + of[1] * left[1];
  const level = at ? height(at) : Math.max(height(p), height(q)) + gap;
  const lift = (of: Vec2): Vec2 => add(of, left, level - height(of));
  const [s, t] = [lift(p), lift(q)];
  // Along an axis, both ends are brought to where the other's height meets it.
  const text = at ? lift(at as Vec2) : middle(s, t);
  return {
    thin: [
      [p, s],
      [q, t],
    ],
    along: [s, t],
    arrows: "both",
    text,
  };
}

/** Where a round size points: half-way along an arc, up and to the right on a circle. */
function slanted(curve: Extract<Entity, { type: "circle" | "arc" }>, centre: Vec2, point: (id: string) => Vec2): Vec2 {
  if (curve.type === "circle") return unit([1, 1]);
  const [from, to] = [add(point(curve.from), centre, -1), add(point(curve.to), centre, -1)];
  const start = Math.atan2(from[1], from[0]);
  let sweep = Math.atan2(to[1], to[0]) - start;
  while (sweep <= 1e-12) sweep += 2 * Math.PI;
  return [Math.cos(start + sweep / 2), Math.sin(start + sweep / 2)];
}
