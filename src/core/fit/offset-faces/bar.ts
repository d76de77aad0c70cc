import type { Body } from "../../items";
import {
  add,
  allFaceFacts,
  areaOf,
  cross,
  distance,
  dot,
  length,
  makeCylinder,
  roundOf,
  scale,
  sub,
  surfaceRecordsOf,
} from "../../kernel";
import { SAME_PLACE, SAME_WAY } from "../../tolerance";
import type { MovedFace } from "./moved";

/**
 * A round bar, which is what most pins are, with faces moved: a bar again, in no time, of whichever few thousandths of a millimetre they are. Null where
 * the body is none, or nothing would be left of it.
 */
export function movedBar({ shape, faces }: Body, moved: readonly MovedFace[]): Pick<Body, "shape" | "faces"> | null {
  if (faces.length !== 3) return null;
  const surfaces = surfaceRecordsOf(shape);
  const side = surfaces.findIndex((surface) => surface?.kind === "cylinder");
  const record = surfaces[side];
  if (record?.kind !== "cylinder" || !roundOf(shape, side)?.outward) return null;
  const facts = allFaceFacts(shape);
  const caps = [0, 1, 2].filter((place) => place !== side);
  const { axis, at, radius } = record;
  if (caps.some((cap) => facts[cap]!.kind !== "plane" || length(cross(facts[cap]!.direction!, axis)) > SAME_WAY))
    return null;
  // The one that looks along the axis, and the one that looks back.
  const [end, base] = dot(facts[caps[0]!]!.direction!, axis) > 0 ? [caps[0]!, caps[1]!] : [caps[1]!, caps[0]!];
  const along = (place: number) => dot(sub(facts[place]!.centre, at), axis);
  const high = along(end) - along(base);
  const whole = 2 * Math.PI * radius * high;
  // A whole one: not a part of a turn, and nothing of it cut away.
  if (high < SAME_PLACE || Math.abs(areaOf(shape) - whole - 2 * Math.PI * radius ** 2) > 1e-9 * whole) return null;
  if (caps.some((cap) => distance(facts[cap]!.centre, add(at, scale(axis, along(cap)))) > SAME_PLACE)) return null;
  const by = (place: number) => moved.find((face) => face.place === place)?.by ?? 0;
  const [wide, tall] = [radius + by(side), high + by(end) + by(base)];
  if (wide < SAME_PLACE || tall < SAME_PLACE) return null;
  const made = makeCylinder(add(at, scale(axis, along(base) - by(base))), axis, wide, tall);
  const names = allFaceFacts(made).map(({ kind, direction }) => {
    if (kind === "cylinder") return faces[side]!;
    return dot(direction!, axis) > 0 ? faces[end]! : faces[base]!;
  });
  return { shape: made, faces: names };
}
