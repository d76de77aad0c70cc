/** How a cut surface is ruled: by what it is of, as drawings of the trade do it (common practice). */
export type Hatch = "metal" | "plastic" | "rubber" | "wood" | "plaster";

const BY_MATERIAL: Readonly<Record<string, Hatch>> = {
  pla: "plastic",
  petg: "plastic",
  abs: "plastic",
  nylon: "plastic",
  acetal: "plastic",
  "silicone rubber": "rubber",
  "polyurethane rubber": "rubber",
  plaster: "plaster",
  beech: "wood",
  plywood: "wood",
};

/** Whatever is not known is ruled as metal is: single lines aslant. */
export const hatchOf = (material: string | undefined): Hatch => BY_MATERIAL[material?.toLowerCase() ?? ""] ?? "metal";

/**
 * The rule of a hatch as a condition of the fragment shader, true on its lines. Bodies side by side are ruled in opposite ways.
 *
 * @param other whether the lines lean to the other side.
 */
export function hatchLines(hatch: Hatch, other: boolean): string {
  const along = (sign: string, width: number, line: number) =>
    `fract((gl_FragCoord.x ${sign} gl_FragCoord.y) / ${width.toFixed(1)}) < ${line}`;
  const [one, two] = other ? ["-", "+"] : ["+", "-"];
  switch (hatch) {
    case "plastic":
      return `${along(one, 12, 0.1)} || ${along(two, 12, 0.1)}`;
    case "rubber":
      return `${along(one, 7, 0.16)} || ${along(two, 7, 0.16)}`;
    case "wood":
      // Lines along the grain, now near, now far.
      return `fract(gl_FragCoord.y / ${other ? "5.0" : "7.0"} + 0.35 * sin(gl_FragCoord.x / 37.0)) < 0.16`;
    case "plaster":
      return `fract(gl_FragCoord.x / 9.0) < 0.2 && fract((gl_FragCoord.y ${one} floor(gl_FragCoord.x / 9.0) * 4.0) / 9.0) < 0.2`;
    default:
      return along(one, 12, 0.12);
  }
}
