import {
  type Constraint,
  type ConstraintType,
  constraintSchema,
  type Dimension,
  type DimensionType,
  dimensionSchema,
  type Entity,
  entitySchema,
  type Sketch,
} from "../sketch/entities";

/** Draws sketches in a few words: for tests and for what is made by rule. */
export class Draft implements Sketch {
  readonly entities: Entity[] = [];
  readonly constraints: Constraint[] = [];
  readonly dimensions: Dimension[] = [];

  point(id: string, x: number, y: number): string {
    return this.add({ id, type: "point", x, y });
  }

  /** A line between two points, made at places where a pair is given. */
  line(id: string, from: string | [number, number], to: string | [number, number]): string {
    return this.add({ id, type: "line", from: this.end(`${id}_a`, from), to: this.end(`${id}_b`, to) });
  }

  circle(id: string, centre: string | [number, number], radius: number): string {
    return this.add({ id, type: "circle", centre: this.end(`${id}_c`, centre), radius });
  }

  arc(
    id: string,
    centre: string | [number, number],
    from: string | [number, number],
    to: string | [number, number],
  ): string {
    return this.add({
      id,
      type: "arc",
      centre: this.end(`${id}_c`, centre),
      from: this.end(`${id}_a`, from),
      to: this.end(`${id}_b`, to),
    });
  }

  ellipse(id: string, centre: [number, number], major: [number, number], minor: number): string {
    return this.add({
      id,
      type: "ellipse",
      centre: this.end(`${id}_c`, centre),
      major: this.end(`${id}_m`, major),
      minor,
    });
  }

  holds(type: ConstraintType, ...of: string[]): string {
    const id = `k${this.constraints.length + 1}`;
    this.constraints.push(constraintSchema.parse({ id, type, of }));
    return id;
  }

  size(type: DimensionType, value: number, ...of: string[]): string {
    const id = `d${this.dimensions.length + 1}`;
    this.dimensions.push(dimensionSchema.parse({ id, type, of, value }));
    return id;
  }

  private end(id: string, place: string | [number, number]): string {
    return typeof place === "string" ? place : this.point(id, ...place);
  }

  private add(entity: unknown): string {
    const checked = entitySchema.parse(entity);
    this.entities.push(checked);
    return checked.id;
  }
}
