import type { PlanarCurve } from "./outline";

type Place = readonly [number, number];

/** Shorter than this, mm, a curve is a point. */
const LEAST = 1e-7;
const TURN = 2 * Math.PI;

/** The straight line between two places; null where they are one. */
export function segment(from: Place, to: Place): PlanarCurve | null {
  return Math.hypot(to[0] - from[0], to[1] - from[1]) < LEAST ? null : { kind: "line", from, to };
}

/**
 * The conic centre + u cos t + v sin t over a range of t. Its principal axes lie where the two half diameters u, v turned
 * by t₀ with tan 2t₀ = 2u·v / (u² − v²) are square to each other (Rytz's construction).
 */
export function conicOf(centre: Place, u: Place, v: Place, first: number, last: number): PlanarCurve | null {
  const turned = 0.5 * Math.atan2(2 * (u[0] * v[0] + u[1] * v[1]), u[0] ** 2 + u[1] ** 2 - v[0] ** 2 - v[1] ** 2);
  const [c, s] = [Math.cos(turned), Math.sin(turned)];
  const p: Place = [u[0] * c + v[0] * s, u[1] * c + v[1] * s];
  const q: Place = [v[0] * c - u[0] * s, v[1] * c - u[1] * s];
  const [major, minor] = [Math.hypot(...p), Math.hypot(...q)];
  const whole = last - first > TURN - 1e-9;
  if (major < LEAST) return null;
  if (minor < LEAST) {
    // Seen edge-on: the stretch of the axis that it covers.
    const angles = [first, last];
    for (let k = -8; k <= 8; k++) {
      const extreme = turned + k * Math.PI;
      if (extreme > first && extreme < last) angles.push(extreme);
    }
    const shares = angles.map((t) => Math.cos(t - turned));
    const end = (share: number): Place => [centre[0] + p[0] * share, centre[1] + p[1] * share];
    return segment(end(Math.min(...shares)), end(Math.max(...shares)));
  }
  const forwards = p[0] * q[1] - p[1] * q[0] > 0;
  const turn = Math.atan2(p[1], p[0]);
  const [a, b] = [first - turned, last - turned];
  const start = forwards ? a : -b;
  const sweep = whole ? TURN : b - a;
  if (Math.abs(major - minor) < LEAST) return { kind: "arc", centre, radius: major, start: start + turn, sweep };
  return { kind: "ellipse", centre, major, minor, turn, start, sweep };
}
