import type { Conic, Curve } from "./curves";

/** How far a conic goes along each of its two directions at a parameter, mm, with the first and the second derivative. */
export interface ConicTerms {
  x: readonly [number, number, number];
  y: readonly [number, number, number];
}

export const isConic = (curve: Curve): curve is Conic => "x" in curve;

export function conicTerms(curve: Conic, t: number): ConicTerms {
  switch (curve.kind) {
    case "circle":
    case "ellipse": {
      const { major, minor } = curve;
      const [c, s] = [Math.cos(t), Math.sin(t)];
      return { x: [major * c, -major * s, -major * c], y: [minor * s, minor * c, -minor * s] };
    }
    case "hyperbola": {
      const { real, imaginary } = curve;
      const [c, s] = [Math.cosh(t), Math.sinh(t)];
      return { x: [real * c, real * s, real * c], y: [imaginary * s, imaginary * c, imaginary * s] };
    }
    case "parabola": {
      const quarter = 1 / (4 * curve.focal);
      return { x: [quarter * t * t, 2 * quarter * t, 2 * quarter], y: [t, 1, 0] };
    }
  }
}

/**
 * The parameters at which a conic is furthest along a way, within no range: where its derivative along it is 0. A
 * circle's and an ellipse's are given once, and once half a turn on.
 * @param alongX how far its first direction goes that way. @param alongY how far its second does.
 */
export function furthestParameters(curve: Conic, alongX: number, alongY: number): number[] {
  switch (curve.kind) {
    case "circle":
    case "ellipse": {
      const first = Math.atan2(curve.minor * alongY, curve.major * alongX);
      return [first, first + Math.PI];
    }
    case "hyperbola": {
      const slope = (-curve.imaginary * alongY) / (curve.real * alongX);
      return Math.abs(slope) < 1 ? [Math.atanh(slope)] : [];
    }
    case "parabola":
      return alongX === 0 ? [] : [(-2 * curve.focal * alongY) / alongX];
  }
}
