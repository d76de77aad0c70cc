import { beforeAll, describe, expect, test } from "vitest";
import { boxOf, freeShape, isValid, volumeOf } from "../../kernel";
import { loadNodeKernel } from "../../kernel/library/node";
import { buildSteps, messageOf, relative } from "../../testing/harness";
import { blockFile } from "../../testing/step-text";
import { inspectStep } from "../inspect";
import { readStep, writeStep } from ".";
import { parseRecords, readString, writeString } from "./part21";

beforeAll(loadNodeKernel);

const bytes = (text: string) => new TextEncoder().encode(text);

describe("out and in again", () => {
  test("count, volumes to 1e-6 and names are the same", () => {
    const built = buildSteps(
      { id: "a", type: "box", size: [30, 20, 10] },
      { id: "b", type: "sphere", diameter: 12, at: [0, 0, 10] },
      { id: "c", type: "cylinder", diameter: 8, height: 30, at: [40, 0, 0] },
      { id: "s", type: "seam", preset: "subtract", stock: ["a"], cutters: ["b"] },
      { id: "f", type: "offset-sheet", faces: [{ body: "c:cylinder", face: "c:side" }], distance: 2, extend: 3 },
    );
    const names = ["Pad “A” Ø30 (½ in)", "O'Brien's pin \\ 2", "台座", "Sheet"];
    const bodies = built.bodies.map((body, i) => ({ name: names[i]!, shape: body.shape }));
    const text = writeStep(bodies, "Prüf\\stück");
    expect(/^[\x20-\x7E\r\n]*$/.test(text)).toBe(true);
    const back = readStep(bytes(text), "back.step");
    expect(back.unit).toBe("mm");
    expect(back.bodies.map((body) => body.name).sort()).toEqual([...names].sort());
    for (const body of back.bodies) {
      const before = built.bodies[names.indexOf(body.name)]!;
      expect(body.kind).toBe(before.kind);
      expect(relative(volumeOf(body.shape), volumeOf(before.shape))).toBeLessThan(1e-6);
      expect(isValid(body.shape)).toBe(true);
      freeShape(body.shape);
    }
  });
});

describe("files from elsewhere", () => {
  test.each([
    ["mm", 1],
    ["inch", 25.4],
    ["metre", 1000],
  ] as const)("%s", (unit, factor) => {
    const { bodies, unit: named } = readStep(bytes(blockFile({ size: [2, 3, 0.5], unit })), "block.stp");
    expect(named).toBe(unit);
    expect(bodies).toHaveLength(1);
    expect(relative(volumeOf(bodies[0]!.shape), 3 * factor ** 3)).toBeLessThan(1e-9);
    expect(boxOf(bodies[0]!.shape)!.max[1]).toBeCloseTo(3 * factor, 6);
    freeShape(bodies[0]!.shape);
  });

  test("records in any order, numbers with gaps; the product gives the name", () => {
    const { bodies } = readStep(
      bytes(blockFile({ size: [1, 1, 1], reversed: true, product: "Rear \\X2\\00D8\\X0\\12 foot", body: "NONE" })),
      "x.step",
    );
    expect(bodies.map((body) => body.name)).toEqual(["Rear Ø12 foot"]);
    freeShape(bodies[0]!.shape);
  });

  test("a nameless product falls back to the body's name, then to the file's", () => {
    const name = (options: Partial<Parameters<typeof blockFile>[0]>) => {
      const { bodies } = readStep(bytes(blockFile({ size: [1, 1, 1], ...options })), "from disk.step");
      freeShape(bodies[0]!.shape);
      return bodies[0]!.name;
    };
    expect(name({ product: "", body: "Lid" })).toBe("Lid");
    expect(name({ product: "", body: "" })).toBe("from disk");
  });

  test("what inspect prints", () => {
    const { bodies, unit } = inspectStep(
      bytes(blockFile({ size: [1, 2, 4], unit: "inch", product: "Bar" })),
      "bar.step",
    );
    expect(unit).toBe("inch");
    expect(bodies[0]).toMatchObject({
      name: "Bar",
      kind: "solid",
      closed: true,
      openEdges: 0,
      faceKinds: { plane: 6 },
    });
    expect(bodies[0]!.area).toBeCloseTo(28 * 25.4 ** 2, 4);
  });
});

