// Writes the outlines of the lettering font for the core, which reads no files: glyphs as path data in font units, and
// the kerning that is not nothing. Run it again when the font package changes: npx tsx scripts/make-font.ts
import { readFileSync, writeFileSync } from "node:fs";
import opentype from "opentype.js";

const SOURCE = "node_modules/@fontsource/barlow/files/barlow-latin-500-normal.woff";
const file = readFileSync(SOURCE);
const font = opentype.parse(file.buffer.slice(file.byteOffset, file.byteOffset + file.byteLength) as ArrayBuffer);

const characters: string[] = [];
for (let code = 0x20; code < 0x2500; code++) {
  const character = String.fromCharCode(code);
  const known = font.charToGlyphIndex(character) > 0;
  if (known && !(code >= 0x7f && code < 0xa0)) characters.push(character);
}

const path = (character: string) =>
  font
    .charToGlyph(character)
    .path.commands.map((c) => {
      if (c.type === "M" || c.type === "L") return `${c.type}${c.x} ${c.y}`;
      if (c.type === "Q") return `Q${c.x1} ${c.y1} ${c.x} ${c.y}`;
      if (c.type === "C") return `C${c.x1} ${c.y1} ${c.x2} ${c.y2} ${c.x} ${c.y}`;
      return "Z";
    })
    .join("");

const glyphs = Object.fromEntries(
  characters.map((character) => [character, [font.charToGlyph(character).advanceWidth ?? 0, path(character)]]),
);
const kerning: Record<string, number> = {};
const letters = characters.filter((character) => /[A-Za-z0-9.,'"-]/.test(character));
for (const a of letters)
  for (const b of letters) {
    const by = font.getKerningValue(font.charToGlyph(a), font.charToGlyph(b));
    if (by !== 0) kerning[a + b] = by;
  }
const capital = font.charToGlyph("H").getBoundingBox();
const out = { name: "Barlow Medium", capital: capital.y2, glyphs, kerning };
const lines = Object.entries(out).map(([key, value]) => {
  if (key !== "glyphs") return `${JSON.stringify(key)}:${JSON.stringify(value)}`;
  const each = Object.entries(value).map((entry) => `${JSON.stringify(entry[0])}:${JSON.stringify(entry[1])}`);
  return `"glyphs":{\n${each.join(",\n")}\n}`;
});
writeFileSync("src/core/sketch/text/barlow-medium.json", `{${lines.join(",\n")}}\n`);
console.log(`${characters.length} glyphs, ${Object.keys(kerning).length} pairs`);
