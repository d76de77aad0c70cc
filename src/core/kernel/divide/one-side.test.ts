import { beforeAll, describe, expect, test } from "vitest";
import { buildSteps } from "../../testing/harness";
import { Random } from "../../testing/trust/random";
import { boxOf } from "../facts/box";
import { incidenceOf } from "../library/incidence";
import { loadNodeKernel } from "../library/node";
import type { Shape } from "../library/topology";
import { makePlaneFace } from "../make/primitives";
import { centre, dot, sub, unit, type Vec3 } from "../space/vectors";
import { fuse } from "./fuse";
import type { Fusion } from "./general-fuse";
import { onBothSides } from "./one-side";

beforeAll(loadNodeKernel);

const sketch = {
  id: "k",
  type: "sketch",
  on: "xy",
  entities: [
    ...[
      [20, 0],
      [0, 14],
      [-16, 2],
      [0, -15],
    ].map(([x, y], i) => ({ id: `p${i}`, type: "point", x, y })),
    { id: "s", type: "spline", points: ["p0", "p1", "p2", "p3"], form: "through", closed: true },
  ],
};
const BODIES: Record<string, Record<string, unknown>[]> = {
  "a block": [{ id: "b", type: "box", size: [30, 20, 25] }],
  "a cone": [{ id: "b", type: "cone", diameter: 30, top: 8, height: 25 }],
  "a bar": [{ id: "b", type: "cylinder", diameter: 22, height: 30, axis: "y" }],
  "a free prism": [sketch, { id: "b", type: "extrude", sketch: ["k"], distance: 24 }],
  "a ball": [{ id: "b", type: "sphere", diameter: 30 }],
  "a ring": [{ id: "b", type: "torus", diameter: 40, section: 12 }],
};

const made = (steps: Record<string, unknown>[]): Shape => buildSteps(...steps).bodies.at(-1)!.shape;
const uncut = (fusion: Fusion, shape: Shape): Fusion => ({ ...fusion, cells: [{ shape, faces: [], within: [0] }] });

describe("a plane that reaches past a solid has each piece on one side", () => {
  test.each(Object.entries(BODIES))("%s, by planes by chance", (name, steps) => {
    const solid = made(steps);
    const middle = centre(boxOf(solid)!);
    const random = new Random(name.length);
    const any = (size: number) => random.between(-size / 2, size / 2);
    for (let round = 0; round < 12; round++) {
      const normal = unit([any(2), any(2), any(2) + 1e-3]);
      const at = middle.map((value) => value + any(30)) as unknown as Vec3;
      const args = [solid, makePlaneFace(at, normal, 200)];
      const fusion = fuse(args);
      expect(onBothSides(args, fusion)).toBeNull();
      const divided = fusion.cells.length > 1;
      const heights = incidenceOf(solid).vertices.map((corner) => dot(sub(corner.at, at), normal));
      const parted = Math.min(...heights) < -1e-3 && Math.max(...heights) > 1e-3;
      if (parted) expect(divided).toBe(true);
      if (parted) expect(onBothSides(args, uncut(fusion, solid))).toHaveLength(3);
      if (!divided) expect(onBothSides(args, uncut(fusion, solid))).toBeNull();
      fusion.free();
    }
  });

  test("corners in the plane tell nothing: the middles of faces do", () => {
    const solid = made([{ id: "b", type: "cylinder", diameter: 20, height: 30, at: [0, 0, -15] }]);
    // Through the axis and the line where the round face closes: every corner lies in it.
    const args = [solid, makePlaneFace([0, 0, 0], [1, 0, 0], 200), makePlaneFace([0, 0, 0], [0, 1, 0], 200)];
    const fusion = fuse(args.slice(0, 2));
    expect(fusion.cells).toHaveLength(2);
    const half = fusion.cells[0]!.shape;
    expect(onBothSides([solid, args[2]!], uncut(fusion, half))).toHaveLength(3);
    fusion.free();
  });

  test("a face that ends before it gets there says nothing, though its plane goes through", () => {
    const solid = made(BODIES["a block"]!);
    const middle = centre(boxOf(solid)!);
    const beside = makePlaneFace([middle[0] + 200, middle[1], middle[2]], [0, 0, 1], 50);
    const fusion = fuse([solid, beside]);
    expect(onBothSides([solid, beside], fusion)).toBeNull();
    fusion.free();
  });

  test("a plane that ends within says nothing", () => {
    const solid = made(BODIES["a block"]!);
    const args = [solid, makePlaneFace(centre(boxOf(solid)!), [0, 0, 1], 4)];
    const fusion = fuse(args);
    expect(fusion.cells).toHaveLength(1);
    expect(onBothSides(args, fusion)).toBeNull();
    fusion.free();
  });
});
