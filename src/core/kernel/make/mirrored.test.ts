import { beforeAll, expect, test } from "vitest";
import { Random } from "../../testing/trust/random";
import { normalNear } from "../facts/distance";
import { pointOnFace } from "../facts/on-face";
import { loadNodeKernel } from "../library/node";
import { facesOf, type Shape } from "../library/topology";
import { dot, sub, unit, type Vec3 } from "../space/vectors";
import { makeBox, makeCylinder, makePlaneFace, makeTorus } from "./primitives";
import { sheetFromFaces } from "./sheet";
import { mirrored, mirroredPoint } from "./transform";

beforeAll(loadNodeKernel);

test("the front of what is mirrored lies where the image of the front is: solids, skins and lone faces", () => {
  const random = new Random(30);
  const way = (): Vec3 => unit([random.between(-1, 1), random.between(-1, 1), random.between(-1, 1)]);
  for (let i = 0; i < 8; i++) {
    const bar = makeCylinder([0, 0, 0], way(), 5, 20);
    const shapes: Shape[] = [
      bar,
      makeBox([1, 2, 3], [4, 5, 6]),
      makeTorus([0, 0, 0], way(), 10, 3),
      makePlaneFace([1, 0, 2], way(), 10),
      sheetFromFaces(bar, [0, 1]).shape,
      ...facesOf(bar),
    ];
    const [origin, normal] = [[random.between(-9, 9), 1, 0] as Vec3, way()];
    for (const shape of shapes) {
      const image = mirrored(shape, origin, normal);
      facesOf(shape).forEach((face, place) => {
        const at = pointOnFace(face);
        const front = sub(
          mirroredPoint(unit(normalNear(face, at)), origin, normal),
          mirroredPoint([0, 0, 0], origin, normal),
        );
        expect(dot(normalNear(facesOf(image)[place]!, mirroredPoint(at, origin, normal)), front)).toBeCloseTo(1, 9);
      });
    }
  }
});
