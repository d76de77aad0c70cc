import { inSpace, type PlaneFrame } from "@/core/kernel/space/plane-frame";
import type { Vec2 } from "@/core/sketch";
import type { ViewScene } from "../viewport/scene";

/** How a plane's coordinates lie on the canvas: the view has no perspective, so it is one affine map. */
export interface PlaneMap {
  toPixel(at: Vec2): Vec2;
  toPlane(at: Vec2): Vec2;
  /** Pixels per millimetre, along the plane's X. */
  scale: number;
}

/**
 * A place that a pointer means, mm, rounded to a micrometre, or to less where that can be seen: what the view's own arithmetic adds
 * (1e-7 mm) would decide otherwise whether a point lies on an axis.
 * @param scale pixels per millimetre.
 */
export function rounded([x, y]: Vec2, scale: number): Vec2 {
  const step = Math.min(1e-3, 10 ** Math.floor(Math.log10(0.02 / scale)));
  // Divided by a whole number, so that 0.1 stays 0.1.
  const per = Math.round(1 / step);
  return [Math.round(x * per) / per + 0, Math.round(y * per) / per + 0];
}

/** Null while the plane is seen edge-on, so that a click means no place on it. */
export function planeMap(scene: ViewScene, frame: PlaneFrame): PlaneMap | null {
  const pixel = (at: Vec2): Vec2 => {
    const { x, y } = scene.project(inSpace(frame, at));
    return [x, y];
  };
  const [o, u, v] = [pixel([0, 0]), pixel([1, 0]), pixel([0, 1])];
  const [ux, uy, vx, vy] = [u[0] - o[0], u[1] - o[1], v[0] - o[0], v[1] - o[1]];
  const det = ux * vy - uy * vx;
  const scale = Math.hypot(ux, uy);
  if (Math.abs(det) < 0.05 * Math.max(scale, Math.hypot(vx, vy)) ** 2 || !Number.isFinite(det)) return null;
  return {
    scale,
    toPixel: ([x, y]) => [o[0] + ux * x + vx * y, o[1] + uy * x + vy * y],
    toPlane: ([x, y]) => {
      const [dx, dy] = [x - o[0], y - o[1]];
      return rounded([(dx * vy - dy * vx) / det, (dy * ux - dx * uy) / det], scale);
    },
  };
}
