import type { Vec2 } from "../../sketch";
import { type FileCurve, line } from "../drawing/curves";

/**
 * An arc of a path from its ends to its centre (SVG 1.1, appendix F.6.5 and F.6.6: too small radii grow until they reach).
 * @param values rx, ry, the turn of the axes in degrees, the large-arc flag, the sweep flag.
 */
export function ellipticalArc(
  from: Vec2,
  [rx0, ry0, degrees, large, sweepFlag]: [number, number, number, number, number],
  to: Vec2,
): FileCurve[] {
  let [rx, ry] = [Math.abs(rx0), Math.abs(ry0)];
  if (from[0] === to[0] && from[1] === to[1]) return [];
  if (rx === 0 || ry === 0) return line(from, to);
  const turn = (degrees * Math.PI) / 180;
  const [c, s] = [Math.cos(turn), Math.sin(turn)];
  const [hx, hy] = [(from[0] - to[0]) / 2, (from[1] - to[1]) / 2];
  const [x, y] = [c * hx + s * hy, c * hy - s * hx];
  const reach = (x / rx) ** 2 + (y / ry) ** 2;
  if (reach > 1) [rx, ry] = [rx * Math.sqrt(reach), ry * Math.sqrt(reach)];
  const rest = (rx * ry) ** 2 - (rx * y) ** 2 - (ry * x) ** 2;
  const k = Math.sqrt(Math.max(0, rest) / ((rx * y) ** 2 + (ry * x) ** 2)) * (large === sweepFlag ? -1 : 1);
  const [cx, cy] = [(k * rx * y) / ry, (-k * ry * x) / rx];
  const centre: Vec2 = [c * cx - s * cy + (from[0] + to[0]) / 2, s * cx + c * cy + (from[1] + to[1]) / 2];
  const first = Math.atan2((y - cy) / ry, (x - cx) / rx);
  let sweep = Math.atan2((-y - cy) / ry, (-x - cx) / rx) - first;
  if (sweepFlag && sweep < 0) sweep += 2 * Math.PI;
  if (!sweepFlag && sweep > 0) sweep -= 2 * Math.PI;
  return [{ exact: true, curve: { kind: "ellipse", centre, major: rx, minor: ry, turn, start: first, sweep } }];
}
