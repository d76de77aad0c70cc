import { readFileSync } from "node:fs";
import path from "node:path";
import { beforeAll, describe, expect, test } from "vitest";
import { pairOf } from "../fit/audit";
import type { SketchItem } from "../items";
import { parseJob } from "../job";
import { allFaceFacts } from "../kernel";
import { loadNodeKernel } from "../kernel/library/node";
import { filledRegions, profileOf } from "../sketch";
import { build } from "../testing/harness";
import { Random } from "../testing/trust/random";

beforeAll(loadNodeKernel);

const folder = path.join(process.cwd(), "demo");
const job = () => parseJob(readFileSync(path.join(folder, "star-pier.json"), "utf8"));

/** A part of the demo job, with the job's parameters, some of them changed. */
function partOf(id: string, changed: Record<string, number> = {}) {
  const document = job();
  for (const parameter of document.parameters) parameter.formula = changed[parameter.name] ?? parameter.formula;
  // The first is built; the others are there to bring something in from.
  document.parts.sort((one, other) => Number(other.id === id) - Number(one.id === id));
  return build(document, { file: () => new Uint8Array(readFileSync(path.join(folder, "foot-pad.step"))) });
}

const slotArea = (length: number, width: number) => (length - width) * width + (Math.PI * width * width) / 4;

