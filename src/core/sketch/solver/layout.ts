import type { Entity, Sketch } from "../entities";

/** Where an entity's own numbers lie among the unknowns: a point's x and y, a circle's radius, an ellipse's half axis. */
export interface Layout {
  /** Start values of all unknowns, mm. */
  start: Float64Array;
  entities: ReadonlyMap<string, Entity>;
  /** The first unknown of an entity; absent for one that has none of its own. */
  first: ReadonlyMap<string, number>;
}

/** Points that every sketch has, which never move: the ends of the built-in axes. */
export const FIXED_POINTS: Record<string, readonly [number, number]> = {
  origin: [0, 0],
  "axis-x:end": [1, 0],
  "axis-y:end": [0, 1],
};

const AXES: Entity[] = [
  { id: "axis-x", type: "line", from: "origin", to: "axis-x:end", construction: true },
  { id: "axis-y", type: "line", from: "origin", to: "axis-y:end", construction: true },
];

/** Lays the unknowns of a sketch out in a row, in the order of their ids. */
export function layOut({ entities }: Pick<Sketch, "entities">): Layout {
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
    entities: new Map([...AXES, ...entities].map((entity) => [entity.id, entity] as const)),
    first,
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
    return entity;
  });
}
