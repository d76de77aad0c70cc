import type { Vec2 } from "../curves";
import type { Sketch } from "../entities";
import { placeOf } from "./sketch-edit";

/** A drawing with one line turned a quarter about its middle: a start from which a rule can be met that squeezed it flat. */
export function withLineTurned(sketch: Sketch, line: string): Sketch {
  const entity = sketch.entities.find(({ id }) => id === line);
  if (entity?.type !== "line") return sketch;
  const [a, b] = [placeOf(sketch, entity.from), placeOf(sketch, entity.to)];
  const middle: Vec2 = [(a[0] + b[0]) / 2, (a[1] + b[1]) / 2];
  const turned = ([x, y]: Vec2): Vec2 => [middle[0] - (y - middle[1]), middle[1] + (x - middle[0])];
  const places = new Map([
    [entity.from, turned(a)],
    [entity.to, turned(b)],
  ]);
  return {
    ...sketch,
    entities: sketch.entities.map((one) => {
      const place = places.get(one.id);
      return place && one.type === "point" ? { ...one, x: place[0], y: place[1] } : one;
    }),
  };
}

/** A line whose ends have met. */
export function flatLine(sketch: Pick<Sketch, "entities" | "given">): string | null {
  const places = new Map<string, Vec2>([["origin", [0, 0]]]);
  for (const one of [...sketch.entities, ...(sketch.given ?? [])])
    if (one.type === "point") places.set(one.id, [one.x, one.y]);
  const flat = sketch.entities.find((one) => {
    if (one.type !== "line") return false;
    const [a, b] = [places.get(one.from), places.get(one.to)];
    return a !== undefined && b !== undefined && Math.hypot(a[0] - b[0], a[1] - b[1]) < 1e-6;
  });
  return flat?.id ?? null;
}
