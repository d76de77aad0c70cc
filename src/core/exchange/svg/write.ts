import { boxOf, type Curve, curvesOf, type Entity, piecesOf, pointAt, type Vec2 } from "../../sketch";

const MARGIN = 1;

/**
 * A sketch's outlines as SVG in millimetres, Y turned to run down as SVG counts it. Lines, arcs, ellipses and splines
 * up to the third degree are exact; a spline of a higher degree is written as chords of a hundredth of its span.
 */
export function writeSvg(entities: readonly Entity[]): string {
  const curves = curvesOf(entities);
  const boxes = curves.map(boxOf);
  const min = (k: 0 | 1) => Math.min(0, ...boxes.map((box) => box.min[k]!)) - MARGIN;
  const max = (k: 0 | 1) => Math.max(0, ...boxes.map((box) => box.max[k]!)) + MARGIN;
  const [left, top, width, height] = [min(0), -max(1), max(0) - min(0), max(1) - min(1)].map(rounded);
  const paths = curves.map((curve) => `    <path d="${pathOf(curve)}"/>`).join("\n");
  return `<?xml version="1.0" encoding="UTF-8"?>
<svg xmlns="http://www.w3.org/2000/svg" width="${width}mm" height="${height}mm" viewBox="${left} ${top} ${width} ${height}">
  <g fill="none" stroke="black" stroke-width="0.1">
${paths}
  </g>
</svg>
`;
}

/** Numbers to a billionth of a millimetre. */
const rounded = (value: number): number => Math.round(value * 1e9) / 1e9;
const place = ([x, y]: Vec2): string => `${rounded(x)} ${rounded(-y)}`;

function pathOf(curve: Curve): string {
  const { shape } = curve;
  switch (shape.kind) {
    case "line":
      return `M${place(shape.from)}L${place(shape.to)}`;
    case "arc":
      return bowOf(curve, shape.radius, shape.radius, 0, shape.sweep);
    case "ellipse":
      return bowOf(curve, shape.major, shape.minor, shape.turn, shape.sweep);
    case "spline": {
      if (shape.poles.degree > 3)
        return Array.from({ length: 101 }, (_, i) => `${i === 0 ? "M" : "L"}${place(pointAt(curve, i / 100))}`).join(
          "",
        );
      const letter = ["", "L", "Q", "C"][shape.poles.degree]!;
      return piecesOf(shape.poles)
        .map((points, i) => `${i === 0 ? `M${place(points[0]!)}` : ""}${letter}${points.slice(1).map(place).join(" ")}`)
        .join("");
    }
  }
}

/** An elliptical arc in two halves: a whole turn has to be, and one of more than half a turn may be. */
function bowOf(curve: Curve, a: number, b: number, turn: number, sweep: number): string {
  const way = sweep > 0 ? 0 : 1;
  const half = (t: number) =>
    `A${rounded(a)} ${rounded(b)} ${rounded((-turn * 180) / Math.PI)} 0 ${way} ${place(pointAt(curve, t))}`;
  return `M${place(pointAt(curve, 0))}${half(0.5)}${half(1)}${curve.closed ? "Z" : ""}`;
}
