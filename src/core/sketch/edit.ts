import type { Constraint, ConstraintType, Dimension, DimensionType, Entity, EntityType, Sketch } from "./entities";
import { BUILT_IN } from "./entities";
import { pointsOf } from "./solver/geometry";

/** The next free id of a kind in a sketch: `l1`, `l2` … */
export function freshId(sketch: Sketch, letter: string): string {
  const taken = new Set([...sketch.entities, ...sketch.constraints, ...sketch.dimensions].map(({ id }) => id));
  for (let n = 1; ; n++) if (!taken.has(`${letter}${n}`)) return `${letter}${n}`;
}

/** A place of a sketch: a point that is there, or coordinates where one is made. */
export type Place = string | readonly [number, number];

/** Makes changes to a copy of a sketch. */
export class SketchEdit implements Sketch {
  readonly entities: Entity[];
  readonly constraints: Constraint[];
  readonly dimensions: Dimension[];

  constructor(sketch: Sketch) {
    this.entities = [...sketch.entities];
    this.constraints = [...sketch.constraints];
    this.dimensions = [...sketch.dimensions];
  }

  /** The parts alone, as a step keeps them. */
  get parts(): Sketch {
    return { entities: this.entities, constraints: this.constraints, dimensions: this.dimensions };
  }

  point(place: Place): string {
    if (typeof place === "string") return place;
    const id = freshId(this, "p");
    this.entities.push({ id, type: "point", x: place[0], y: place[1], construction: false });
    return id;
  }

  line(from: Place, to: Place): string {
    const [a, b] = [this.point(from), this.point(to)];
    const id = freshId(this, "l");
    this.entities.push({ id, type: "line", from: a, to: b, construction: false });
    return id;
  }

  circle(centre: Place, radius: number): string {
    const point = this.point(centre);
    const id = freshId(this, "c");
    this.entities.push({ id, type: "circle", centre: point, radius, construction: false });
    return id;
  }

  /** A rectangle between opposite corners, level and upright. */
  rectangle(a: Place, c: Place): string[] {
    const at = (place: Place) => (typeof place === "string" ? placeOf(this, place) : place);
    const [p, q] = [at(a), at(c)];
    const corners = [this.point(a), this.point([q[0], p[1]]), this.point(c), this.point([p[0], q[1]])];
    const sides = corners.map((corner, i) => this.line(corner, corners[(i + 1) % 4]!));
    sides.forEach((side, i) => {
      this.hold(i % 2 === 0 ? "horizontal" : "vertical", [side]);
    });
    return sides;
  }

  hold(type: ConstraintType, of: readonly string[]): string {
    const id = freshId(this, "k");
    this.constraints.push({ id, type, of: [...of] });
    return id;
  }

  size(type: DimensionType, of: readonly string[], value: number): string {
    const id = freshId(this, "d");
    const base = { id, of: [...of], value, measured: false };
    this.dimensions.push(type === "angle" ? { ...base, type, reverse: [false, false] } : { ...base, type });
    return id;
  }

  /**
   * Takes entities, constraints or dimensions out, and what cannot stand without them: curves on a point, rules about
   * a curve. Points that only served what went go with it.
   */
  remove(ids: readonly string[]): void {
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
    const stays = <T extends { id: string; of: readonly string[] }>(list: T[]) =>
      list.filter(({ id, of }) => !gone.has(id) && !of.some((ref) => gone.has(ref)));
    replace(
      this.entities,
      this.entities.filter(({ id }) => !gone.has(id)),
    );
    replace(this.constraints, stays(this.constraints));
    replace(this.dimensions, stays(this.dimensions));
  }
}

function replace<T>(list: T[], next: T[]): void {
  list.splice(0, list.length, ...next);
}

/** Where a point is; the origin where it is none. */
export function placeOf({ entities }: Pick<Sketch, "entities">, id: string): readonly [number, number] {
  const found = entities.find((entity) => entity.id === id);
  return found?.type === "point" ? [found.x, found.y] : [0, 0];
}

const ROUND: readonly EntityType[] = ["circle", "arc"];
const CENTRED: readonly EntityType[] = ["circle", "arc", "ellipse"];

/** What each constraint can hold between, in the order in which it names them. */
const FITS: Record<ConstraintType, readonly (readonly (EntityType | readonly EntityType[])[])[]> = {
  coincident: [["point", "point"]],
  on: [
    ["point", "line"],
    ["point", ["circle", "arc", "ellipse"]],
  ],
  midpoint: [["point", "line"]],
  horizontal: [["line"], ["point", "point"]],
  vertical: [["line"], ["point", "point"]],
  parallel: [["line", "line"]],
  perpendicular: [["line", "line"]],
  tangent: [
    ["line", CENTRED],
    [ROUND, ROUND],
  ],
  equal: [
    ["line", "line"],
    [ROUND, ROUND],
  ],
  concentric: [[CENTRED, CENTRED]],
  symmetric: [["point", "point", "line"]],
  fixed: [["point"], ["line"], ["circle"], ["arc"], ["ellipse"]],
};

/** What picked things are between, in the order that a rule asks for; null when it does not fit them. */
function ordered(
  { entities }: Pick<Sketch, "entities">,
  picked: readonly string[],
  wanted: readonly (EntityType | readonly EntityType[])[],
): string[] | null {
  if (picked.length !== wanted.length) return null;
  const kindOf = (id: string): EntityType | undefined =>
    id === "origin"
      ? "point"
      : (BUILT_IN as readonly string[]).includes(id)
        ? "line"
        : entities.find((entity) => entity.id === id)?.type;
  const left = [...picked];
  const result: string[] = [];
  for (const want of wanted) {
    const at = left.findIndex((id) => [want].flat().includes(kindOf(id) as EntityType));
    if (at < 0) return null;
    result.push(...left.splice(at, 1));
  }
  return result;
}

/** The constraints that fit what is picked, each with its entities in the order that it asks for. */
export function fittingConstraints(
  sketch: Sketch,
  picked: readonly string[],
): { type: ConstraintType; of: string[] }[] {
  return (Object.keys(FITS) as ConstraintType[]).flatMap((type) => {
    for (const wanted of FITS[type]) {
      const of = ordered(sketch, picked, wanted);
      if (of) return [{ type, of }];
    }
    return [];
  });
}

/** The dimensions that fit what is picked. */
export function fittingDimensions(sketch: Sketch, picked: readonly string[]): { type: DimensionType; of: string[] }[] {
  const choices: [DimensionType, readonly (EntityType | readonly EntityType[])[]][] = [
    ["distance", ["line"]],
    ["distance", ["point", "point"]],
    ["across", ["point", "point"]],
    ["upright", ["point", "point"]],
    ["distance", ["point", "line"]],
    ["diameter", [ROUND]],
    ["radius", [ROUND]],
    ["angle", ["line", "line"]],
  ];
  return choices.flatMap(([type, wanted]) => {
    const of = ordered(sketch, picked, wanted);
    return of ? [{ type, of }] : [];
  });
}
