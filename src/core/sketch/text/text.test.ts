import { readFileSync } from "node:fs";
import opentype from "opentype.js";
import { describe, expect, test } from "vitest";
import { curvesOf, pointAt, type Vec2 } from "../curves";
import { SketchEdit } from "../edit/sketch-edit";
import { profileOf } from "../item";
import { filledRegions } from "../profile/regions";
import { missingLetters, textWidth } from ".";

const written = (text: string, height = 7, at: Vec2 = [0, 0], along: Vec2 = [10, 0]) => {
  const edit = new SketchEdit({ entities: [], constraints: [], dimensions: [] });
  edit.text(at, along, text, height);
  return edit.entities;
};

// The font's own file, read by another library: opentype.js.
const file = readFileSync("node_modules/@fontsource/barlow/files/barlow-latin-500-normal.woff");
const font = opentype.parse(file.buffer.slice(file.byteOffset, file.byteOffset + file.byteLength) as ArrayBuffer);

/** The area of letters as their font draws them: Green's theorem on each line and Bézier curve, holes taken off. */
function areaByFont(text: string, height: number): number {
  const capital = font.charToGlyph("H").getBoundingBox().y2;
  let area = 0;
  for (const letter of text) {
    let [x, y, x0, y0] = [0, 0, 0, 0];
    for (const c of font.charToGlyph(letter).path.commands) {
      if (c.type === "M") [x0, y0] = [c.x, c.y];
      else if (c.type === "Q") area += (x * (c.y1 * 2 + c.y) + c.x1 * 2 * (c.y - y) - c.x * (y + 2 * c.y1)) / 6;
      else if (c.type === "Z") area += (x * y0 - x0 * y) / 2;
      else area += (x * (c as { y: number }).y - (c as { x: number }).x * y) / 2;
      [x, y] = c.type === "Z" ? [x0, y0] : [c.x, c.y];
    }
  }
  return Math.abs(area) * (height / capital) ** 2;
}

describe("lettering", () => {
  test.each(["H", "O", "B8", "Star Pier", "Ø 40 ±0,1", "&%@", "äöüß"])("“%s” fills what its font fills", (text) => {
    const regions = filledRegions(profileOf(written(text)));
    expect(regions.reduce((sum, { area }) => sum + area, 0) / areaByFont(text, 7)).toBeCloseTo(1, 9);
  });

  test("a letter's holes are holes, and capitals are as high as asked", () => {
    const profile = profileOf(written("B", 7));
    expect(filledRegions(profile)).toHaveLength(1);
    expect(filledRegions(profile)[0]!.holes).toHaveLength(2);
    const ys = curvesOf(written("H", 7)).map((curve) => pointAt(curve, 0)[1]);
    expect(Math.max(...ys)).toBeCloseTo(7, 12);
    expect(Math.min(...ys)).toBe(0);
  });

  test("as wide as the font says, with its kerning", () => {
    const capital = font.charToGlyph("H").getBoundingBox().y2;
    for (const text of ["Star Pier", "AVATAR", "To"])
      expect(textWidth(text, 10)).toBeCloseTo((font.getAdvanceWidth(text, font.unitsPerEm) * 10) / capital, 6);
  });

  test("along its line, turned", () => {
    const [level, upright] = [written("F", 10), written("F", 10, [0, 0], [0, 5])];
    curvesOf(level).forEach((curve, i) => {
      const [x, y] = pointAt(curve, 0);
      const [u, v] = pointAt(curvesOf(upright)[i]!, 0);
      expect(u).toBeCloseTo(-y, 12);
      expect(v).toBeCloseTo(x, 12);
    });
  });

  test("letters that it has not are told", () => {
    expect(missingLetters("Pier 天文天")).toEqual(["天", "文"]);
  });
});
