import { allOf, BUILT_IN, type Dimension, type Entity, type Sketch } from "../entities";
import { missingLetters } from "../text";
import { System } from "./clusters";
import { Contacts } from "./contacts";
import { CONSTRAINT_WORDS, constraintEquations, dimensionEquations, type Equations, shapeEquations } from "./equations";
import type { Freedom } from "./freedom";
import { pointsOf, SketchFault } from "./geometry";
import { type Layout, layOut, withValues } from "./layout";
import { measuredSize, withSides } from "./sizes";

export { SketchFault } from "./geometry";

/** A sketch with the sides of its dimensions written down where one has come out below 0. @throws SketchFault */
export function sided<S extends Sketch>(sketch: S, sizeOf: SizeOf): S {
  return { ...sketch, dimensions: withSides(sketch.dimensions, layOut(sketch), sizeOf) };
}

/** A dimension's value: millimetres, or degrees. */
export type SizeOf = (dimension: Dimension) => number;

export interface SketchState {
  entities: Entity[];
  /** The largest equation left over, mm: below 1e-9 when all hold. */
  residual: number;
  /** Whether everything holds. */
  met: boolean;
  /** How many ways it can still move. */
  degrees: number;
  /** Entities of which something can still move. */
  loose: string[];
  /** What is said twice or contradicts itself: each names all that take part. */
  conflicts: Conflict[];
  /** The size of each measured dimension, mm or degrees. */
  measured: Record<string, number>;
}

export interface Conflict {
  /** Constraints and dimensions, by id. */
  among: string[];
  /** Whether it only repeats what the others say, and does not contradict them. */
  repeats: boolean;
  message: string;
}

/**
 * Solves a sketch from where it stands: the nearest drawing in which every constraint and dimension holds. The same
 * input gives the same result, in whatever order its entities and constraints are listed.
 *
 * @param sizeOf a dimension's value, mm or degrees.
 * @throws SketchFault where something names what is not there or does not fit its type.
 */
export function solveSketch(sketch: Sketch, sizeOf: SizeOf): SketchState {
  refuseLooseEnds(sketch);
  refuseFlatLines(sketch);
  const layout = layOut(sketch);
  const system = new System(equationsOf(sketch, layout, sizeOf), layout.start);
  const { x, residual } = system.solve(layout.start);
  const entities = withValues(sketch.entities, layout, x);
  const free = system.freedom(x);
  const met = residual <= 1e-9;
  return {
    entities,
    residual,
    met,
    degrees: free.degrees,
    loose: looseEntities(sketch, layout, free),
    conflicts: conflictsOf(sketch, free, met),
    measured: Object.fromEntries(
      sketch.dimensions
        .filter((dimension) => dimension.measured)
        .map((dimension) => [dimension.id, measuredSize(dimension, layout, x)]),
    ),
  };
}

/** The size that a dimension would have as things stand, mm or degrees. @throws SketchFault */
export function sizeNow(sketch: Sketch, dimension: Dimension): number {
  const layout = layOut(sketch);
  return measuredSize(dimension, layout, layout.start);
}

/** Every curve has to stand on points that there are, and every id has to be there once. */
function refuseLooseEnds(sketch: Sketch): void {
  const { entities, constraints, dimensions } = sketch;
  const seen = new Set<string>();
  for (const { id } of [...allOf(sketch), ...constraints, ...dimensions]) {
    if (seen.has(id) || (BUILT_IN as readonly string[]).includes(id))
      throw new SketchFault(`The id “${id}” is there twice. Give each its own.`);
    seen.add(id);
  }
  for (const entity of entities) {
    const missing = entity.type === "text" ? missingLetters(entity.text) : [];
    if (missing.length > 0)
      throw new SketchFault(
        `The lettering has no ${missing.map((letter) => `“${letter}”`).join(", ")}. Write it with other letters.`,
      );
  }
  const points = new Set(
    allOf(sketch)
      .filter(({ type }) => type === "point")
      .map(({ id }) => id),
  );
  for (const entity of entities)
    for (const point of pointsOf(entity))
      if (point !== "origin" && !points.has(point))
        throw new SketchFault(
          `The ${entity.type} “${entity.id}” stands on “${point}”, which is no point of this sketch.`,
        );
}

/** A line without length has no direction: nothing can be held to it. By itself it is harmless. */
function refuseFlatLines(sketch: Sketch): void {
  const places = new Map(
    allOf(sketch).flatMap((one) => (one.type === "point" ? [[one.id, [one.x, one.y] as const] as const] : [])),
  );
  const at = (id: string) => places.get(id) ?? [0, 0];
  const flat = new Set(
    sketch.entities.flatMap((one) => {
      if (one.type !== "line") return [];
      const [a, b] = [at(one.from), at(one.to)];
      return Math.hypot(a[0] - b[0], a[1] - b[1]) < 1e-9 ? [one.id] : [];
    }),
  );
  if (flat.size === 0) return;
  for (const { of, type } of [...sketch.constraints, ...sketch.dimensions]) {
    const line = type === "fixed" ? undefined : of.find((id) => flat.has(id));
    if (line)
      throw new SketchFault(
        `“${line}” has no length, so nothing can be held to it. Pull its ends apart, or take it out.`,
      );
  }
}

