import type { Entity, Sketch } from "../entities";

/**
 * Where drawn curves are known to meet: by a common end, by ends that are held together, or by an end that is held on
 * the other curve. A tangent there says that the directions agree; that the distance is the radius is true already.
 */
export class Contacts {
  private readonly home = new Map<string, string>();
  private readonly entities: ReadonlyMap<string, Entity>;
  private readonly on = new Set<string>();

  constructor({ entities, constraints }: Pick<Sketch, "entities" | "constraints">) {
    this.entities = new Map(entities.map((entity) => [entity.id, entity] as const));
    for (const { type, of } of constraints)
      if (type === "coincident") this.home.set(this.root(of[0]!), this.root(of[1] ?? of[0]!));
    for (const { type, of } of constraints) if (type === "on") this.on.add(`${this.root(of[0]!)}/${of[1]}`);
  }

  /** An end of one curve that lies on the other; null when none is known to. */
  between(a: string, b: string): string | null {
    const ends = (id: string): string[] => {
      const entity = this.entities.get(id);
      return entity?.type === "line" || entity?.type === "arc" ? [entity.from, entity.to] : [];
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
