import { beforeAll, describe, expect, test } from "vitest";
import { buildSteps, volumeOfStep } from "../../testing/harness";
import { incidenceOf, recordOf, shapeOfRecord } from "../library/incidence";
import { loadNodeKernel } from "../library/node";
import { facesOf, freeShape, type Shape } from "../library/topology";
import { tightened, widestGap } from "./gaps";
import { formVolume } from "./mass";
import { isValid } from "./measure";

beforeAll(loadNodeKernel);

const block = () =>
  buildSteps(
    { id: "a", type: "box", size: [20, 30, 40] },
    { id: "b", type: "cylinder", diameter: 8, height: 60, at: [2, 3, -10] },
    { id: "s", type: "seam", preset: "subtract", stock: ["a"], cutters: ["b"] },
  ).bodies.find(({ id }) => id.startsWith("s:"))!.shape;

/** The shape with the tolerance of one corner and one edge written larger, and a corner moved. */
function noted(shape: Shape, tolerance: number, moved = 0): Shape {
  const record = recordOf(shape);
  const view = new DataView(record.buffer, record.byteOffset, record.byteLength);
  const { edges, vertices } = incidenceOf(shape);
  view.setFloat64(vertices[2]!.toleranceAt, tolerance, true);
  view.setFloat64(edges[4]!.toleranceAt, tolerance, true);
  // A corner's place follows its tolerance.
  const at = vertices[2]!.toleranceAt + 8;
  view.setFloat64(at, view.getFloat64(at, true) + moved, true);
  return shapeOfRecord(record);
}

describe("what is apart is measured, not believed", () => {
  test("a body that nothing is apart in", () => {
    const shape = block();
    expect(widestGap(shape)!.size).toBeLessThan(1e-6);
    expect(tightened(shape)).toBeNull();
  });

  test("a corner and an edge that are noted to reach 6 mm: taken back, and the body is the same", () => {
    const shape = noted(block(), 6);
    expect(incidenceOf(shape).vertices[2]!.tolerance).toBe(6);
    expect(widestGap(shape)!.size).toBeLessThan(1e-6);
    const tight = tightened(shape)!;
    const { vertices, edges } = incidenceOf(tight);
    for (const { tolerance } of [...vertices, ...edges]) expect(tolerance).toBeLessThan(2e-6);
    expect(facesOf(tight)).toHaveLength(facesOf(shape).length);
    expect(formVolume(tight)).toBe(formVolume(shape));
    expect(isValid(tight)).toBe(true);
    freeShape(tight);
  });

  test("a corner that really stands 0.02 mm off its edges", () => {
    const shape = noted(block(), 0.5, 0.02);
    const { size, at } = widestGap(shape)!;
    expect(size).toBeCloseTo(0.02, 9);
    expect(at).toEqual(incidenceOf(shape).vertices[2]!.at);
    const tight = tightened(shape)!;
    expect(incidenceOf(tight).vertices[2]!.tolerance).toBeCloseTo(0.03, 9);
    freeShape(tight);
  });
});

describe("where surfaces nearly lie in each other", () => {
  const leaning = (size: number, angle: number) => [
    { id: "a", type: "box", size: [size, size, size] },
    { id: "b", type: "cylinder", diameter: size, height: 60, at: [0, 0, -30] },
    { id: "bm", type: "move", bodies: ["b"], turn: angle, axis: "y" },
    { id: "s", type: "seam", preset: "split", stock: ["a"], cutters: ["b"] },
  ];

  test.each([
    [12.345, 1e-4],
    [12.345, 1e-2],
    [37.777, 1e-4],
  ])("a cylinder of %d leant by %d°, to either side: the same pieces, turned over", (size, angle) => {
    const [one, other] = [angle, -angle].map((lean) => buildSteps(...leaning(size, lean)));
    const volumes = [one!, other!].map((built) => {
      expect(built.step("s").state).toBe("good");
      const reports = built.reports.filter(({ id }) => id.startsWith("s:"));
      for (const report of reports) expect([report.closed, report.valid]).toEqual([true, true]);
      return reports.map(({ volume }) => volume!).sort((a, b) => a - b);
    });
    expect(volumes[0]).toHaveLength(volumes[1]!.length);
    volumes[0]!.forEach((volume, i) => {
      expect(Math.abs(volume - volumes[1]![i]!)).toBeLessThan(1e-6 * size ** 3);
    });
    expect(Math.abs(volumeOfStep(one!, "s") - size ** 3)).toBeLessThan(1e-6 * size ** 3);
  });

  test("where the parts meet badly it is said how far they are apart, and where", () => {
    const { state, warnings } = buildSteps(...leaning(30, 0.01)).step("s");
    expect(state).toBe("warned");
    const [told] = warnings.filter(({ code }) => code === "approximate");
    expect(told!.message).toMatch(/right to 0\.000\d+ mm only/);
    expect(told!.at).toHaveLength(3);
  });
});
