import { type Curve, conicTerms, type EdgeUse, isConic, pointsOf, type Structure, type SurfaceFrame } from "../binary";
import { integrate } from "../space/quadrature";
import { cross, dot, length, scale, type Vec3 } from "../space/vectors";
import { closings, runEnds } from "./closings";
import type { FaceIntegrals } from "./integrals";
import { combined, type Integrand, overSpans, pieces, settled } from "./integrals-along";

/** ∮ x dy for the area; ∮ x²/2 dy and −∮ y²/2 dx for the moments: about a corner of the face, so that nothing cancels. */
export function flatIntegrals(
  structure: Structure,
  { x: ex, y: ey }: SurfaceFrame,
  uses: EdgeUse[],
  rough: boolean,
): FaceIntegrals | null {
  const { edges, vertices } = structure;
  // A closed edge need not have a corner.
  const { vertices: ends, curve: begins } = edges[uses[0]!.edge]!;
  const about =
    vertices[ends[0] ?? -1]?.at ?? (begins && (pointsOf(begins.curve)?.(begins.from).at as Vec3 | undefined));
  if (!about) return null;
  const local = (p: readonly number[]): [number, number] => {
    const away: Vec3 = [p[0]! - about[0], p[1]! - about[1], p[2]! - about[2]];
    return [dot(away, ex), dot(away, ey)];
  };
  const away = length(about);
  const turn = (d: readonly number[]): [number, number] => [dot(d as never, ex), dot(d as never, ey)];
  let [area, mx, my] = [0, 0, 0];
  for (const { edge, way } of uses) {
    const { curve: run, point } = edges[edge]!;
    if (point) continue;
    const part = run && alongCurve(run.curve, run.from, run.to, local, turn, away, rough);
    if (!part) return null;
    area += way * part[0]!;
    mx += way * part[1]!;
    my += way * part[2]!;
  }
  const gaps = closings(structure, uses, ({ edge, way }) => {
    const run = edges[edge]!.curve;
    return run && runEnds(run, way);
  });
  for (const { from, to } of gaps) {
    const part = alongLine(local(from), local(to));
    area += part[0]!;
    mx += part[1]!;
    my += part[2]!;
  }
  const normal = scale(cross(ex, ey), area);
  return { area, moment: combined([0, 0, 0], [area, about], [mx, ex], [my, ey]), normal, flux: dot(about, normal) };
}

const alongLine = ([x0, y0]: readonly [number, number], [x1, y1]: readonly [number, number]): number[] => [
  ((x0 + x1) / 2) * (y1 - y0),
  ((x0 * x0 + x0 * x1 + x1 * x1) / 6) * (y1 - y0),
  (-(y0 * y0 + y0 * y1 + y1 * y1) / 6) * (x1 - x0),
];

type ToPlane = (of: readonly number[]) => [number, number];

function alongCurve(
  curve: Curve,
  from: number,
  to: number,
  local: ToPlane,
  turn: ToPlane,
  away: number,
  rough: boolean,
): number[] | null {
  if (curve.kind === "line") {
    const [[x, y], [dx, dy]] = [local(curve.at), turn(curve.way)];
    return alongLine([x + from * dx, y + from * dy], [x + to * dx, y + to * dy]);
  }
  if (curve.kind === "spline")
    return overSpans(curve, from, to, rough, ({ at, slope }) => flatIntegrand(local(at), turn(slope), away));
  if (!isConic(curve)) return null;
  const [[cx, cy], [ax, ay], [bx, by]] = [local(curve.at), turn(curve.x), turn(curve.y)];
  const at = (t: number): Integrand => {
    const terms = conicTerms(curve, t);
    return flatIntegrand(
      [cx + terms.x[0] * ax + terms.y[0] * bx, cy + terms.x[0] * ay + terms.y[0] * by],
      [terms.x[1] * ax + terms.y[1] * bx, terms.x[1] * ay + terms.y[1] * by],
      away,
    );
  };
  if (curve.kind === "hyperbola") return settled(from, to, rough, at);
  // A quarter turn is exact to rounding in one piece, and a parabola is a polynomial.
  return integrate(from, to, curve.kind === "parabola" ? 1 : pieces(to - from), (t) => at(t).values);
}

/** What is integrated round a flat face, at a place that goes on so. @param away how far off the world's origin the face lies. */
function flatIntegrand(
  [x, y]: readonly [number, number],
  [dx, dy]: readonly [number, number],
  away: number,
): Integrand {
  const far = Math.abs(x) + Math.abs(y);
  return {
    values: [x * dy, ((x * x) / 2) * dy, ((-y * y) / 2) * dx],
    size: far * (far + away) * Math.max(1, far),
  };
}
