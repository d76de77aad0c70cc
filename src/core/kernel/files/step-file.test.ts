import { beforeAll, expect, test } from "vitest";
import { readStep } from "../../exchange/step";
import { boxOf, compound, freeShape, makeBox, makeCylinder, type Shape, volumeOf, writeStepShapes } from "..";
import { lib } from "../library/library";
import { loadNodeKernel } from "../library/node";
import { scoped } from "../library/scope";

beforeAll(loadNodeKernel);

/** The same geometry in another place, shared as an assembly shares it. */
function shifted(shape: Shape, x: number, y: number): Shape {
  return scoped((scope) => {
    const oc = lib();
    const move = scope.use(new oc.gp_Trsf());
    move.SetTranslation(scope.use(new oc.gp_Vec(x, y, 0)));
    return shape.Moved(scope.use(new oc.TopLoc_Location(move)), false);
  });
}

function assembly(): string {
  const pin = makeCylinder([0, 0, 0], [0, 0, 1], 5, 20);
  const whole = compound([makeBox([0, 0, 0], [10, 20, 30]), shifted(pin, 100, 0), shifted(pin, 0, 200)]);
  lib().Interface_Static.SetIVal("write.step.assembly", 1);
  try {
    return writeStepShapes([{ tag: "RIG", shape: whole }]);
  } finally {
    lib().Interface_Static.SetIVal("write.step.assembly", 0);
    freeShape(whole);
    freeShape(pin);
  }
}

test("an assembly that places one solid twice: two bodies, each in its place, named after its product", () => {
  const text = assembly();
  expect(text.match(/NEXT_ASSEMBLY_USAGE_OCCURRENCE/g)).toHaveLength(3);
  // Give the products the names that another program would.
  const named = text
    .replace(/PRODUCT\('RIG[ \d]*\.1','[^']*'/, "PRODUCT('P-1','Frame'")
    .replace(/PRODUCT\('RIG[ \d]*\.2','[^']*'/, "PRODUCT('P-2','Pin'");
  const { bodies } = readStep(new TextEncoder().encode(named), "rig.step");
  expect(bodies.map((body) => body.name).sort()).toEqual(["Frame", "Pin", "Pin"]);
  const pins = bodies.filter((body) => body.name === "Pin").map((body) => boxOf(body.shape)!);
  expect(pins.map((box) => box.min.map(Math.round)).sort()).toEqual([
    [-5, 195, 0],
    [95, -5, 0],
  ]);
  expect(bodies.reduce((sum, body) => sum + volumeOf(body.shape), 0)).toBeCloseTo(6000 + 2 * Math.PI * 25 * 20, 6);
  for (const body of bodies) freeShape(body.shape);
});

test("one product with several bodies: each body's own name counts", () => {
  const parts = compound([makeBox([0, 0, 0], [1, 1, 1]), makeBox([5, 0, 0], [1, 2, 1])]);
  let n = 0;
  const text = writeStepShapes([{ tag: "SET", shape: parts }]).replace(
    /MANIFOLD_SOLID_BREP\(''/g,
    () => `MANIFOLD_SOLID_BREP('Piece ${++n}'`,
  );
  const { bodies } = readStep(new TextEncoder().encode(text), "set.step");
  expect(bodies.map((body) => body.name)).toEqual(["Piece 1", "Piece 2"]);
  for (const body of bodies) freeShape(body.shape);
  freeShape(parts);
});