describe("bad files: one clear sentence each", () => {
  const good = blockFile({ size: [1, 1, 1] });
  test("empty", () =>
    expect(messageOf(() => readStep(new Uint8Array(), "a.step"))).toBe(
      "“a.step” is empty (0 bytes). Export it again.",
    ));
  test("truncated", () =>
    expect(messageOf(() => readStep(bytes(good.slice(0, good.length * 0.6)), "a.step"))).toBe(
      "“a.step” breaks off before its end. Copy or export it again.",
    ));
  test("truncated in the middle but with an end", () =>
    expect(
      messageOf(() => readStep(bytes(`${good.slice(0, good.length * 0.6)}\nENDSEC;\nEND-ISO-10303-21;`), "a.step")),
    ).toMatch(/^“a.step” (is damaged|holds no solids)/));
  test("without geometry", () =>
    expect(
      messageOf(() =>
        readStep(bytes(good.replace(/=MANIFOLD_SOLID_BREP\('',#\d+\)/, "=REPRESENTATION_ITEM('')")), "a.step"),
      ),
    ).toMatch(/^“a.step” holds no solids or sheets\./));
  test("an STL, text and binary", () => {
    const text = "solid cube\n facet normal 0 0 1\n outer loop\n vertex 0 0 0\n";
    expect(messageOf(() => readStep(bytes(text), "a.step"))).toContain("is an STL mesh");
    const binary = new Uint8Array(84 + 50);
    binary[80] = 1;
    expect(messageOf(() => readStep(binary, "a.step"))).toContain("is an STL mesh");
  });
  test("60 MB of noise", () => {
    const noise = new Uint8Array(60 * 1024 * 1024);
    let x = 1;
    for (let i = 0; i < noise.length; i++) {
      x = (x * 1103515245 + 12345) & 0x7fffffff;
      noise[i] = x >> 16;
    }
    expect(messageOf(() => readStep(noise, "a.step"))).toContain("is not a STEP file");
    noise.set(bytes("ISO-10303-21;\nHEADER;\n"), 0);
    noise.set(bytes("\nEND-ISO-10303-21;\n"), noise.length - 24);
    expect(messageOf(() => readStep(noise, "a.step"))).toMatch(/is damaged|holds no solids/);
  });
});

describe("strings of ISO 10303-21", () => {
  test.each(["plain", "it's", "Ø30 ½ in", "台座 🔩", "back\\slash", ""])("%s survives", (text) => {
    expect(readString(writeString(text))).toBe(text);
  });
  test("the examples of ISO 10303-21, 6.4.3 (from memory)", () => {
    expect(readString("'don''t'")).toBe("don't");
    expect(readString("'see \\X\\A7 4.1'")).toBe("see § 4.1");
    expect(readString("'\\S\\Drger'")).toBe("Ärger");
  });
  test("records: comments, strings with semicolons and brackets, complex records", () => {
    const text =
      "ISO-10303-21;\nDATA;\n#1=A('x;y)''(',#2);/* #9=B(); */\n#2 = ( B() C('(') );\nENDSEC;\nEND-ISO-10303-21;";
    expect(parseRecords(bytes(text)).map(({ id, types }) => [id, types])).toEqual([
      [1, ["A"]],
      [2, ["B", "C"]],
    ]);
  });
});

test("a file that is no UTF-8 is read as Windows writes letters: names keep them", () => {
  const text = blockFile({ size: [10, 20, 30], product: "Gehäuse für Größe 5 – links" });
  // Of all signs in it only the dash is not in Latin-1: Windows has a place of its own for it.
  const bytes = Uint8Array.from(text, (sign) => (sign === "–" ? 0x96 : sign.charCodeAt(0)));
  const { bodies } = readStep(bytes, "case.step");
  expect(bodies.map(({ name }) => name)).toEqual(["Gehäuse für Größe 5 – links"]);
  for (const { shape } of bodies) freeShape(shape);
  const again = readStep(new TextEncoder().encode(text), "case.step").bodies;
  expect(again.map(({ name }) => name)).toEqual(["Gehäuse für Größe 5 – links"]);
  for (const { shape } of again) freeShape(shape);
});
