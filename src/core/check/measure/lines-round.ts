import {
  add,
  cross,
  distanceToPoint,
  dot,
  facesOf,
  type Shape,
  scale,
  sub,
  surfaceRecordsOf,
  triangulate,
  unit,
  type Vec3,
} from "../../kernel";

/** Something to run along: places for each measure of how far, up to its end. */
export interface Line {
  end: number;
  at(along: number): Vec3[];
}

/** At how many heights of a face it is looked at, at each angle. */
const HEIGHTS = 9;
/** mm: what is as near to a face is taken to be on it, at the place that is nearest. Triangles are in single precision. */
const ON = 1e-4;

/**
 * The straight lines of a cylinder or a cone, one for each angle, degrees: those of their places that are on the face. The angle begins
 * where X lies out from the axis (Y, where the axis lies along X), and grows to the right hand about the axis' way. Null for another face.
 */
export function linesRound(shape: Shape, place: number): Line | null {
  const record = surfaceRecordsOf(shape)[place];
  if (record?.kind !== "cylinder" && record?.kind !== "cone") return null;
  const face = facesOf(shape)[place]!;
  const axis = unit(record.axis);
  const [low, high] = heightsOf(face, record.at, axis);
  const slope = record.kind === "cone" ? Math.tan(record.half) : 0;
  const across = Math.abs(axis[0]) < 0.9 ? ([1, 0, 0] as Vec3) : ([0, 1, 0] as Vec3);
  const x = unit(sub(across, scale(axis, dot(across, axis))));
  const y = cross(axis, x);
  return {
    end: 360,
    at(along) {
      const turn = (along * Math.PI) / 180;
      const out = add(scale(x, Math.cos(turn)), scale(y, Math.sin(turn)));
      const places = Array.from({ length: HEIGHTS }, (_, i) => {
        const up = low + ((high - low) * i) / (HEIGHTS - 1);
        return add(add(record.at, scale(axis, up)), scale(out, record.radius + slope * up));
      });
      // Heights come from triangles: at the very ends of the face a place is brought back onto it.
      return places.flatMap((at) => {
        const near = distanceToPoint(face, at);
        return near && near.gap < ON ? [near.on2] : [];
      });
    },
  };
}

/** Between which heights along an axis a face lies: it is cut off square, or by a curve that its triangles follow. */
function heightsOf(face: Shape, at: Vec3, axis: Vec3): [number, number] {
  const { positions } = triangulate(face, [], { linear: 0.05, angular: 0.2 });
  let [low, high] = [Number.POSITIVE_INFINITY, Number.NEGATIVE_INFINITY];
  for (let i = 0; i < positions.length; i += 3) {
    const up = dot(sub([positions[i]!, positions[i + 1]!, positions[i + 2]!], at), axis);
    [low, high] = [Math.min(low, up), Math.max(high, up)];
  }
  return [low, high];
}