/** A sketch made ready to be dragged: what stays the same from one movement to the next is worked out once. */
export class Drag {
  private readonly layout: Layout;
  private readonly system: System;
  private readonly ease: Float64Array;
  private x: Float64Array;

  /** @param points the points that the pointer holds; a circle's id holds its radius. */
  constructor(
    private readonly sketch: Sketch,
    sizeOf: SizeOf,
    private readonly held: readonly string[],
  ) {
    this.layout = layOut(sketch);
    this.system = new System(equationsOf(sketch, this.layout, sizeOf), this.layout.start);
    this.x = this.layout.start.slice();
    // What is held gives way only to what cannot be otherwise.
    this.ease = new Float64Array(this.x.length).fill(1);
    for (const id of held) for (const unknown of this.unknownsOf(id)) this.ease[unknown] = 1e-4;
  }

  /** Where everything goes when the held things go to these places; the last good drawing when that cannot be. */
  to(places: readonly (readonly [number, number] | number)[]): Entity[] {
    const start = this.x.slice();
    this.held.forEach((id, i) => {
      const place = places[i]!;
      const values = typeof place === "number" ? [place] : place;
      this.unknownsOf(id).forEach((unknown, k) => {
        start[unknown] = values[k]!;
      });
    });
    const { x, residual } = this.system.solve(start, this.ease);
    if (residual <= 1e-6) this.x = x;
    return withValues(this.sketch.entities, this.layout, this.x);
  }

  private unknownsOf(id: string): number[] {
    const first = this.layout.first.get(id);
    if (first === undefined) return [];
    return this.layout.entities.get(id)!.type === "point" ? [first, first + 1] : [first];
  }
}

function equationsOf(sketch: Sketch, layout: Layout, sizeOf: SizeOf): Equations[] {
  const contacts = new Contacts(sketch);
  // In order of their ids: the order in which a sketch lists them must not even change the rounding.
  return [
    ...sketch.entities.flatMap((entity) => shapeEquations(entity, layout) ?? []),
    ...sketch.constraints.map((constraint) => constraintEquations(constraint, layout, contacts)),
    ...sketch.dimensions
      .filter((dimension) => !dimension.measured)
      .map((dimension) => dimensionEquations(dimension, sizeOf(dimension), layout)),
  ].sort((a, b) => (a.source < b.source ? -1 : a.source > b.source ? 1 : 0));
}

function looseEntities({ entities }: Sketch, layout: Layout, { loose }: Freedom): string[] {
  const own = (id: string): boolean => {
    const entity = layout.entities.get(id);
    const first = layout.first.get(id);
    if (entity === undefined || first === undefined) return false;
    return loose[first]! || (entity.type === "point" && loose[first + 1]!);
  };
  return entities
    .filter((entity) => {
      if (own(entity.id)) return true;
      return pointsOf(entity).some(own);
    })
    .map(({ id }) => id);
}

function conflictsOf(sketch: Sketch, { dependent }: Freedom, met: boolean): Conflict[] {
  const order = [...sketch.constraints, ...sketch.dimensions].map(({ id }) => id);
  // That an arc is round may follow from what holds it already: nobody said that twice.
  const said = dependent.filter(({ source }) => !met || source.kind !== "shape");
  return said.map(({ among }) => {
    const named = among
      .filter(({ kind }) => kind !== "shape")
      .map(({ source }) => source)
      .sort((a, b) => order.indexOf(a) - order.indexOf(b));
    const words = [...new Set(named.map((id) => wordsFor(sketch, id)))];
    const list = words.length > 1 ? `${words.slice(0, -1).join(", ")} and ${words.at(-1)}` : (words[0] ?? "An arc");
    return {
      among: [...named].sort(),
      repeats: met,
      message: met
        ? `${list} say the same thing twice. Take one out, or let a dimension only measure.`
        : `${list} cannot all hold. Take one out, or change a value.`,
    };
  });
}

function wordsFor({ constraints, dimensions }: Sketch, id: string): string {
  const constraint = constraints.find((candidate) => candidate.id === id);
  if (constraint) return `${CONSTRAINT_WORDS[constraint.type]} (${constraint.of.join(", ")})`;
  const dimension = dimensions.find((candidate) => candidate.id === id);
  return dimension ? `the dimension ${dimension.name ?? id}` : id;
}
