import { allOf, type Entity, type Sketch } from "../entities";

/** Where an entity's own numbers lie among the unknowns: a point's x and y, a circle's radius, an ellipse's half axis. */
export interface Layout {
  /** Start values of all unknowns, mm. */
  start: Float64Array;
  entities: ReadonlyMap<string, Entity>;
  /** The first unknown of an entity; absent for one that has none of its own. */
  first: ReadonlyMap<string, number>;
  /** The own numbers of what does not move: of the axes, and of what is given. */
  held: ReadonlyMap<string, readonly number[]>;
}

/** What every sketch has, which never moves: its origin and its axes. */
const built = (id: string, x: number, y: number): Entity => ({ id, type: "point", x, y, construction: true });
const BUILT_IN_ENTITIES: Entity[] = [
  built("origin", 0, 0),
  built("axis-x:end", 1, 0),
  built("axis-y:end", 0, 1),
  { id: "axis-x", type: "line", from: "origin", to: "axis-x:end", construction: true },
  { id: "axis-y", type: "line", from: "origin", to: "axis-y:end", construction: true },
];

/** Lays the unknowns of a sketch out in a row, in the order of their ids. */
export function layOut(sketch: Pick<Sketch, "entities" | "given">): Layout {
  const { entities, given = [] } = sketch;
  const values: number[] = [];
  const first = new Map<string, number>();
  const sorted = [...entities].sort((a, b) => (a.id < b.id ? -1 : a.id > b.id ? 1 : 0));
  for (const entity of sorted) {
    const own = ownValues(entity);
    if (own.length === 0) continue;
    first.set(entity.id, values.length);
    values.push(...own);
  }
  return {
    start: Float64Array.from(values),
    entities: new Map([...BUILT_IN_ENTITIES, ...allOf(sketch)].map((entity) => [entity.id, entity] as const)),
    first,
    held: new Map([...BUILT_IN_ENTITIES, ...given].map((entity) => [entity.id, ownValues(entity)] as const)),
  };
}

function ownValues(entity: Entity): number[] {
  switch (entity.type) {
    case "point":
      return [entity.x, entity.y];
    case "circle":
      return [entity.radius];
    case "ellipse":
      return [entity.minor];
    case "text":
      return [entity.height];
    default:
      return [];
  }
}

/** The entities with new values of the unknowns. */
export function withValues(entities: readonly Entity[], layout: Layout, values: Float64Array): Entity[] {
  return entities.map((entity) => {
    const at = layout.first.get(entity.id);
    if (at === undefined) return entity;
    if (entity.type === "point") return { ...entity, x: values[at]!, y: values[at + 1]! };
    if (entity.type === "circle") return { ...entity, radius: Math.abs(values[at]!) };
    if (entity.type === "ellipse") return { ...entity, minor: Math.abs(values[at]!) };
    if (entity.type === "text") return { ...entity, height: Math.abs(values[at]!) };
    return entity;
  });
}
