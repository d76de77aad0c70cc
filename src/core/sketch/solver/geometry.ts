import type { Vec2 } from "../curves";
import type { Entity, EntityOf, EntityType } from "../entities";
import { nearestParameter } from "../profile/crossings";
import { type Poles, splinePoles } from "../spline";
import { constant, type Dual, type Pair, pairMinus, scaled, size, variable } from "./dual";
import type { Layout } from "./layout";

/** The unknowns that one equation looks at, and the entities as duals over them. */
export class Local {
  readonly unknowns: number[] = [];

  constructor(private readonly layout: Layout) {}

  /** Notes the unknowns of an entity, and of the points it stands on. */
  include(id: string): void {
    const entity = this.entity(id);
    const first = this.layout.first.get(id);
    if (first !== undefined) {
      const count = entity.type === "point" ? 2 : 1;
      for (let i = 0; i < count; i++) if (!this.unknowns.includes(first + i)) this.unknowns.push(first + i);
    }
    for (const point of pointsOf(entity)) this.include(point);
  }

  entity(id: string): Entity {
    const entity = this.layout.entities.get(id);
    if (!entity) throw new SketchFault(`There is no “${id}” in this sketch.`);
    return entity;
  }

  at(x: Float64Array): Geometry {
    return new Geometry(this.layout, this.unknowns, x);
  }
}

/** Something in a sketch that does not fit together: the sentence says what. */
export class SketchFault extends Error {}

/** The points that an entity stands on. */
export function pointsOf(entity: Entity): string[] {
  switch (entity.type) {
    case "line":
      return [entity.from, entity.to];
    case "circle":
      return [entity.centre];
    case "arc":
      return [entity.centre, entity.from, entity.to];
    case "ellipse":
      return [entity.centre, entity.major, ...[entity.from, entity.to].filter((end) => end !== undefined)];
    case "spline":
      return entity.points;
    case "text":
      return [entity.at, entity.along];
    default:
      return [];
  }
}

/** An entity that stands on other points. */
export function mapPoints<T extends Entity>(entity: T, map: (point: string) => string): T {
  const image = (of: Entity): Entity => {
    switch (of.type) {
      case "point":
        return of;
      case "line":
        return { ...of, from: map(of.from), to: map(of.to) };
      case "circle":
        return { ...of, centre: map(of.centre) };
      case "arc":
        return { ...of, centre: map(of.centre), from: map(of.from), to: map(of.to) };
      case "ellipse":
        return {
          ...of,
          centre: map(of.centre),
          major: map(of.major),
          ...(of.from !== undefined ? { from: map(of.from) } : {}),
          ...(of.to !== undefined ? { to: map(of.to) } : {}),
        };
      case "spline":
        return { ...of, points: of.points.map(map) };
      case "text":
        return { ...of, at: map(of.at), along: map(of.along) };
    }
  };
  return image(entity) as T;
}

/** The entities at one set of values, with derivatives by the unknowns of one equation. */
export class Geometry {
  private readonly count: number;

  constructor(
    private readonly layout: Layout,
    private readonly unknowns: readonly number[],
    private readonly x: Float64Array,
  ) {
    this.count = unknowns.length;
  }

  number(value: number): Dual {
    return constant(value, this.count);
  }

  /** One of an entity's own numbers: an unknown, or held where it is given. */
  private own(id: string, k = 0): Dual {
    const held = this.layout.held.get(id);
    if (held) return this.number(held[k]!);
    const place = this.layout.first.get(id)! + k;
    return variable(this.x[place]!, this.unknowns.indexOf(place), this.count);
  }

  type(id: string): EntityType {
    return this.layout.entities.get(id)!.type;
  }

  private of<T extends EntityType>(id: string): EntityOf<T> {
    return this.layout.entities.get(id) as EntityOf<T>;
  }

  point(id: string): Pair {
    return [this.own(id), this.own(id, 1)];
  }

  ends(line: string): [Pair, Pair] {
    const { from, to } = this.of<"line" | "arc">(line);
    return [this.point(from), this.point(to)];
  }

  direction(line: string): Pair {
    const [from, to] = this.ends(line);
    return pairMinus(to, from);
  }

  centre(round: string): Pair {
    return this.point(this.of<"circle" | "arc" | "ellipse">(round).centre);
  }

  /** The radius of a circle, or of an arc by where it begins. */
  radius(round: string): Dual {
    if (this.type(round) === "circle") return this.own(round);
    return size(pairMinus(this.point(this.of<"arc">(round).from), this.centre(round)));
  }

  /** An ellipse: its centre, the half axis that is drawn, its length, and half of the other. */
  ellipse(id: string): { centre: Pair; axis: Pair; half: Dual; minor: Dual } {
    const centre = this.centre(id);
    const axis = pairMinus(this.point(this.of<"ellipse">(id).major), centre);
    return { centre, axis, half: size(axis), minor: this.own(id) };
  }

  /** The height of a text's capitals. */
  height(text: string): Dual {
    return this.own(text);
  }

  /** A place, or direction, that a spline's points lead to, with its slopes by each of them. */
  ofSpline(id: string, look: (poles: Poles) => Vec2): Pair {
    const spline = this.of<"spline">(id);
    const pairs = spline.points.map((point) => this.point(point));
    const places = pairs.map(([x, y]): Vec2 => [x.v, y.v]);
    const value = look(splinePoles(places, spline));
    const d = [new Float64Array(this.count), new Float64Array(this.count)] as const;
    const reach = 1e-5 * Math.max(1, ...places.map(([x, y]) => Math.max(Math.abs(x), Math.abs(y)))) ** 0.5;
    const seen = (i: number, k: number, by: number): Vec2 => {
      const moved = places.map((place, j): Vec2 => {
        if (j !== i) return place;
        return k === 0 ? [place[0] + by, place[1]] : [place[0], place[1] + by];
      });
      return look(splinePoles(moved, spline));
    };
    pairs.forEach((pair, i) => {
      pair.forEach((dual, k) => {
        if (dual.d.every((slope) => slope === 0)) return;
        const [ahead, behind] = [seen(i, k, reach), seen(i, k, -reach)];
        for (const row of [0, 1] as const) {
          const slope = (ahead[row] - behind[row]) / (2 * reach);
          for (let u = 0; u < this.count; u++) d[row][u]! += slope * dual.d[u]!;
        }
      });
    });
    return [
      { v: value[0], d: d[0] },
      { v: value[1], d: d[1] },
    ];
  }

  /** The parameter of a spline's point that is nearest to a point of the sketch: exactly 0 or 1 at its ends. */
  nearestOnSpline(id: string, point: string): number {
    const spline = this.of<"spline">(id);
    const { points, closed } = spline;
    if (!closed && points[0] === point) return 0;
    if (!closed && points.at(-1) === point) return 1;
    const here = (name: string): Vec2 => this.point(name).map(({ v }) => v) as [number, number];
    const poles = splinePoles(points.map(here), spline);
    return nearestParameter({ id, entity: id, closed, shape: { kind: "spline", poles } }, here(point)) ?? 0;
  }

  /** The way that a curve runs where a point lies on it. */
  directionAt(curve: string, point: string): Pair {
    switch (this.type(curve)) {
      case "line":
        return this.direction(curve);
      case "spline": {
        const t = this.nearestOnSpline(curve, point);
        return this.ofSpline(curve, (poles) => poles.slope(t));
      }
      default: {
        const [x, y] = pairMinus(this.point(point), this.centre(curve));
        return [scaled(y, -1), x];
      }
    }
  }
}
