import type { Vec2 } from "../curves";
import { BUILT_IN, type Constraint, type Dimension, type Sketch } from "../entities";
import { mapPoints, pointsOf } from "../solver/geometry";
import { SketchEdit } from "./sketch-edit";

/** Part of a drawing, to be put into this or another one. */
export type Clip = Pick<Sketch, "entities" | "constraints" | "dimensions">;

/** Entities with the points that they stand on, and what is held between them alone. */
export function copyOf(sketch: Sketch, ids: readonly string[]): Clip {
  const taken = new Set(ids);
  for (const entity of sketch.entities)
    if (taken.has(entity.id)) for (const point of pointsOf(entity)) taken.add(point);
  const within = ({ of }: { of: readonly string[] }) => of.every((id) => taken.has(id));
  return {
    entities: sketch.entities.filter(({ id }) => taken.has(id)),
    constraints: sketch.constraints.filter((one) => within(one) && one.type !== "fixed"),
    dimensions: sketch.dimensions.filter(within),
  };
}

/** Puts a copy in, moved by so much, under ids that are free. Formulas of its dimensions go with it. */
export function paste(sketch: Sketch, clip: Clip, by: Vec2): { sketch: Sketch; pasted: string[] } {
  const edit = new SketchEdit(sketch);
  const names = new Map<string, string>(BUILT_IN.map((id) => [id, id]));
  const rename = (id: string): string => {
    const known = names.get(id);
    if (known) return known;
    const fresh = edit.fresh(id.replace(/[^A-Za-z].*$/, "") || "x");
    names.set(id, fresh);
    return fresh;
  };
  // An origin that a curve stood on becomes a point of its own: the copy lies elsewhere.
  if (clip.entities.some((entity) => pointsOf(entity).includes("origin"))) names.set("origin", edit.point([...by]));
  for (const entity of clip.entities) {
    const moved = entity.type === "point" ? { ...entity, x: entity.x + by[0], y: entity.y + by[1] } : entity;
    edit.entities.push({ ...mapPoints(moved, rename), id: rename(entity.id) });
  }
  for (const { id, ...one } of clip.constraints)
    edit.constraints.push({ ...one, id: rename(id), of: one.of.map(rename) } as Constraint);
  for (const { id, name: _name, ...one } of clip.dimensions)
    edit.dimensions.push({ ...one, id: rename(id), of: one.of.map(rename) } as Dimension);
  return { sketch: edit.parts, pasted: clip.entities.map(({ id }) => rename(id)) };
}
