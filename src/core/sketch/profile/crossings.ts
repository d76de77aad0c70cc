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

/** Where two curves meet: the parameter on each. */
export interface Crossing {
  s: number;
  t: number;
  at: Vec2;
}

/** Places nearer than this are one place, mm. */
export const SAME = 1e-6;

const TURN = 2 * Math.PI;

/** Every place where two curves whose boxes meet cross, touch, or begin and end running along each other. */
export function crossings(a: Curve, b: Curve): Crossing[] {
  const [ka, kb] = [a.shape.kind, b.shape.kind];
  let found: Crossing[];
  if (ka === "line" && kb === "line") found = lineLine(a, b);
  else if (ka === "line" && kb === "arc") found = lineArc(a, b);
  else if (ka === "arc" && kb === "line") found = swapped(lineArc(b, a));
  else if (ka === "arc" && kb === "arc") found = arcArc(a, b);
  else found = general(a, b);
  // An end that lies on the other curve counts, whatever the crossing itself says: drawings end on what they meet.
  const ends = distinct([...endsOn(a, b), ...swapped(endsOn(b, a))]);
  return distinct([...ends, ...found.filter((crossing) => !ends.some((end) => runsAlong(a, b, crossing, end)))]);
}

const swapped = (list: Crossing[]): Crossing[] => list.map(({ s, t, at }) => ({ s: t, t: s, at }));

function distinct(list: Crossing[]): Crossing[] {
  const kept: Crossing[] = [];
  for (const crossing of list)
    if (!kept.some((other) => distance2(other.at, crossing.at) < SAME && nearParameter(other, crossing)))
      kept.push(crossing);
  return kept;
}

/** Whether two places are one: where curves run smoothly on into each other, they lie on each other for a while. */
function runsAlong(a: Curve, b: Curve, crossing: Crossing, end: Crossing): boolean {
  if (distance2(crossing.at, end.at) > 0.1) return false;
  const middle = pointAt(a, (crossing.s + end.s) / 2);
  const t = nearestParameter(b, middle);
  return t !== null && distance2(pointAt(b, t), middle) < SAME;
}

const nearParameter = (a: Crossing, b: Crossing) => Math.abs(a.s - b.s) < 1e-3 && Math.abs(a.t - b.t) < 1e-3;

/** A parameter just past an end is the end; further out there is nothing. */
function within(curve: Curve, t: number): number | null {
  const reach = SAME / Math.max(length2(slopeAt(curve, Math.min(1, Math.max(0, t)))), 1e-12);
  if (t < -reach || t > 1 + reach) return null;
  return Math.min(1, Math.max(0, t));
}

function lineLine(a: Curve, b: Curve): Crossing[] {
  const [p, u] = [pointAt(a, 0), slopeAt(a, 0)];
  const [q, v] = [pointAt(b, 0), slopeAt(b, 0)];
  const det = cross2(u, v);
  if (Math.abs(det) <= 1e-12 * length2(u) * length2(v)) return [];
  const between = sub2(q, p);
  return both(a, cross2(between, v) / det, b, cross2(between, u) / det);
}

function both(a: Curve, s: number, b: Curve, t: number): Crossing[] {
  const [s1, t1] = [within(a, s), within(b, t)];
  return s1 === null || t1 === null ? [] : [{ s: s1, t: t1, at: pointAt(a, s1) }];
}

/** The parameter of an arc at an angle. */
function arcParameter(curve: Curve, angle: number): number {
  const { start, sweep } = curve.shape as Extract<Curve["shape"], { kind: "arc" }>;
  let turn = (angle - start) % TURN;
  if (turn < 0) turn += TURN;
  // A hair before the beginning is the beginning, not the end of another turn.
  if (TURN - turn < 1e-9) turn -= TURN;
  return turn / sweep;
}

function lineArc(line: Curve, arc: Curve): Crossing[] {
  const { centre, radius } = arc.shape as Extract<Curve["shape"], { kind: "arc" }>;
  const from = pointAt(line, 0);
  const along = slopeAt(line, 0);
  const size = length2(along);
  if (size < 1e-12) return [];
  const unit = scale2(along, 1 / size);
  const toCentre = sub2(centre, from);
  const foot = dot2(toCentre, unit);
  const away = cross2(unit, toCentre);
  const rest = radius * radius - away * away;
  // Within SAME of touching, it touches: at the foot, once.
  const touches = Math.abs(Math.abs(away) - radius) < SAME / 10;
  if (rest < 0 && !touches) return [];
  const reach = touches ? 0 : Math.sqrt(rest);
  return (reach === 0 ? [0] : [-reach, reach]).flatMap((k) => {
    const s = (foot + k) / size;
    const at = add2(from, scale2(unit, foot + k));
    return both(line, s, arc, arcParameter(arc, Math.atan2(at[1] - centre[1], at[0] - centre[0])));
  });
}

