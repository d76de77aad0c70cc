import { beforeAll, expect, test } from "vitest";
import { callDirectly } from "./direct-calls";
import type { Library } from "./library";

/** A library of its own, so that the one that other tests check by stays as it is. */
let fresh: Library;
let before: { hash: number; box: string; face: string };

/** Methods of one form, of several forms, of a class's ancestor, of the class itself, and with values left out. */
function asked(library: Library) {
  const maker = new library.BRepPrimAPI_MakeBox(10, 20, 30);
  const shape = maker.Shape();
  const walk = new library.TopExp_Explorer();
  walk.Init(shape, "TopAbs_FACE" as never, "TopAbs_SHAPE" as never);
  const face = library.TopoDS.Face(walk.Current());
  const box = new library.Bnd_Box();
  library.BRepBndLib.Add(face, box, true);
  const [low, high] = [box.CornerMin(), box.CornerMax()];
  return {
    hash: library.ReplicadShapeHasher.HashCode(face, 2147483647) > 0 ? 1 : 0,
    box: [low.X(), low.Y(), low.Z(), high.X(), high.Y(), high.Z()].map((value) => value.toFixed(3)).join(" "),
    face: `${shape.ShapeType()} ${face.ShapeType()} ${face.IsSame(walk.Current())}`,
  };
}

beforeAll(async () => {
  const module = await import("replicad-opencascadejs");
  fresh = (await module.default()) as Library;
  before = asked(fresh);
});

test("methods of one form are called at once, and say what they said", () => {
  expect(callDirectly(fresh)).toBeGreaterThan(2000);
  expect(asked(fresh)).toEqual(before);
  // They are called at once already: nothing is left to do.
  expect(callDirectly(fresh)).toBe(0);
});

test("an object of another class is refused as before", () => {
  const point = new fresh.gp_Pnt(1, 2, 3);
  expect(() => fresh.TopoDS.Face(point as never)).toThrow(/TopoDS_Shape/);
  expect(() => fresh.TopoDS.Face(undefined as never)).toThrow();
  point.delete();
  expect(() => point.X()).toThrow(/deleted/);
});

test("what is none of the binding's methods stays as it is", () => {
  const plain = class {
    static twice = (value: number) => 2 * value;
    half(value: number) {
      return value / 2;
    }
  };
  const { half } = plain.prototype;
  expect(callDirectly({ plain })).toBe(0);
  expect(plain.prototype.half).toBe(half);
});