describe("the demo job", () => {
  test("every part builds without a warning", () => {
    for (const { id } of job().parts) expect(partOf(id).steps.map(({ state }) => state)).not.toContain("failed");
    for (const id of ["top-plate", "tray", "flask", "hub", "cradle", "strap"])
      expect(new Set(partOf(id).steps.map(({ state }) => state))).toEqual(new Set(["good"]));
  });

  test.each([150, 180, 270])("the top plate of width %d, by closed form", (plateWidth) => {
    const built = partOf("top-plate", { plateWidth, slotLength: 1 });
    const area =
      plateWidth * ((plateWidth * 2) / 3) - (4 - Math.PI) * 256 - slotArea(25.4, 10) - (Math.PI / 4) * 39.6875 ** 2;
    expect(built.reports[0]).toMatchObject({ name: "Top plate", genus: 2, valid: true });
    const legend = built.bench.find(({ item }) => item.id === "legend:sketch")!.item as SketchItem;
    const letters = filledRegions(profileOf(legend.entities)).reduce((sum, region) => sum + region.area, 0);
    expect(letters).toBeGreaterThan(20);
    expect(built.reports[0]!.volume).toBeCloseTo(area * 8 - letters * 0.4, 4);
  });

  test("one cable slot, drawn once, goes through plate and tray: after each of 20 edits both openings are the same to 1e-9 mm", () => {
    const random = new Random(1201);
    for (let edit = 0; edit < 20; edit++) {
      const changed = {
        slotLength: random.between(0.8, 1.9),
        slotWidth: random.between(6, 14),
        plateWidth: random.between(175, 190),
      };
      const [plate, tray] = ["top-plate", "tray"].map((id) => {
        const built = partOf(id, changed);
        expect(built.steps.map(({ state }) => state)).not.toContain("failed");
        const [body] = built.bodies;
        return body!.faces
          .flatMap((name, at) => {
            const facts = allFaceFacts(body!.shape)[at]!;
            // The ends of the slot: half cylinders, with where their axes stand.
            return facts.kind === "cylinder" && name.includes("slot")
              ? [[facts.radius!, facts.axisAt![0], facts.axisAt![1]]]
              : [];
          })
          .sort((one, other) => one[1]! - other[1]!);
      });
      expect(plate).toHaveLength(2);
      for (const [i, end] of plate!.entries())
        for (const [k, value] of end.entries()) expect(Math.abs(tray![i]![k]! - value)).toBeLessThan(1e-9);
      expect(2 * plate![0]![0]!).toBeCloseTo(changed.slotWidth, 9);
    }
  });

  test("the tray, by closed form", () => {
    const wall = 2.4;
    const [w, d] = [148, 104];
    const volume = w * d * (34 + wall) - (w - 2 * wall) * (d - 2 * wall) * 34 - slotArea(44.45, 10) * wall;
    expect(partOf("tray").reports[0]!.volume).toBeCloseTo(volume, 4);
    expect(partOf("tray").reports[0]).toMatchObject({ genus: 1, valid: true, closed: true });
  });

  test("the strap goes into its bracket with a quarter of a millimetre all round, and the pin's hole is 5 H7", () => {
    const built = partOf("strap");
    expect(built.steps.map(({ state }) => state)).toEqual(Array(6).fill("good"));
    const [bracket, end, pin] = ["Bracket block", "Strap end", "Pin"].map(
      (name) => built.bodies[built.reports.findIndex((report) => report.name === name)]!,
    );
    expect(pairOf(bracket!, end!).gap).toBeCloseTo(0.25, 6);
    expect(pairOf(end!, pin!).gap).toBeCloseTo(0.5, 6);
    // 5 H7 = +12/0 µm (ISO 286-2, from memory): its middle is 6 µm wider, 3 on each side.
    expect(pairOf(bracket!, pin!).gap).toBeCloseTo(0.003, 6);
  });

  test("the hub, by closed form", () => {
    const volume = Math.PI * (55 ** 2 * 14 + 25 ** 2 * 26 - (39.6875 / 2) ** 2 * 40 - 6 * 3.3 ** 2 * 14);
    const [hub] = partOf("hub").reports;
    expect(hub).toMatchObject({ name: "Hub", genus: 7, valid: true, closed: true });
    expect(hub!.volume! / volume).toBeCloseTo(1, 9);
  });

  test.each([120, 180])("the flask %d high is one sound wall, open at its mouth", (flaskHeight) => {
    const document = job();
    document.parts = document.parts.filter(({ id }) => id === "flask");
    for (const parameter of document.parts[0]!.parameters)
      if (parameter.name === "flaskHeight") parameter.formula = flaskHeight;
    const built = build(document, { file: () => undefined });
    const [flask] = built.reports;
    expect(flask).toMatchObject({ name: "Ballast flask", genus: 0, valid: true, closed: true });
    // A skin of area A holds a wall of about A / 2 · t: its two sides differ by what curvature takes.
    expect(flask!.volume! / ((flask!.area / 2) * 2.4)).toBeCloseTo(1, 1);
  });

  test.each([76.2, 60])("the cradle block for a tube of %d mm, by integration", (scopeTube) => {
    const document = job();
    document.parts = document.parts.filter(({ id }) => id === "cradle");
    for (const parameter of document.parts[0]!.parameters)
      if (parameter.name === "scopeTube") parameter.formula = scopeTube;
    const built = build(document, { file: () => undefined });
    const [cradle] = built.reports;
    expect(cradle).toMatchObject({ name: "Cradle block", genus: 2, valid: true, closed: true });
    const [gap, cheek, length, pivot, foot] = [25.4 / 64, 12, 60, 5.1, 24];
    const r = scopeTube / 2 + gap;
    const [w, h] = [2 * r + 2 * cheek, r + cheek];
    const [R, top] = [13, 13 - 8 * Math.tan(Math.PI / 60)];
    const bosses = 2 * ((Math.PI * 8) / 3) * (R * R + R * top + top * top);
    // The bore runs along X through both cheeks and bosses, but not through the trough between: strip by strip of its height.
    let bored = 0;
    const strips = 20_000;
    for (let i = 0; i < strips; i++) {
      const z = foot - pivot + ((i + 0.5) * 2 * pivot) / strips;
      const trough = 2 * Math.sqrt(Math.max(0, r * r - (h - z) ** 2));
      bored += 2 * Math.sqrt(pivot ** 2 - (z - foot) ** 2) * (w + 16 - trough) * ((2 * pivot) / strips);
    }
    const rounded = 2 * (1 - Math.PI / 4) * (cheek / 2) ** 2 * length;
    const bevelled = length;
    const screws = 4 * Math.PI * 2.1 ** 2 * 14;
    const volume = (w * h - (Math.PI * r * r) / 2) * length + bosses - bored - rounded - bevelled - screws;
    // A bevel against the round trough is not quite half a square millimetre.
    expect(cradle!.volume! / volume).toBeCloseTo(1, 4);
  });
});
