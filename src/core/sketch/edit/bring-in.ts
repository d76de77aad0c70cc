import type { Vec2 } from "../curves";
import type { Sketch } from "../entities";
import { type GivenCurve, givenEntities } from "../given";
import { mapPoints } from "../solver/geometry";
import { SketchEdit } from "./sketch-edit";

/** Ends nearer than this, mm, are one point: files write their numbers with few decimals. */
const JOINED = 1e-4;

const LETTERS = { line: "l", circle: "c", arc: "a", ellipse: "e", spline: "s" } as const;

/** Draws curves of a file into a sketch. Where ends meet they share a point, so that outlines hold together. */
export function bringIn(
  sketch: Sketch,
  curves: readonly (GivenCurve | { point: Vec2 })[],
  by: Vec2 = [0, 0],
): { sketch: Sketch; brought: string[] } {
  const edit = new SketchEdit(sketch);
  const brought: string[] = [];
  const ends = new Map<string, string>();
  const pointAt = ([x, y]: Vec2): string => {
    const cell = (value: number) => Math.round(value / JOINED);
    const [i, j] = [cell(x), cell(y)];
    for (let di = -1; di <= 1; di++)
      for (let dj = -1; dj <= 1; dj++) {
        const known = ends.get(`${i + di},${j + dj}`);
        if (known) return known;
      }
    const id = edit.point([x, y]);
    ends.set(`${i},${j}`, id);
    return id;
  };
  for (const curve of curves) {
    if ("point" in curve) {
      brought.push(edit.point([curve.point[0] + by[0], curve.point[1] + by[1]]));
      continue;
    }
    const made = givenEntities("in", curve, false);
    const places = new Map(
      made.flatMap((one) => (one.type === "point" ? [[one.id, [one.x + by[0], one.y + by[1]] as Vec2] as const] : [])),
    );
    for (const entity of made) {
      if (entity.type === "point" || entity.type === "text") continue;
      const id = edit.fresh(LETTERS[entity.type]);
      edit.entities.push({ ...mapPoints(entity, (point) => pointAt(places.get(point)!)), id });
      brought.push(id);
    }
  }
  return { sketch: edit.parts, brought };
}
