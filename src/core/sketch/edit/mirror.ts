import { add2, cross2, distance2, dot2, scale2, sub2, type Vec2 } from "../curves";
import type { Entity, Sketch } from "../entities";
import { SAME } from "../profile/crossings";
import { mapPoints, pointsOf, SketchFault } from "../solver/geometry";
import { placeOf, SketchEdit } from "./sketch-edit";

const LETTERS = { point: "p", line: "l", circle: "c", arc: "a", ellipse: "e", spline: "s", text: "t" } as const;

/**
 * Mirrors entities about a line and holds each point symmetric to its image. Points on the line serve both sides.
 * @throws SketchFault when the line is none, or nothing is left to mirror.
 */
export function mirror(sketch: Sketch, ids: readonly string[], line: string): Sketch {
  const edit = new SketchEdit(sketch);
  const [from, to] = axisOf(edit, line);
  const along = sub2(to, from);
  const picked = ids.filter((id) => id !== line).map((id) => edit.find(id));
  if (picked.length === 0 || picked.some((entity) => entity === undefined))
    throw new SketchFault("Pick what is to be mirrored first, and then the line to mirror it about.");
  const images = new Map<string, string>();
  const imageOf = (point: string): string => {
    const known = images.get(point);
    if (known) return known;
    const at = placeOf(edit, point);
    const image = reflect(at, from, along);
    let id = point;
    if (distance2(at, image) > SAME) {
      id = edit.point(image);
      edit.hold("symmetric", [point, id, line]);
    }
    images.set(point, id);
    return id;
  };
  for (const entity of picked as Entity[]) {
    for (const point of pointsOf(entity)) imageOf(point);
    if (entity.type === "point") imageOf(entity.id);
    else {
      const id = edit.fresh(LETTERS[entity.type]);
      edit.entities.push({ ...imageOfEntity(entity, imageOf), id });
      // Lines, arcs and splines follow from their points; a circle's radius does not.
      if (entity.type === "circle") edit.hold("equal", [entity.id, id]);
    }
  }
  return edit.parts;
}

/** What ran counter-clockwise runs clockwise in the mirror: its ends change places, and letters are turned over. */
function imageOfEntity(entity: Entity, imageOf: (point: string) => string): Entity {
  const image = mapPoints(entity, imageOf);
  if (image.type === "arc" || image.type === "ellipse") return { ...image, from: image.to, to: image.from } as Entity;
  return image.type === "text" ? { ...image, mirrored: !image.mirrored } : image;
}

function axisOf(edit: SketchEdit, line: string): [Vec2, Vec2] {
  if (line === "axis-x")
    return [
      [0, 0],
      [1, 0],
    ];
  if (line === "axis-y")
    return [
      [0, 0],
      [0, 1],
    ];
  const entity = edit.find(line);
  if (entity?.type !== "line") throw new SketchFault("Pick a line to mirror about.");
  return [placeOf(edit, entity.from), placeOf(edit, entity.to)];
}

/** The image of a place in a line through `from`. */
function reflect(at: Vec2, from: Vec2, along: Vec2): Vec2 {
  const left: Vec2 = [-along[1], along[0]];
  const away = cross2(along, sub2(at, from)) / dot2(along, along);
  return add2(at, scale2(left, -2 * away));
}
