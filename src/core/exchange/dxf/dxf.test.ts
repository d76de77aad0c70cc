import { DxfWriter, LWPolylineFlags, Units } from "@tarikjabiri/dxf";
import { describe, expect, test } from "vitest";
import { bringIn, curvesOf, pointAt, profileOf, type Sketch, SketchEdit, solveSketch } from "../../sketch";
import { messageOf } from "../../testing/harness";
import { readDxf, writeDxf } from ".";

const empty: Sketch = { entities: [], constraints: [], dimensions: [] };

/** A DXF file from its groups, as the DXF reference lays them out. */
function dxf(entities: string, header = "9\n$INSUNITS\n70\n4\n", blocks = ""): string {
  const section = (name: string, body: string) => `0\nSECTION\n2\n${name}\n${body}0\nENDSEC\n`;
  return `${section("HEADER", header)}${blocks ? section("BLOCKS", blocks) : ""}${section("ENTITIES", entities)}0\nEOF\n`;
}
const line = (x1: number, y1: number, x2: number, y2: number) =>
  `0\nLINE\n8\n0\n10\n${x1}\n20\n${y1}\n30\n0\n11\n${x2}\n21\n${y2}\n31\n0\n`;
const brought = (text: string, unit: "mm" | "inch" = "mm") => {
  const file = readDxf(text, unit);
  const { sketch } = bringIn(empty, file.curves);
  const state = solveSketch(sketch, () => 0);
  expect(state).toMatchObject({ met: true, conflicts: [] });
  const areas = profileOf(state.entities).regions.map(({ area }) => area);
  return { ...file, sketch, areas, types: sketch.entities.map(({ type }) => type).filter((type) => type !== "point") };
};

