import { svgPathProperties } from "svg-path-properties";
import { describe, expect, test } from "vitest";
import { bringIn, type Curve, curvesOf, pointAt, profileOf, type Sketch, SketchEdit, type Vec2 } from "../../sketch";
import { messageOf } from "../../testing/harness";
import { readSvg, writeSvg } from ".";

const empty: Sketch = { entities: [], constraints: [], dimensions: [] };
const svg = (body: string, attributes = 'width="100mm" height="50mm" viewBox="0 0 100 50"') =>
  `<?xml version="1.0"?>\n<svg xmlns="http://www.w3.org/2000/svg" ${attributes}>${body}</svg>`;
const drawn = (text: string) => curvesOf(bringIn(empty, readSvg(text).curves).sketch.entities);
const areas = (text: string) =>
  profileOf(bringIn(empty, readSvg(text).curves).sketch.entities).regions.map(({ area }) => area);
const lengthOf = (curve: Curve): number => {
  let sum = 0;
  for (let i = 0; i < 4000; i++) {
    const [p, q] = [pointAt(curve, i / 4000), pointAt(curve, (i + 1) / 4000)];
    sum += Math.hypot(p[0] - q[0], p[1] - q[1]);
  }
  return sum;
};
const round = (at: Vec2) => at.map((value) => Math.round(value * 1e6) / 1e6 + 0);

describe("reading", () => {
  test("each shape encloses what it should; Y runs up from the lower edge", () => {
    expect(areas(svg('<rect x="10" y="10" width="30" height="20"/>'))).toEqual([600]);
    expect(areas(svg('<rect x="10" y="10" width="30" height="20" rx="5"/>'))[0]).toBeCloseTo(
      600 - (100 - 25 * Math.PI),
      9,
    );
    expect(areas(svg('<circle cx="20" cy="20" r="6"/>'))[0]).toBeCloseTo(36 * Math.PI, 9);
    expect(areas(svg('<ellipse cx="20" cy="20" rx="10" ry="5"/>'))[0]).toBeCloseTo(50 * Math.PI, 7);
    expect(areas(svg('<polygon points="0,0 10,0 10,10"/>'))).toEqual([50]);
    expect(round(pointAt(drawn(svg('<line x1="0" y1="10" x2="5" y2="10"/>'))[0]!, 1))).toEqual([5, 40]);
    expect(drawn(svg('<polyline points="0,0 10,0 10,10"/>'))).toHaveLength(2);
  });

  // Lengths by another library: svg-path-properties.
  test.each([
    "M10 10C20 0 30 40 45 12",
    "M10 10Q20 0 45 12T80 20",
    "M10 20A15 8 30 0 1 40 30",
    "M10 20A15 8 30 1 0 40 30",
    "M10 20A5 5 0 0 1 40 30",
    "m10 10c10 -10 20 30 35 2s10 5 20 5",
    "M5 5h20v10l-5 5z",
  ])("the path %s is as long as another library finds it", (d) => {
    const sum = drawn(svg(`<path d="${d}"/>`)).reduce((total, curve) => total + lengthOf(curve), 0);
    expect(sum / new svgPathProperties(d).getTotalLength()).toBeCloseTo(1, 4);
  });

  test("transforms, one in another", () => {
    const text = svg(
      '<g transform="translate(50 25)"><circle transform="rotate(90) scale(2)" cx="5" cy="0" r="3"/></g>',
    );
    const [curve] = drawn(text);
    expect(curve!.shape).toMatchObject({ kind: "arc", radius: expect.closeTo(6, 9) });
    expect(round((curve!.shape as { centre: Vec2 }).centre)).toEqual([50, 15]);
    // Stretched one way a circle is an ellipse.
    expect(areas(svg('<circle transform="matrix(2 0 0.5 1 10 10)" cx="5" cy="5" r="3"/>'))[0]).toBeCloseTo(
      18 * Math.PI,
      7,
    );
    const skewed = drawn(svg('<line transform="skewX(45)" x1="0" y1="0" x2="0" y2="10"/>'));
    expect(round(pointAt(skewed[0]!, 1))).toEqual([10, 40]);
  });

  test.each([
    ['width="10in" height="5in" viewBox="0 0 100 50"', 25.4],
    ['width="96" height="48"', 2.54],
    ['viewBox="0 0 96 48"', 2.54],
    ['width="100cm" height="50cm" viewBox="0 0 1000 500"', 10],
  ])("units: %s", (attributes, ten) => {
    const [curve] = drawn(svg('<line x1="0" y1="0" x2="10" y2="0"/>', attributes));
    expect(lengthOf(curve!)).toBeCloseTo(ten === 2.54 ? (10 * 25.4) / 96 : ten, 6);
  });

  test("what is not read, and pixels, are told", () => {
    const text = svg('<text x="1" y="1">hello</text><line x1="0" y1="0" x2="1" y2="0"/>', 'width="10" height="10"');
    expect(readSvg(text).notes).toEqual([
      "Left out: 1 of the kind text.",
      "The file counts in pixels; 96 of them were taken as an inch.",
    ]);
  });

  test.each([
    ["not an SVG", "hello", "This is no SVG file"],
    ["cut short", svg('<line x1="0" y1="0" x2="1" y2="0"/>').slice(0, -12), "broken or cut short"],
    ["a path that cannot be read", svg('<path d="M0 0 L x y"/>'), "cannot be read"],
    ["nothing drawn", svg(""), "holds no lines or curves"],
    ["too much", svg(Array(2001).fill('<line x1="0" y1="0" x2="1" y2="0"/>').join("")), "holds 2,001 curves"],
  ])("%s is refused with one sentence", (_name, text, words) => {
    expect(messageOf(() => readSvg(text))).toContain(words);
  });
});

test("written, it reads again as the same curves", () => {
  const edit = new SketchEdit(empty);
  edit.line([0, 0], [10, 3]);
  edit.circle([20, 0], 4);
  edit.arc([40, 0], [45, 0], [40, -5]);
  edit.ellipse([60, 0], [60, 8], 3);
  edit.spline(
    [
      [100, 0],
      [105, 5],
      [110, -5],
      [115, 2],
    ],
    "through",
  );
  edit.text([140, 0], [160, 0], "Bo", 6);
  const text = writeSvg(edit.entities);
  expect(text).toContain('width="');
  const sum = (curves: Curve[]) => curves.reduce((total, curve) => total + lengthOf(curve), 0);
  expect(sum(drawn(text)) / sum(curvesOf(edit.entities))).toBeCloseTo(1, 6);
  const filled = (values: number[]) => values.reduce((a, b) => a + b, 0);
  expect(filled(areas(text)) / filled(profileOf(edit.entities).regions.map(({ area }) => area))).toBeCloseTo(1, 6);
});
