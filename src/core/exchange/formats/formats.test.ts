import { readFileSync } from "node:fs";
import { createRequire } from "node:module";
import path from "node:path";
import { strFromU8, unzipSync } from "fflate";
import { beforeAll, describe, expect, test } from "vitest";
import { readStepShapes } from "../../kernel";
import { loadNodeKernel } from "../../kernel/library/node";
import { buildSteps, messageOf } from "../../testing/harness";
import { fourBodies, outOptions as options, sixfold } from "../../testing/out-bodies";
import { OUT_FORMATS, type OutItem, outItems, takes, writeItems } from ".";

beforeAll(loadNodeKernel);

const LINE: OutItem = {
  name: "Line",
  kind: "curve",
  colour: null,
  spans: [{ id: "a", kind: "line", from: [0, 0, 0], to: [10, 0, 0] }],
};

interface Read3mf {
  name: string;
  sound: boolean;
  volume: number;
  colour: string | null;
}

/** Read by the 3MF Consortium's own library, in its strict mode. */
async function readBy3mf(bytes: Uint8Array): Promise<{ warnings: number; inMillimetres: boolean; objects: Read3mf[] }> {
  const lib3mf = createRequire(import.meta.url)("@3mfconsortium/lib3mf");
  // biome-ignore lint/suspicious/noExplicitAny: the library has no types.
  const library: any = await lib3mf();
  const wrapper = new library.CWrapper();
  const model = wrapper.CreateModel();
  const reader = model.QueryReader("3mf");
  reader.SetStrictModeActive(true);
  library.FS.writeFile("/read.3mf", bytes);
  reader.ReadFromFile("/read.3mf");
  const objects: Read3mf[] = [];
  const each = model.GetMeshObjects();
  while (each.MoveNext()) {
    const object = each.GetCurrentMeshObject();
    const corner = (i: number) => {
      const place = object.GetVertex(i);
      return [place.get_Coordinates0(), place.get_Coordinates1(), place.get_Coordinates2()] as number[];
    };
    let sum = 0;
    for (let t = 0; t < object.GetTriangleCount(); t++) {
      const triangle = object.GetTriangle(t);
      sum += sixfold(corner(triangle.get_Indices0()), corner(triangle.get_Indices1()), corner(triangle.get_Indices2()));
    }
    const look = object.GetObjectLevelProperty();
    let colour: string | null = null;
    if (look.return) {
      const shade = model.GetBaseMaterialGroupByID(look.UniqueResourceID).GetDisplayColor(look.PropertyID);
      const parts: number[] = [shade.get_Red(), shade.get_Green(), shade.get_Blue()];
      colour = `#${parts.map((part) => part.toString(16).padStart(2, "0")).join("")}`;
    }
    objects.push({
      name: object.GetName(),
      sound: object.IsValid() && object.IsManifoldAndOriented(),
      volume: sum / 6,
      colour,
    });
  }
  return {
    warnings: reader.GetWarningCount(),
    inMillimetres: model.GetUnit() === library.eModelUnit.MilliMeter,
    objects,
  };
}

test.each(["stl", "obj", "3mf"])("%s: a solid of which a face has no triangles is refused by name", (format) => {
  const require = createRequire(import.meta.url);
  const file = path.join(
    path.dirname(require.resolve("occt-import-js/package.json")),
    "test/testfiles/conical-surface",
  );
  // As the library reads it: one image of an edge is off its line by the last digit, and the cone has no triangles.
  const { shape } = readStepShapes(new Uint8Array(readFileSync(path.join(file, "conical-surface.step")))).shapes[0]!;
  const out: OutItem[] = [{ name: "Bush", kind: "solid", colour: null, shape }];
  expect(messageOf(() => writeItems(format, out, options))).toMatch(/^The triangles of Bush do not close/);
});

describe("bodies as files of triangles", () => {
  test("3MF: read by the reference library without a warning, closed, with names, colours and volumes", async () => {
    const { out, volumes } = fourBodies();
    const { warnings, inMillimetres, objects } = await readBy3mf(writeItems("3mf", out, options));
    expect(warnings).toBe(0);
    expect(inMillimetres).toBe(true);
    expect(objects.map(({ name }) => name)).toEqual(["Ball & “post” <2>", "Block", "Tube"]);
    for (const { name, sound, volume } of objects) {
      expect(sound, name).toBe(true);
      expect(Math.abs(volume / volumes.get(name)! - 1), name).toBeLessThan(5e-3);
    }
    expect(objects.map(({ colour }) => colour)).toEqual(["#b8694a", null, null]);
  });

  test("3MF: the unit and the title stand in the model; signs that XML has no place for are left out", () => {
    const { out } = fourBodies();
    const odd = { ...out[1]!, name: `A\u0000\u0007${"é".repeat(60)}"'` };
    const files = unzipSync(writeItems("3mf", [odd], options));
    expect(Object.keys(files).sort()).toEqual(["3D/3dmodel.model", "[Content_Types].xml", "_rels/.rels"]);
    const model = strFromU8(files["3D/3dmodel.model"]!);
    expect(model).toContain('unit="millimeter"');
    expect(model).toContain('<metadata name="Title">Foot &lt;1&gt; &amp; “more”</metadata>');
    expect(model).toContain(`name="A  ${"é".repeat(60)}&quot;'"`);
  });

  test("3MF: a body that touches itself along an edge is refused by its name: the format allows none", () => {
    const { bench } = buildSteps(
      { id: "block", type: "box", size: [40, 40, 20] },
      { id: "bore", type: "cylinder", diameter: 20, height: 40, at: [-10, 0, -5] },
      { id: "cut", type: "seam", preset: "subtract", stock: ["block"], cutters: ["bore"], keepCutters: false },
    );
    const out = outItems({ looks: {} }, bench);
    expect(messageOf(() => writeItems("3mf", out, options))).toMatch(/^Block touches itself along an edge.*3MF/);
  });
});

describe("every format", () => {
  test("is written by its writer, in its own form", () => {
    const out = [...fourBodies().out, LINE];
    const begins: Record<string, string> = {
      step: "ISO-10303-21",
      "3mf": "PK",
      stl: "STL mm",
      obj: "# Foot",
      dxf: "0\n",
    };
    for (const { id } of OUT_FORMATS)
      expect(new TextDecoder("latin1").decode(writeItems(id, out, options)).slice(0, 12), id).toContain(begins[id]);
  });

  test("says what is wrong: no body, sheets alone, a tolerance that is none, another format", () => {
    const { out } = fourBodies();
    const sheets = out.filter(({ kind }) => kind === "sheet");
    for (const format of OUT_FORMATS) {
      expect(messageOf(() => writeItems(format.id, [], options))).toMatch(/no body is picked/);
      if (!takes(format, "solid"))
        expect(messageOf(() => writeItems(format.id, out, options))).toMatch(/holds curves, and none is picked/);
      else if (!takes(format, "sheet"))
        expect(messageOf(() => writeItems(format.id, sheets, options))).toMatch(/sheets have no inside/);
      if (!takes(format, "curve"))
        expect(messageOf(() => writeItems(format.id, [LINE], options))).toMatch(/curves have no faces/);
      if (!format.exact)
        for (const tolerance of [0, -1, 11, Number.NaN])
          expect(messageOf(() => writeItems(format.id, out, { ...options, tolerance }))).toMatch(/tolerance/);
    }
    expect(messageOf(() => writeItems("dwg", out, options))).toMatch(/“dwg” is no format/);
  });
});