function arcArc(a: Curve, b: Curve): Crossing[] {
  const ca = a.shape as Extract<Curve["shape"], { kind: "arc" }>;
  const cb = b.shape as Extract<Curve["shape"], { kind: "arc" }>;
  const between = sub2(cb.centre, ca.centre);
  const apart = length2(between);
  if (apart < SAME) return [];
  const unit = scale2(between, 1 / apart);
  const along = (apart * apart + ca.radius * ca.radius - cb.radius * cb.radius) / (2 * apart);
  const rest = ca.radius * ca.radius - along * along;
  const touches =
    Math.abs(apart - (ca.radius + cb.radius)) < SAME / 10 ||
    Math.abs(apart - Math.abs(ca.radius - cb.radius)) < SAME / 10;
  if (rest < 0 && !touches) return [];
  const reach = touches ? 0 : Math.sqrt(rest);
  const foot = add2(ca.centre, scale2(unit, touches ? Math.sign(along) * ca.radius : along));
  return (reach === 0 ? [0] : [-reach, reach]).flatMap((k) => {
    const at: Vec2 = [foot[0] - unit[1] * k, foot[1] + unit[0] * k];
    return both(
      a,
      arcParameter(a, Math.atan2(at[1] - ca.centre[1], at[0] - ca.centre[0])),
      b,
      arcParameter(b, Math.atan2(at[1] - cb.centre[1], at[0] - cb.centre[0])),
    );
  });
}

/** Ends of `a` that lie on `b`. */
function endsOn(a: Curve, b: Curve): Crossing[] {
  if (a.closed) return [];
  return [0, 1].flatMap((s) => {
    const at = pointAt(a, s);
    const t = nearestParameter(b, at);
    return t !== null && distance2(pointAt(b, t), at) < SAME ? [{ s, t, at }] : [];
  });
}

/** The parameter of the point of a curve nearest to a place. */
export function nearestParameter(curve: Curve, at: Vec2): number | null {
  const { shape } = curve;
  if (shape.kind === "line") {
    const along = slopeAt(curve, 0);
    const squared = dot2(along, along);
    return squared < 1e-24 ? null : Math.min(1, Math.max(0, dot2(sub2(at, shape.from), along) / squared));
  }
  if (shape.kind === "arc") {
    const t = arcParameter(curve, Math.atan2(at[1] - shape.centre[1], at[0] - shape.centre[0]));
    if (t <= 1) return Math.max(0, t);
    return distance2(pointAt(curve, 0), at) < distance2(pointAt(curve, 1), at) ? 0 : 1;
  }
  const count = samples(curve);
  let best = 0;
  for (let i = 1; i <= count; i++)
    if (distance2(pointAt(curve, i / count), at) < distance2(pointAt(curve, best), at)) best = i / count;
  let t = best;
  for (let round = 0; round < 20; round++) {
    const miss = sub2(pointAt(curve, t), at);
    const slope = slopeAt(curve, t);
    const step = dot2(miss, slope) / Math.max(dot2(slope, slope), 1e-24);
    t = Math.min(1, Math.max(0, t - step));
    if (Math.abs(step) < 1e-15) break;
  }
  return t;
}

const samples = ({ shape }: Curve): number => (shape.kind === "spline" ? 24 * (shape.poles.breaks().length - 1) : 64);

/** Crossings of any two curves: near ones found on fine chords, then made exact by Newton's method. */
function general(a: Curve, b: Curve): Crossing[] {
  const found: Crossing[] = [];
  const [na, nb] = [pieces(a), pieces(b)];
  for (let i = 0; i < na; i++) {
    const [p, q] = [pointAt(a, i / na), pointAt(a, (i + 1) / na)];
    for (let j = 0; j < nb; j++) {
      const [u, v] = [pointAt(b, j / nb), pointAt(b, (j + 1) / nb)];
      // The curve may bulge past its chord by a part of it: near chords are tried, too.
      const slack = 0.25 * (distance2(p, q) + distance2(u, v));
      if (Math.max(p[0], q[0]) + slack < Math.min(u[0], v[0]) || Math.max(u[0], v[0]) + slack < Math.min(p[0], q[0]))
        continue;
      if (Math.max(p[1], q[1]) + slack < Math.min(u[1], v[1]) || Math.max(u[1], v[1]) + slack < Math.min(p[1], q[1]))
        continue;
      const crossing = refine(a, (i + 0.5) / na, b, (j + 0.5) / nb);
      if (crossing && !found.some((other) => distance2(other.at, crossing.at) < SAME && nearParameter(other, crossing)))
        found.push(crossing);
    }
  }
  return found;
}

