import type { Curve, Vec2 } from "../curves";
import type { EntityOf } from "../entities";
import { Poles } from "../spline";
import font from "./barlow-medium.json";

const glyphs = font.glyphs as unknown as Record<string, readonly [advance: number, path: string]>;
const kerning: Readonly<Record<string, number>> = font.kerning;

/** A piece of a letter's outline in font units, Y upwards: a line, or a Bézier curve by its control points. */
type Piece = readonly Vec2[];

const outlines = new Map<string, readonly (readonly Piece[])[]>();

/** The closed outlines of a letter. Holes run the other way round, which the profile does not need to know. */
function outlinesOf(letter: string): readonly (readonly Piece[])[] {
  const known = outlines.get(letter);
  if (known) return known;
  const contours: Piece[][] = [];
  let first: Vec2 = [0, 0];
  let last: Vec2 = [0, 0];
  const add = (points: readonly Vec2[]) => {
    const end = points.at(-1)!;
    // Fonts repeat points, and close with a line of no length.
    if (points.length === 1 && end[0] === last[0] && end[1] === last[1]) return;
    contours.at(-1)!.push([last, ...points]);
    last = end;
  };
  for (const [, word, numbers] of (glyphs[letter]?.[1] ?? "").matchAll(/([MLQCZ])([^MLQCZ]*)/g)) {
    const values = numbers!.trim().split(/\s+/).map(Number);
    const points = Array.from({ length: values.length >> 1 }, (_, i): Vec2 => [values[2 * i]!, values[2 * i + 1]!]);
    if (word === "M") {
      contours.push([]);
      first = last = points[0]!;
    } else add(word === "Z" ? [first] : points);
  }
  outlines.set(letter, contours);
  return contours;
}

/** The letters of a text that the font does not have, each once. */
export function missingLetters(text: string): string[] {
  return [...new Set([...text].filter((letter) => !(letter in glyphs)))];
}

/** How wide a text is, mm, with capitals of a height, mm. */
export function textWidth(text: string, height: number): number {
  return (
    lettersOf(text).reduce((end, { start, advance }) => Math.max(end, start + advance), 0) * (height / font.capital)
  );
}

/** Where each letter begins, in font units. */
function lettersOf(text: string): { letter: string; start: number; advance: number }[] {
  let start = 0;
  let before = "";
  return [...text].map((letter) => {
    start += kerning[before + letter] ?? 0;
    const advance = glyphs[letter]?.[0] ?? 0;
    const placed = { letter, start, advance };
    start += advance;
    before = letter;
    return placed;
  });
}

/** The outlines of a text as exact curves: lines, and Bézier curves of the font's own degree. */
export function textCurves({ id, text, height, mirrored }: EntityOf<"text">, at: Vec2, along: Vec2): Curve[] {
  const scale = height / font.capital;
  const turn = Math.atan2(along[1] - at[1], along[0] - at[0]);
  const [c, s] = [Math.cos(turn) * scale, Math.sin(turn) * scale];
  return lettersOf(text).flatMap(({ letter, start }, l) => {
    const place = ([x, up]: Vec2): Vec2 => {
      const y = mirrored ? -up : up;
      return [at[0] + (x + start) * c - y * s, at[1] + (x + start) * s + y * c];
    };
    return outlinesOf(letter).flatMap((contour, o) =>
      contour.map((piece, p): Curve => {
        const points = piece.map(place);
        const base = { id: `${id}.${l}.${o}.${p}`, entity: id, closed: false };
        if (points.length === 2) return { ...base, shape: { kind: "line", from: points[0]!, to: points[1]! } };
        const degree = points.length - 1;
        const knots = [...Array(degree + 1).fill(0), ...Array(degree + 1).fill(1)] as number[];
        return { ...base, shape: { kind: "spline", poles: new Poles(points, knots, degree) } };
      }),
    );
  });
}
