import type { Vec2 } from "../curves";
import {
  allOf,
  type Constraint,
  type ConstraintType,
  type Dimension,
  type DimensionType,
  type Entity,
  type EntityOf,
  type Sketch,
} from "../entities";
import { pointsOf } from "../solver/geometry";

/** A place of a sketch: a point that is there, or coordinates where one is made, held on a curve or amid a line. */
export type Place = string | Vec2 | HeldPlace;
export interface HeldPlace {
  at: Vec2;
  rule: "on" | "midpoint";
  with: string;
}

/** Makes changes to a copy of a sketch. */
export class SketchEdit implements Sketch {
  readonly entities: Entity[];
  readonly constraints: Constraint[];
  readonly dimensions: Dimension[];
  readonly given: readonly Entity[];
  readonly reserved: ReadonlySet<string>;
  /** Ids in use, and the last number given to each letter; told anew after something was taken out. */
  private taken: { ids: Set<string>; last: Map<string, number> } | null = null;

  constructor(sketch: Sketch) {
    this.entities = [...sketch.entities];
    this.given = sketch.given ?? [];
    this.reserved = sketch.reserved ?? new Set();
    this.constraints = [...sketch.constraints];
    this.dimensions = [...sketch.dimensions];
  }

  /** The parts alone, as a step keeps them. */
  get parts(): Sketch {
    return {
      entities: this.entities,
      constraints: this.constraints,
      dimensions: this.dimensions,
      ...(this.given.length > 0 ? { given: this.given } : {}),
      ...(this.reserved.size > 0 ? { reserved: this.reserved } : {}),
    };
  }

  /** The next free id of a kind: `l1`, `l2` …; none that something else may still name. */
  fresh(letter: string): string {
    const all = () => [...allOf(this), ...this.constraints, ...this.dimensions].map(({ id }) => id);
    this.taken ??= { ids: new Set([...all(), ...this.reserved]), last: new Map() };
    const { ids, last } = this.taken;
    let n = (last.get(letter) ?? 0) + 1;
    while (ids.has(`${letter}${n}`)) n++;
    last.set(letter, n);
    ids.add(`${letter}${n}`);
    return `${letter}${n}`;
  }

  point(place: Place): string {
    if (typeof place === "string") return place;
    const [x, y] = "rule" in place ? place.at : place;
    const id = this.fresh("p");
    this.entities.push({ id, type: "point", x, y, construction: false });
    if ("rule" in place) this.hold(place.rule, [id, place.with]);
    return id;
  }

  line(from: Place, to: Place): string {
    const [a, b] = [this.point(from), this.point(to)];
    const id = this.fresh("l");
    this.entities.push({ id, type: "line", from: a, to: b, construction: false });
    return id;
  }

  circle(centre: Place, radius: number): string {
    const point = this.point(centre);
    const id = this.fresh("c");
    this.entities.push({ id, type: "circle", centre: point, radius, construction: false });
    return id;
  }

  /** Counter-clockwise round its centre. */
  arc(centre: Place, from: Place, to: Place): string {
    const [c, a, b] = [this.point(centre), this.point(from), this.point(to)];
    const id = this.fresh("a");
    this.entities.push({ id, type: "arc", centre: c, from: a, to: b, construction: false });
    return id;
  }

  /** By the end of one axis and half of the other, mm. */
  ellipse(centre: Place, major: Place, minor: number): string {
    const [c, m] = [this.point(centre), this.point(major)];
    const id = this.fresh("e");
    this.entities.push({ id, type: "ellipse", centre: c, major: m, minor, construction: false });
    return id;
  }

  spline(places: readonly Place[], form: EntityOf<"spline">["form"], closed = false): string {
    const points = places.map((place) => this.point(place));
    const id = this.fresh("s");
    this.entities.push({ id, type: "spline", points, form, closed, construction: false });
    return id;
  }

  /** Letters from a point along the way to another. */
  text(at: Place, along: Place, text: string, height: number): string {
    const [a, b] = [this.point(at), this.point(along)];
    const id = this.fresh("t");
    this.entities.push({ id, type: "text", at: a, along: b, text, height, mirrored: false, construction: false });
    return id;
  }

  /** Changes an entity in place; its id, and with it what is held about it, stays. */
  replace(id: string, entity: Entity): void {
    const at = this.entities.findIndex((other) => other.id === id);
    if (at >= 0) this.entities[at] = entity;
  }

  /** Whether entities make outlines or only help to draw. */
  asConstruction(ids: readonly string[], construction: boolean): void {
    for (const id of ids) {
      const entity = this.entities.find((other) => other.id === id);
      if (entity) this.replace(id, { ...entity, construction });
    }
  }

  /** Where a point is; the origin where it is none. */
  at(id: string): Vec2 {
    return placeOf(this, id);
  }

  /** An entity, drawn or given. */
  find(id: string): Entity | undefined {
    return allOf(this).find((entity) => entity.id === id);
  }

  hold(type: ConstraintType, of: readonly string[]): string {
    const id = this.fresh("k");
    this.constraints.push({ id, type, of: [...of] });
    return id;
  }

  size(type: DimensionType, of: readonly string[], value: number): string {
    const id = this.fresh("d");
    const base = { id, of: [...of], value, measured: false };
    this.dimensions.push(type === "angle" ? { ...base, type, reverse: [false, false] } : { ...base, type });
    return id;
  }

  /**
   * Takes entities, constraints or dimensions out, and what cannot stand without them: curves on a point, rules about
   * a curve. Points that only served what went go with it.
   */
  remove(ids: readonly string[]): void {
    if (ids.length === 0) return;
    this.taken = null;
    const gone = new Set(ids);
    const served = new Set<string>();
    for (let more = true; more; ) {
      more = false;
      for (const entity of this.entities) {
        if (gone.has(entity.id) || !pointsOf(entity).some((point) => gone.has(point))) continue;
        gone.add(entity.id);
        more = true;
      }
    }
    for (const entity of this.entities)
      if (gone.has(entity.id)) for (const point of pointsOf(entity)) served.add(point);
    const used = new Set(this.entities.flatMap((entity) => (gone.has(entity.id) ? [] : pointsOf(entity))));
    for (const point of served) if (!used.has(point)) gone.add(point);
    // An offset of many pairs goes on with those that are left.
    replace(
      this.dimensions,
      this.dimensions.map((dimension) =>
        dimension.type === "offset" ? { ...dimension, of: withoutPairs(dimension.of, gone) } : dimension,
      ),
    );
    const stays = <T extends { id: string; of: readonly string[] }>(list: T[]) =>
      list.filter(({ id, of }) => !gone.has(id) && of.length > 0 && !of.some((ref) => gone.has(ref)));
    replace(
      this.entities,
      this.entities.filter(({ id }) => !gone.has(id)),
    );
    replace(this.constraints, stays(this.constraints));
    replace(this.dimensions, stays(this.dimensions));
  }
}

const withoutPairs = (of: readonly string[], gone: ReadonlySet<string>): string[] =>
  of.filter((_, i) => !gone.has(of[i - (i % 2)]!) && !gone.has(of[i - (i % 2) + 1]!));

function replace<T>(list: T[], next: T[]): void {
  list.splice(0, list.length, ...next);
}

/** Where a point is; the origin where it is none. */
export function placeOf(sketch: Pick<Sketch, "entities" | "given">, id: string): Vec2 {
  const found = allOf(sketch).find((entity) => entity.id === id);
  return found?.type === "point" ? [found.x, found.y] : [0, 0];
}
