import { allOf, type Entity, type Sketch } from "../entities";

/** The points at which a curve begins and ends; none for a closed one. */
export function endsOf(entity: Entity): string[] {
  switch (entity.type) {
    case "line":
    case "arc":
      return [entity.from, entity.to];
    case "ellipse":
      return entity.from !== undefined && entity.to !== undefined ? [entity.from, entity.to] : [];
    case "spline":
      return entity.closed ? [] : [entity.points[0]!, entity.points.at(-1)!];
    default:
      return [];
  }
}

/**
 * Where drawn curves are known to meet: by a common end, by ends that are held together, or by an end that is held on
 * the other curve. A tangent there says that the directions agree; that the distance is the radius is true already.
 */
export class Contacts {
  private readonly home = new Map<string, string>();
  private readonly entities: ReadonlyMap<string, Entity>;
  private readonly on = new Set<string>();

  constructor(sketch: Sketch) {
    const { constraints } = sketch;
    this.entities = new Map(allOf(sketch).map((entity) => [entity.id, entity] as const));
    for (const { type, of } of constraints)
      if (type === "coincident") this.home.set(this.root(of[0]!), this.root(of[1] ?? of[0]!));
    for (const { type, of } of constraints) if (type === "on") this.on.add(`${this.root(of[0]!)}/${of[1]}`);
  }

  /** An end of one curve that lies on the other; null when none is known to. */
  between(a: string, b: string): string | null {
    const ends = (id: string): string[] => {
      const entity = this.entities.get(id);
      return entity ? endsOf(entity) : [];
    };
    const [ofA, ofB] = [ends(a), ends(b)];
    return (
      ofA.find(
        (end) => ofB.some((other) => this.root(end) === this.root(other)) || this.on.has(`${this.root(end)}/${b}`),
      ) ??
      ofB.find((end) => this.on.has(`${this.root(end)}/${a}`)) ??
      null
    );
  }

  private root(point: string): string {
    let at = point;
    for (let next = this.home.get(at); next !== undefined && next !== at; next = this.home.get(at)) at = next;
    return at;
  }
}