const pieces = (curve: Curve): number => (curve.shape.kind === "line" ? 8 : samples(curve));

function refine(a: Curve, s0: number, b: Curve, t0: number): Crossing | null {
  let s = s0;
  let t = t0;
  for (let round = 0; round < 40; round++) {
    const miss = sub2(pointAt(b, t), pointAt(a, s));
    const [u, v] = [slopeAt(a, s), slopeAt(b, t)];
    // Least squares, so that curves that only touch are found as well.
    const [uu, uv, vv] = [dot2(u, u), dot2(u, v), dot2(v, v)];
    const det = uu * vv - uv * uv + 1e-12 * uu * vv;
    if (det <= 0) return null;
    const [mu, mv] = [dot2(miss, u), dot2(miss, v)];
    const ds = (mu * vv - mv * uv) / det;
    const dt = (mu * uv - mv * uu) / det;
    s = Math.min(1, Math.max(0, s + ds));
    t = Math.min(1, Math.max(0, t + dt));
    if (Math.abs(ds) + Math.abs(dt) < 1e-15) break;
  }
  const at = pointAt(a, s);
  return distance2(at, pointAt(b, t)) < SAME / 10 ? { s, t, at } : null;
}

export interface Box2 {
  min: Vec2;
  max: Vec2;
}

/** A box that surely holds a curve. */
export function boxOf(curve: Curve): Box2 {
  const { shape } = curve;
  const round = (points: readonly Vec2[]): Box2 => ({
    min: [Math.min(...points.map((p) => p[0])), Math.min(...points.map((p) => p[1]))],
    max: [Math.max(...points.map((p) => p[0])), Math.max(...points.map((p) => p[1]))],
  });
  switch (shape.kind) {
    case "line":
      return round([shape.from, shape.to]);
    case "arc":
      return about(shape.centre, shape.radius);
    case "ellipse":
      return about(shape.centre, Math.max(shape.major, shape.minor));
    case "spline":
      return round(shape.poles.points);
  }
}

const about = ([x, y]: Vec2, r: number): Box2 => ({ min: [x - r, y - r], max: [x + r, y + r] });

export const boxesMeet = (a: Box2, b: Box2): boolean =>
  [0, 1].every((k) => a.min[k]! <= b.max[k]! + SAME && b.min[k]! <= a.max[k]! + SAME);

/** Where a free-form curve crosses itself: both parameters. Others never do. */
export function selfCrossings(curve: Curve): Crossing[] {
  // A parabola does not cross itself, either.
  if (curve.shape.kind !== "spline" || curve.shape.poles.points.length < 4) return [];
  const count = samples(curve);
  const found: Crossing[] = [];
  for (let i = 0; i < count; i++)
    for (let j = i + 2; j < count; j++) {
      const [p, q, u, v] = [i, i + 1, j, j + 1].map((k) => pointAt(curve, k / count)) as [Vec2, Vec2, Vec2, Vec2];
      const slack = 0.1 * (distance2(p, q) + distance2(u, v));
      if (Math.max(p[0], q[0]) + slack < Math.min(u[0], v[0]) || Math.max(u[0], v[0]) + slack < Math.min(p[0], q[0]))
        continue;
      if (Math.max(p[1], q[1]) + slack < Math.min(u[1], v[1]) || Math.max(u[1], v[1]) + slack < Math.min(p[1], q[1]))
        continue;
      const crossing = refine(curve, (i + 0.5) / count, curve, (j + 0.5) / count);
      if (!crossing) continue;
      const apart = Math.abs(crossing.s - crossing.t);
      if (apart < 1e-3 || (curve.closed && apart > 1 - 1e-3)) continue;
      if (!found.some((other) => nearParameter(other, crossing))) found.push(crossing);
    }
  return found;
}
