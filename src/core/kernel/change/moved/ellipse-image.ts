import type { SplineData } from "../../binary/spline-data";
import type { Elementary } from "../../binary/surfaces";
import { cross, dot, type Vec3 } from "../../space/vectors";
import type { Drawn } from "./curve";
import { placeOf, pointAt } from "./image";

const DEGREE = 7;
/** Radians a span: with the values and three derivatives at both ends the image is off by less than 1e-13 of its height. */
const SPAN = Math.PI / 16;

/**
 * An ellipse in the parameters of a cylinder that a plane cuts in it. The angle goes on as the ellipse's own does; the height is a
 * wave of it, drawn as a spline of degree 7 that has its values and first three derivatives at the end of each span (Hermite).
 * @param near where its image before began. @returns null for any other curve and surface.
 */
export function ellipseImage(surface: Elementary, drawn: Drawn, near: readonly number[]): SplineData | null {
  const { curve, from, to } = drawn;
  if (surface.kind !== "cylinder" || curve.kind !== "ellipse") return null;
  const [x, y] = [curve.x, curve.y] as unknown as [Vec3, Vec3];
  const about = dot(cross(x, y), cross(surface.x, surface.y)) > 0 ? 1 : -1;
  const [u, v] = placeOf(surface, pointAt(curve, from), near);
  const [c, s] = [curve.major * dot(x, surface.axis), curve.minor * dot(y, surface.axis)];
  const middle = v - c * Math.cos(from) - s * Math.sin(from);
  /** The height and its first three derivatives. */
  const height = (t: number) => {
    const [cos, sin] = [Math.cos(t), Math.sin(t)];
    const [wave, slope] = [c * cos + s * sin, s * cos - c * sin];
    return [middle + wave, slope, -wave, -slope];
  };
  const spans = Math.max(1, Math.ceil((to - from) / SPAN));
  const wide = (to - from) / spans;
  const poles: number[][] = [];
  const knots = Array<number>(DEGREE + 1).fill(from);
  for (let span = 0; span < spans; span++) {
    const [begin, end] = [from + span * wide, from + (span + 1) * wide];
    const heights = [...fromEnd(height(begin), wide), ...fromEnd(height(end), -wide).reverse()];
    // Each span begins with the pole that the one before ended with.
    for (let i = span === 0 ? 0 : 1; i <= DEGREE; i++)
      poles.push([u + about * (begin + (i / DEGREE) * wide - from), heights[i]!]);
    for (let i = 0; i < DEGREE; i++) knots.push(span === spans - 1 ? to : end);
  }
  knots.push(to);
  return { degree: DEGREE, poles, weights: null, knots, periodic: false };
}

/** The first four Bézier poles from the value and three derivatives at an end of a span: b(k) = Σ C(k, j) (n − j)! / n! hʲ f⁽ʲ⁾. */
function fromEnd([f, f1, f2, f3]: readonly number[], h: number): number[] {
  const [a, b, c] = [(h * f1!) / DEGREE, (h * h * f2!) / (DEGREE * (DEGREE - 1)), (h ** 3 * f3!) / 210];
  return [f!, f! + a, f! + 2 * a + b, f! + 3 * a + 3 * b + c];
}
