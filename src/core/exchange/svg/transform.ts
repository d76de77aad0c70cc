import { type Affine, followedBy, IDENTITY } from "../drawing/curves";

/** The map of a transform attribute (SVG 1.1, 7.6): the one written first is done last. */
export function transformOf(text: string): Affine {
  let map: Affine = IDENTITY;
  for (const [, name, list] of text.matchAll(/(\w+)\s*\(([^)]*)\)/g)) {
    const v = list!
      .trim()
      .split(/[\s,]+/)
      .map(Number);
    map = followedBy(one(name!, v), map);
  }
  return map;
}

function one(name: string, v: readonly number[]): Affine {
  const angle = ((v[0] ?? 0) * Math.PI) / 180;
  switch (name) {
    case "matrix":
      return v.length === 6 ? (v as unknown as Affine) : IDENTITY;
    case "translate":
      return [1, 0, 0, 1, v[0] ?? 0, v[1] ?? 0];
    case "scale":
      return [v[0] ?? 1, 0, 0, v[1] ?? v[0] ?? 1, 0, 0];
    case "rotate": {
      const [c, s] = [Math.cos(angle), Math.sin(angle)];
      const [x, y] = [v[1] ?? 0, v[2] ?? 0];
      return [c, s, -s, c, x - c * x + s * y, y - s * x - c * y];
    }
    case "skewX":
      return [1, 0, Math.tan(angle), 1, 0, 0];
    case "skewY":
      return [1, Math.tan(angle), 0, 1, 0, 0];
    default:
      return IDENTITY;
  }
}
