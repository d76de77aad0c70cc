import { add, scale, type Vec3 } from "../../kernel";
import type { Around, Placed } from "./affine";
import type { StepPen } from "./pen";

/** A cone, sphere or ring, and where the face lies on it. */
export interface Quadric extends Around {
  kind: "cone" | "sphere" | "torus";
  frame: Placed;
  /** Of a cone in the plane of its frame; of a sphere; of a ring from its axis to the middle of its tube, mm. */
  radius: number;
  /** A cone's half angle, radians; the radius of a ring's tube, mm. */
  more: number;
}

const QUARTERS = [3, 2, 2, 2, 3];
const HALF = Math.SQRT1_2;

/** Poles and weights of a whole circle from an angle on, as a rational spline of degree 2: in units of its radius. */
function ring(start: number): { at: [number, number]; weight: number }[] {
  return Array.from({ length: 9 }, (_, k) => {
    const angle = start + (k * Math.PI) / 4;
    const reach = k % 2 === 0 ? 1 : 1 / HALF;
    return { at: [reach * Math.cos(angle), reach * Math.sin(angle)], weight: k % 2 === 0 ? 1 : HALF };
  });
}

/** A round surface as a rational spline, with its poles moved by `move`: an affine map, so that the surface moves alike. */
export function quadricSurface(pen: StepPen, quadric: Quadric, move: (at: Vec3) => Vec3): number {
  const { kind, frame, radius, more, start, tubeStart, low, high } = quadric;
  const { origin, x, y, z } = frame;
  const at = (out: readonly [number, number], up: number): Vec3 =>
    move(add(add(origin, scale(z, up)), add(scale(x, out[0]), scale(y, out[1]))));
  /** Along v: how far out from the axis and how high, with its weight. */
  let profile: { out: number; up: number; weight: number }[];
  let v = { degree: 2, mults: QUARTERS };
  if (kind === "cone") {
    // Between the corners of the face and a little beyond, but never past the apex.
    const slope = Math.tan(more);
    const apex = -radius / slope;
    const margin = 0.1 * (high - low) + 1e-3;
    const ends = [low - margin, high + margin].map((up) => (slope > 0 ? Math.max(up, apex) : Math.min(up, apex)));
    profile = ends.map((up) => ({ out: Math.max(0, radius + up * slope), up, weight: 1 }));
    v = { degree: 1, mults: [2, 2] };
  } else if (kind === "sphere") {
    // From pole to pole: half of a circle that begins at the lower one.
    profile = ring(-Math.PI / 2)
      .slice(0, 5)
      .map(({ at: [out, up], weight }) => ({ out: radius * out, up: radius * up, weight }));
    v = { degree: 2, mults: [3, 2, 3] };
  } else
    profile = ring(tubeStart).map(({ at: [out, up], weight }) => ({ out: radius + more * out, up: more * up, weight }));
  const circle = ring(start);
  return pen.splineSurface(
    { degree: 2, mults: QUARTERS },
    v,
    circle.map(({ at: [cos, sin] }) => profile.map(({ out, up }) => at([out * cos, out * sin], up))),
    circle.map(({ weight }) => profile.map((row) => row.weight * weight)),
  );
}
