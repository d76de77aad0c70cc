import fc from "fast-check";
import { beforeAll, describe, expect, test } from "vitest";
import { buildSteps } from "../../testing/harness";
import { areaOf } from "../facts/mass";
import { incidenceOf } from "../library/incidence";
import { loadNodeKernel } from "../library/node";
import { facesOf, type Shape } from "../library/topology";
import { cross, dot, length, sub, type Vec3 } from "../space/vectors";
import { flatPatch } from "./flat-patch";
import { tessellate } from "./tessellate";

beforeAll(loadNodeKernel);

const vector = (values: Float32Array, i: number) => [...values.slice(3 * i, 3 * i + 3)] as unknown as Vec3;

/** Holds every flat patch of a body against the library's own mesh of the face. @returns how many there were. */
function holdAgainstLibrary(shape: Shape): number {
  const structure = incidenceOf(shape);
  const whole = tessellate(shape, { linear: 0.1, angular: 0.25 });
  let count = 0;
  structure.faces.forEach((face, place) => {
    const patch = flatPatch(structure, face);
    if (!patch) return;
    count++;
    const { positions, normals, indices, lines } = patch;
    const [first, many] = [whole.faceRanges[2 * place]!, whole.faceRanges[2 * place + 1]!];
    expect(indices.length).toBe(many);
    const outward = vector(whole.normals, whole.indices[first]!);
    let area = 0;
    for (let i = 0; i < indices.length; i += 3) {
      const [a, b, c] = [0, 1, 2].map((k) => vector(positions, indices[i + k]!)) as [Vec3, Vec3, Vec3];
      const twice = cross(sub(b, a), sub(c, a));
      // Each triangle is seen from outside the material, as the library's are.
      expect(dot(twice, outward)).toBeGreaterThan(0);
      expect(dot(vector(normals, indices[i]!), outward)).toBeCloseTo(1, 5);
      area += length(twice) / 2;
    }
    expect(Math.abs(area / areaOf(facesOf(shape)[place]!) - 1)).toBeLessThan(1e-4);
    face.wires.flat().forEach(({ edge }, i) => {
      const [from, points] = [whole.edgeRanges[2 * edge]!, whole.edgeRanges[2 * edge + 1]!];
      const own = [...whole.lines.slice(3 * from, 3 * (from + points))];
      expect(lines[i]!.length).toBe(own.length);
      own.forEach((value, k) => {
        expect(Math.abs(value - lines[i]![k]!)).toBeLessThan(1e-4);
      });
    });
  });
  return count;
}

const size = fc.integer({ min: 8, max: 40 });
const at = fc.tuple(
  ...([0, 1, 2].map(() => fc.integer({ min: -25, max: 25 })) as [
    fc.Arbitrary<number>,
    fc.Arbitrary<number>,
    fc.Arbitrary<number>,
  ]),
);

describe("meshes of flat faces", () => {
  test("are the library's, on blocks with pockets by chance, turned, and mirrored", () => {
    let seen = 0;
    fc.assert(
      fc.property(
        fc.array(fc.record({ size: fc.tuple(size, size, size), at }), { minLength: 1, maxLength: 3 }),
        fc.integer({ min: 0, max: 90 }),
        fc.boolean(),
        (pockets, angle, mirrored) => {
          const { bodies } = buildSteps(
            { id: "block", type: "box", size: [60, 50, 40], at: [0, 0, -20] },
            ...pockets.map((pocket, i) => ({ id: `p${i}`, type: "box", ...pocket })),
            {
              id: "s",
              type: "seam",
              preset: "subtract",
              stock: ["block"],
              cutters: pockets.map((_, i) => `p${i}`),
              keepCutters: false,
            },
            { id: "t", type: "move", bodies: ["s"], axis: "z", turn: angle },
            ...(mirrored ? [{ id: "m", type: "mirror", bodies: ["t"], about: "yz", keep: false }] : []),
          );
          for (const { shape } of bodies) seen += holdAgainstLibrary(shape);
        },
      ),
      { numRuns: 40, seed: 20261130 },
    );
    expect(seen).toBeGreaterThan(200);
  });

  test("have holes where the face has them", () => {
    const { bodies } = buildSteps(
      { id: "block", type: "box", size: [60, 50, 40] },
      { id: "a", type: "box", size: [10, 10, 90], at: [-15, 0, -20] },
      { id: "b", type: "box", size: [12, 8, 90], at: [12, 3, -20] },
      { id: "s", type: "seam", preset: "subtract", stock: ["block"], cutters: ["a", "b"], keepCutters: false },
    );
    const { shape } = bodies[0]!;
    expect(incidenceOf(shape).faces.filter(({ wires }) => wires.length === 3)).toHaveLength(2);
    expect(holdAgainstLibrary(shape)).toBe(14);
  });

  test("are left to the library where an edge is round, and where corners lie on one line", () => {
    const drilled = buildSteps(
      { id: "block", type: "box", size: [60, 50, 40] },
      { id: "a", type: "cylinder", diameter: 10, height: 90, at: [0, 0, -20] },
      { id: "s", type: "seam", preset: "subtract", stock: ["block"], cutters: ["a"], keepCutters: false },
    ).bodies[0]!.shape;
    expect(holdAgainstLibrary(drilled)).toBe(4);
    // The wedge runs out in the middle of an edge of the block: the block's end has two corners there, on one line.
    const roofed = buildSteps(
      { id: "low", type: "box", size: [60, 50, 10] },
      { id: "high", type: "wedge", length: 20, width: 20, height: 10, at: [10, -10, 10] },
      { id: "s", type: "seam", preset: "union", stock: ["low", "high"] },
    ).bodies[0]!.shape;
    const structure = incidenceOf(roofed);
    const many = structure.faces.filter(({ wires }) => wires[0]!.length === 6);
    expect(many).toHaveLength(1);
    for (const face of many) expect(flatPatch(structure, face)).toBeNull();
    expect(holdAgainstLibrary(roofed)).toBeGreaterThan(3);
  });
});
