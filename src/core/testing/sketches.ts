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
import { solveSketch } from "../sketch/solver";

/** Draws sketches in a few words: for tests and for what is made by rule. */
export class SketchMaker implements Sketch {
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

/** The size of a dimension that is a plain number. */
export const sizeOf = (dimension: Dimension): number => Number(dimension.value);

/** A drawing once it is solved, with where its points are and how large its circles. */
export function solved(sketch: Sketch) {
  const state = solveSketch(sketch, sizeOf);
  const byId = new Map(state.entities.map((entity) => [entity.id, entity] as const));
  const at = (id: string): [number, number] => {
    const point = byId.get(id) as Extract<Entity, { type: "point" }>;
    return [point.x, point.y];
  };
  const radius = (id: string) => (byId.get(id) as Extract<Entity, { type: "circle" }>).radius;
  return { ...state, at, radius };
}

/** A slot of length 30 between its centres and of radius 6, drawn askew, with all that it takes to stand still. */
export function slot(): SketchMaker {
  const d = new SketchMaker();
  d.point("P", 2, 6);
  d.point("Q", 31, 5);
  d.point("R", 28, -7);
  d.point("S", -1, -5);
  d.line("top", "P", "Q");
  d.line("bottom", "R", "S");
  d.arc("a1", [1, 1], "P", "S");
  d.arc("a2", [29, -1], "R", "Q");
  for (const [line, arc] of [
    ["top", "a1"],
    ["top", "a2"],
    ["bottom", "a1"],
    ["bottom", "a2"],
  ] as const)
    d.holds("tangent", line, arc);
  d.holds("equal", "a1", "a2");
  d.holds("coincident", "a1_c", "origin");
  d.holds("horizontal", "a1_c", "a2_c");
  d.size("distance", 30, "a1_c", "a2_c");
  d.size("radius", 6, "a1");
  return d;
}
