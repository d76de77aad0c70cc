import type { Entity, EntityOf, EntityType } from "../entities";
import { constant, type Dual, minus, type Pair, pairMinus, root, scaled, size, times, variable } from "./dual";
import { FIXED_POINTS, type Layout } from "./layout";

/** The unknowns that one equation looks at, and the entities as duals over them. */
export class Local {
  readonly unknowns: number[] = [];

  constructor(private readonly layout: Layout) {}

  /** Notes the unknowns of an entity, and of the points it stands on. */
  include(id: string): void {
    if (id in FIXED_POINTS) return;
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
      return [entity.centre, entity.major];
    case "spline":
      return entity.points;
    default:
      return [];
  }
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

  private unknown(place: number): Dual {
    return variable(this.x[place]!, this.unknowns.indexOf(place), this.count);
  }

  type(id: string): EntityType {
    return id in FIXED_POINTS ? "point" : this.layout.entities.get(id)!.type;
  }

  private of<T extends EntityType>(id: string): EntityOf<T> {
    return this.layout.entities.get(id) as EntityOf<T>;
  }

  point(id: string): Pair {
    const fixed = FIXED_POINTS[id];
    if (fixed) return [this.number(fixed[0]), this.number(fixed[1])];
    const first = this.layout.first.get(id)!;
    return [this.unknown(first), this.unknown(first + 1)];
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
    if (this.type(round) === "circle") return this.unknown(this.layout.first.get(round)!);
    return size(pairMinus(this.point(this.of<"arc">(round).from), this.centre(round)));
  }

  /** Half of an ellipse's long axis, and its two foci. */
  ellipse(id: string): { half: Dual; foci: [Pair, Pair] } {
    const centre = this.centre(id);
    const axis = pairMinus(this.point(this.of<"ellipse">(id).major), centre);
    const half = size(axis);
    const minor = this.unknown(this.layout.first.get(id)!);
    const share = this.focusShare(half, minor);
    const reach: Pair = [times(axis[0], share), times(axis[1], share)];
    return {
      half,
      foci: [
        [minus(centre[0], reach[0]), minus(centre[1], reach[1])],
        [minus(centre[0], scaled(reach[0], -1)), minus(centre[1], scaled(reach[1], -1))],
      ],
    };
  }

  /** How far along the half axis a focus lies: √(1 − (b/a)²). */
  private focusShare(half: Dual, minor: Dual): Dual {
    const squaredHalf = times(half, half);
    const rest = minus(squaredHalf, times(minor, minor));
    const ratio: Dual = { v: rest.v / squaredHalf.v, d: new Float64Array(rest.d.length) };
    for (let i = 0; i < rest.d.length; i++)
      ratio.d[i] = rest.d[i]! / squaredHalf.v - (rest.v * squaredHalf.d[i]!) / squaredHalf.v ** 2;
    return root(ratio);
  }
}
