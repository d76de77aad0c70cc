import type { Vec3 } from "../../../kernel";
import { add, cross, dot, length, scale, sub, unit } from "../../../kernel/space/vectors";
import { AXES } from "../space";
import type { HandlePlace, MadeBody, Surroundings } from "./handles";

/** The three numbers of a point that places a whole. */
export const placedAt = (field: string, label: string, at: Vec3): HandlePlace[] =>
  (["x", "y", "z"] as const).map((axis, index) => ({
    field,
    index,
    kind: "length",
    label: `${label} ${axis.toUpperCase()}`,
    at,
    way: AXES[axis],
    rate: 1,
    moves: true,
  }));

/** A length that a place goes along with, or by half where it grows on both sides. */
export const lengthAt = (field: string, label: string, at: Vec3, way: Vec3, rate = 1): HandlePlace => ({
  field,
  kind: "length",
  label,
  at,
  way,
  rate,
});

/** An angle about an axis: a place that goes round with it. Null where the place lies on the axis. */
export function angleAt(
  field: string,
  label: string,
  at: Vec3,
  { about, axis }: { about: Vec3; axis: Vec3 },
): HandlePlace | null {
  const round = cross(axis, sub(at, about));
  const reach = length(round);
  if (reach < 1e-9) return null;
  return { field, kind: "angle", label, at, way: scale(round, 1 / reach), rate: (reach * Math.PI) / 180 };
}

/** A face of what a step made, by the first part of its name behind the step's. */
export function ownFace({ step, bodies }: Surroundings, name: string): MadeBody["faces"][number] | null {
  const whole = `${step}:${name}`;
  const faces = bodies.flatMap((body) => body.faces);
  // A face in several parts has numbers behind its name.
  return (
    faces.find(
      (face) => face.name === whole || face.name.startsWith(`${whole}:`) || face.name.startsWith(`${whole}#`),
    ) ?? null
  );
}

/** A flat face of those that the step made, with the way in which it looks. @param called how its name begins, behind the step's. */
export function ownFlat({ step, bodies }: Surroundings, called = ""): { centre: Vec3; direction: Vec3 } | null {
  for (const { kind, name, centre, direction } of bodies.flatMap(({ faces }) => faces))
    if (kind === "plane" && direction && name.startsWith(`${step}:${called}`)) return { centre, direction };
  return null;
}

/** A place on a round face, square off its axis from the middle of the face; null where the middle lies on the axis. */
export function onRound({
  centre,
  axisAt,
  direction,
  radius,
}: MadeBody["faces"][number]): { at: Vec3; out: Vec3; off: number } | null {
  if (!axisAt || !direction || radius === undefined) return null;
  const foot = add(axisAt, scale(direction, dot(sub(centre, axisAt), direction)));
  const away = sub(centre, foot);
  const off = length(away);
  if (off < 1e-6) return null;
  const out = unit(away);
  return { at: add(foot, scale(out, radius)), out, off };
}