describe("reading", () => {
  test("lines that meet share their points and enclose what they did", () => {
    const { areas, sketch } = brought(
      dxf(line(0, 0, 30, 0) + line(30, 0, 30, 20) + line(30, 20, 0, 20) + line(0, 20, 0, 0)),
    );
    expect(areas).toEqual([600]);
    expect(sketch.entities.filter(({ type }) => type === "point")).toHaveLength(4);
  });

  test.each([
    ["inches", 1, 25.4],
    ["centimetres", 5, 10],
    ["metres", 6, 1000],
  ])("in %s", (unit, code, mm) => {
    const file = readDxf(dxf(line(0, 0, 2, 0), `9\n$INSUNITS\n70\n${code}\n`), "mm");
    expect(file.unit).toBe(unit);
    expect(file.curves[0]).toMatchObject({ curve: { to: [2 * mm, 0] } });
    expect(file.notes).toEqual([]);
  });

  test("without units it is read in the job's, and says so", () => {
    const file = readDxf(dxf(line(0, 0, 2, 0), ""), "inch");
    expect(file.curves[0]).toMatchObject({ curve: { to: [50.8, 0] } });
    expect(file.notes).toEqual(["The file names no unit; it was read in inches."]);
  });

  test("a polyline with bulges, written by another library: a slot of 30 by 10", () => {
    const writer = new DxfWriter();
    writer.setUnits(Units.Millimeters);
    const points = [
      [0, 0, 0],
      [20, 0, 1],
      [20, 10, 0],
      [0, 10, 1],
    ] as const;
    writer.addLWPolyline(
      points.map(([x, y, bulge]) => ({ point: { x, y }, bulge })),
      { flags: LWPolylineFlags.Closed },
    );
    const { areas, types } = brought(writer.stringify());
    expect(types.sort()).toEqual(["arc", "arc", "line", "line"]);
    expect(areas[0]).toBeCloseTo(200 + 25 * Math.PI, 9);
  });

  test("a bulge is tan of a quarter of the angle, either way round", () => {
    for (const [bulge, side] of [
      [Math.tan(Math.PI / 8), -1],
      [-Math.tan(Math.PI / 8), 1],
    ] as const) {
      const text = dxf(`0\nLWPOLYLINE\n8\n0\n90\n2\n70\n0\n10\n0\n20\n0\n42\n${bulge}\n10\n10\n20\n0\n`);
      const [curve] = curvesOf(brought(text).sketch.entities);
      expect(curve!.shape).toMatchObject({ kind: "arc", sweep: expect.closeTo(Math.PI / 2, 9) });
      // A quarter circle over a chord of 10 rises by 5 (√2 − 1).
      expect(pointAt(curve!, 0.5)[1]).toBeCloseTo(side * 5 * (Math.SQRT2 - 1), 9);
    }
  });

  test("circles, arcs, ellipses and part of one, points", () => {
    const text = dxf(
      "0\nCIRCLE\n8\n0\n10\n5\n20\n6\n40\n3\n" +
        "0\nARC\n8\n0\n10\n50\n20\n0\n40\n10\n50\n350\n51\n80\n" +
        "0\nELLIPSE\n8\n0\n10\n100\n20\n0\n11\n0\n21\n20\n40\n0.5\n41\n0\n42\n6.283185307179586\n" +
        "0\nELLIPSE\n8\n0\n10\n200\n20\n0\n11\n20\n21\n0\n40\n0.5\n41\n0\n42\n3.141592653589793\n" +
        "0\nPOINT\n8\n0\n10\n7\n20\n8\n30\n0\n",
    );
    const { types, areas, sketch } = brought(text);
    expect(types).toEqual(["circle", "arc", "ellipse", "ellipse"]);
    expect(areas[0]).toBeCloseTo(9 * Math.PI, 9);
    expect(areas[1]).toBeCloseTo(200 * Math.PI, 7);
    const curves = curvesOf(sketch.entities);
    expect((curves[1]!.shape as { sweep: number }).sweep).toBeCloseTo(Math.PI / 2, 12);
    const half = pointAt(curves[3]!, 0.5);
    expect(half[0]).toBeCloseTo(200, 9);
    expect(half[1]).toBeCloseTo(10, 9);
    expect(sketch.entities.at(-1)).toMatchObject({ type: "point", x: 7, y: 8 });
  });

  test("a spline by its poles and knots, exactly; a rational one through points, with how far off", () => {
    const poles = [
      [0, 0],
      [10, 12],
      [20, -5],
      [30, 4],
    ];
    const spline = (weights: number[]) =>
      dxf(
        `0\nSPLINE\n8\n0\n70\n8\n71\n3\n72\n8\n73\n4\n${[0, 0, 0, 0, 2, 2, 2, 2].map((k) => `40\n${k}\n`).join("")}${weights.map((w) => `41\n${w}\n`).join("")}${poles.map(([x, y]) => `10\n${x}\n20\n${y}\n30\n0\n`).join("")}`,
      );
    const { sketch, notes } = brought(spline([]));
    expect(notes).toEqual([]);
    const [curve] = curvesOf(sketch.entities);
    // A Bézier curve at its middle: (P0 + 3 P1 + 3 P2 + P3) / 8.
    expect(pointAt(curve!, 0.5)[0]).toBeCloseTo(15, 12);
    expect(pointAt(curve!, 0.5)[1]).toBeCloseTo((36 - 15 + 4) / 8, 12);
    expect(brought(spline([1, 1, 1, 1])).notes).toEqual([]);
    const rational = brought(spline([1, 2, 2, 1]));
    expect(rational.notes[0]).toMatch(
      /^A rational spline has no exact form in a sketch; it is drawn to within .* mm\.$/,
    );
  });

  test("blocks are put where they are inserted, turned and scaled; seen from behind, mirrored", () => {
    const block = `0\nBLOCK\n8\n0\n2\nHOLE\n70\n0\n10\n1\n20\n0\n30\n0\n3\nHOLE\n0\nCIRCLE\n8\n0\n10\n3\n20\n0\n40\n1\n0\nENDBLK\n8\n0\n`;
    const insert = `0\nINSERT\n8\n0\n2\nHOLE\n10\n100\n20\n50\n30\n0\n41\n2\n42\n2\n50\n90\n`;
    const [curve] = readDxf(dxf(insert, undefined, block), "mm").curves;
    expect(curve).toMatchObject({ curve: { kind: "arc", radius: 2 } });
    const { centre } = (curve as unknown as { curve: { centre: [number, number] } }).curve;
    expect(centre[0]).toBeCloseTo(100, 9);
    expect(centre[1]).toBeCloseTo(54, 9);
    const behind = `0\nARC\n8\n0\n10\n50\n20\n0\n40\n10\n50\n0\n51\n90\n210\n0\n220\n0\n230\n-1\n`;
    const [seen] = curvesOf(bringIn(empty, readDxf(dxf(behind), "mm").curves).sketch.entities);
    expect(pointAt(seen!, 0.5)[0]).toBeCloseTo(-50 - 10 * Math.SQRT1_2, 9);
  });

  test("what is not drawn is told", () => {
    const text = dxf(
      `${line(0, 0, 1, 0)}0\nTEXT\n8\n0\n10\n0\n20\n0\n40\n3\n1\nhello\n0\nTEXT\n8\n0\n10\n0\n20\n0\n40\n3\n1\nx\n`,
    );
    expect(readDxf(text, "mm").notes).toEqual(["Left out: 2 entities of the kind TEXT."]);
  });
});

