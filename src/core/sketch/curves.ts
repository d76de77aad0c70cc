import type { Entity } from "./entities";
import { type Poles, splinePoles } from "./spline";
import { textCurves } from "./text";

/** A point or direction in the plane, mm. */
export type Vec2 = readonly [number, number];

export const add2 = (a: Vec2, b: Vec2): Vec2 => [a[0] + b[0], a[1] + b[1]];
export const sub2 = (a: Vec2, b: Vec2): Vec2 => [a[0] - b[0], a[1] - b[1]];
export const scale2 = (a: Vec2, k: number): Vec2 => [a[0] * k, a[1] * k];
export const dot2 = (a: Vec2, b: Vec2): number => a[0] * b[0] + a[1] * b[1];
export const cross2 = (a: Vec2, b: Vec2): number => a[0] * b[1] - a[1] * b[0];
export const length2 = (a: Vec2): number => Math.hypot(a[0], a[1]);
export const distance2 = (a: Vec2, b: Vec2): number => Math.hypot(a[0] - b[0], a[1] - b[1]);

/** The exact shape of a drawn curve. Angles in radians, counter-clockwise from X. */
export type CurveShape =
  | { kind: "line"; from: Vec2; to: Vec2 }
  | { kind: "arc"; centre: Vec2; radius: number; start: number; sweep: number }
  | { kind: "ellipse"; centre: Vec2; major: number; minor: number; turn: number; start: number; sweep: number }
  | { kind: "spline"; poles: Poles };

/** A drawn curve with its parameter from 0 to 1. A closed one begins where it ends. */
export interface Curve {
  id: string;
  /** The entity that drew it: a text draws many. */
  entity: string;
  shape: CurveShape;
  closed: boolean;
}

const TURN = 2 * Math.PI;

export function pointAt({ shape }: Curve, t: number): Vec2 {
  switch (shape.kind) {
    case "line":
      return [shape.from[0] + (shape.to[0] - shape.from[0]) * t, shape.from[1] + (shape.to[1] - shape.from[1]) * t];
    case "arc": {
      const angle = shape.start + shape.sweep * t;
      return [shape.centre[0] + shape.radius * Math.cos(angle), shape.centre[1] + shape.radius * Math.sin(angle)];
    }
    case "ellipse": {
      const [c, s] = [Math.cos(shape.turn), Math.sin(shape.turn)];
      const angle = shape.start + shape.sweep * t;
      const [x, y] = [shape.major * Math.cos(angle), shape.minor * Math.sin(angle)];
      return [shape.centre[0] + x * c - y * s, shape.centre[1] + x * s + y * c];
    }
    case "spline":
      return shape.poles.at(t);
  }
}

/** The first derivative by the parameter. */
export function slopeAt({ shape }: Curve, t: number): Vec2 {
  switch (shape.kind) {
    case "line":
      return sub2(shape.to, shape.from);
    case "arc": {
      const angle = shape.start + shape.sweep * t;
      return [-shape.radius * shape.sweep * Math.sin(angle), shape.radius * shape.sweep * Math.cos(angle)];
    }
    case "ellipse": {
      const [c, s] = [Math.cos(shape.turn), Math.sin(shape.turn)];
      const angle = shape.start + shape.sweep * t;
      const [x, y] = [-shape.major * shape.sweep * Math.sin(angle), shape.minor * shape.sweep * Math.cos(angle)];
      return [x * c - y * s, x * s + y * c];
    }
    case "spline":
      return shape.poles.slope(t);
  }
}

/** Signed curvature, 1/mm: positive where the curve turns left. */
export function curvatureAt(curve: Curve, t: number): number {
  const { shape } = curve;
  if (shape.kind === "line") return 0;
  if (shape.kind === "arc") return Math.sign(shape.sweep) / shape.radius;
  const h = 1e-5;
  const [a, b] = [Math.max(0, t - h), Math.min(1, t + h)];
  const first = slopeAt(curve, t);
  const second = scale2(sub2(slopeAt(curve, b), slopeAt(curve, a)), 1 / (b - a));
  return cross2(first, second) / Math.max(length2(first) ** 3, 1e-300);
}

/** The curves of a sketch; points, and what only helps to draw, are none. */
export function curvesOf(entities: readonly Entity[], withConstruction = false): Curve[] {
  const points = new Map<string, Vec2>([["origin", [0, 0]]]);
  for (const entity of entities) if (entity.type === "point") points.set(entity.id, [entity.x, entity.y]);
  const at = (id: string): Vec2 => points.get(id) ?? [0, 0];
  return entities.flatMap((entity): Curve[] => {
    if (entity.type === "point" || (entity.construction && !withConstruction)) return [];
    return curvesOfOne(entity, at);
  });
}

function curvesOfOne(entity: Exclude<Entity, { type: "point" }>, at: (id: string) => Vec2): Curve[] {
  const { id } = entity;
  const one = (shape: CurveShape, closed = false): Curve[] => [{ id, entity: id, closed, shape }];
  switch (entity.type) {
    case "line":
      return one({ kind: "line", from: at(entity.from), to: at(entity.to) });
    case "circle":
      return one({ kind: "arc", centre: at(entity.centre), radius: entity.radius, start: 0, sweep: TURN }, true);
    case "arc": {
      const centre = at(entity.centre);
      const from = sub2(at(entity.from), centre);
      const to = sub2(at(entity.to), centre);
      return one({ kind: "arc", centre, radius: length2(from), ...between(angleOf(from), angleOf(to)) });
    }
    case "ellipse": {
      const centre = at(entity.centre);
      const axis = sub2(at(entity.major), centre);
      const [major, { minor }] = [length2(axis), entity];
      const drawn = { kind: "ellipse" as const, centre, major, minor, turn: angleOf(axis) };
      if (entity.from === undefined || entity.to === undefined) return one({ ...drawn, start: 0, sweep: TURN }, true);
      const unit = scale2(axis, 1 / (major || 1));
      const angle = (end: string): number => {
        const out = sub2(at(end), centre);
        return Math.atan2(cross2(unit, out) / minor, dot2(unit, out) / (major || 1));
      };
      return one({ ...drawn, ...between(angle(entity.from), angle(entity.to)) });
    }
    case "spline":
      return one({ kind: "spline", poles: splinePoles(entity.points.map(at), entity) }, entity.closed);
    case "text":
      return textCurves(entity, at(entity.at), at(entity.along));
  }
}

const angleOf = (v: Vec2): number => Math.atan2(v[1], v[0]);

/** Counter-clockwise from one angle to another: a whole turn where they are the same. */
function between(start: number, end: number): { start: number; sweep: number } {
  let sweep = end - start;
  while (sweep <= 1e-12) sweep += TURN;
  return { start, sweep };
}