describe("what cannot be used says so in one sentence", () => {
  test.each([
    ["not a DXF", "hello", "This is no DXF file"],
    ["nothing", "", "This is no DXF file"],
    ["binary", "Some Binary DXF\r\n\u001a\0", "This is a binary DXF"],
    ["cut short", dxf(line(0, 0, 1, 0)).slice(0, -30), "broken or cut short"],
    ["no curves", dxf(""), "holds no lines or curves"],
    [
      "50,000 lines",
      dxf(Array.from({ length: 50_000 }, (_, i) => line(i, 0, i, 1)).join("")),
      "This file holds 50,000 curves",
    ],
  ])("%s", (_name, text, words) => {
    expect(messageOf(() => readDxf(text, "mm"))).toContain(words);
  });
});

describe("writing", () => {
  test("every kind of curve out and in again, to a billionth", () => {
    const edit = new SketchEdit(empty);
    edit.line([0, 0], [10, 3]);
    edit.circle([20, 0], 4);
    edit.arc([40, 0], [45, 0], [40, 5]);
    edit.ellipse([60, 0], [60, 8], 3);
    edit.ellipse([80, 0], [83, 0], 7);
    edit.spline(
      [
        [100, 0],
        [105, 5],
        [110, -5],
        [115, 2],
      ],
      "through",
    );
    edit.spline(
      [
        [120, 0],
        [125, 5],
        [130, -5],
        [135, 2],
      ],
      "control",
      true,
    );
    edit.text([140, 0], [160, 0], "Pier", 6);
    const text = writeDxf(edit.entities);
    const back = bringIn(empty, readDxf(text, "mm").curves).sketch;
    const [before, after] = [curvesOf(edit.entities), curvesOf(back.entities)];
    expect(after).toHaveLength(before.length);
    before.forEach((curve, i) => {
      for (const t of [0, 0.2, 0.5, 0.9]) {
        const p = pointAt(curve, t);
        const near = Math.min(
          ...Array.from({ length: 2001 }, (_, k) => {
            const q = pointAt(after[i]!, k / 2000);
            return Math.hypot(p[0] - q[0], p[1] - q[1]);
          }),
        );
        expect(near).toBeLessThan(0.02);
      }
      expect(after[i]!.shape.kind).toBe(curve.shape.kind);
    });
    const area = (entities: typeof edit.entities) =>
      profileOf(entities)
        .regions.map((region) => region.area)
        .sort((a, b) => a - b);
    area(edit.entities).forEach((value, i) => {
      expect(area(back.entities)[i]! / value).toBeCloseTo(1, 7);
    });
  });

  test("what only helps lies on a layer of its own", () => {
    const edit = new SketchEdit(empty);
    const id = edit.line([0, 0], [10, 3]);
    edit.asConstruction([id], true);
    edit.line([0, 5], [10, 5]);
    const layers = [...writeDxf(edit.entities).matchAll(/0\nLINE\n(?:.*\n)*?8\n(\w+)\n/g)].map(([, layer]) => layer);
    expect(layers).toEqual(["HELP", "OUTLINES"]);
  });
});
