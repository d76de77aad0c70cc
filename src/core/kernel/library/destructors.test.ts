import { beforeAll, expect, test } from "vitest";
import { tighten } from "../../testing/trust/tight";
import { bareEdges, bareMeasures } from "../divide/bare";
import { makeBox } from "../make/primitives";
import { kernelHeapBytes, lib } from "./library";
import { loadNodeKernel } from "./node";
import { scoped } from "./scope";
import { KINDS } from "./subshape-kind";
import { freeShape, listOf, type Shape, subshapes } from "./topology";

beforeAll(loadNodeKernel);

const BLOCK = 64 * 1024;

/** What the library's memory has grown by while something was done over and over again, with little memory to spare. */
function grownBy(times: number, work: (i: number) => void): number {
  work(0);
  const loosen = tighten(BLOCK);
  const before = kernelHeapBytes();
  for (let i = 1; i <= times; i++) work(i);
  const grown = kernelHeapBytes() - before;
  loosen();
  return grown;
}

test("blocks give back what they took: 11 kB each, if they did not", () => {
  expect(grownBy(2000, (i) => freeShape(makeBox([0, 0, 0], [10, 20, 30 + i / 100])))).toBe(0);
});

test("so do roundings, 37 kB each, with the algorithm that makes them", () => {
  const box = makeBox([0, 0, 0], [10, 20, 30]);
  const grown = grownBy(500, (i) =>
    scoped((scope) => bareEdges("fillet", box, [subshapes(scope, box, "edge")[0]!], 1 + (i % 10) / 20)),
  );
  freeShape(box);
  expect(grown).toBe(0);
});

test("what is handed out is a copy: letting go of it leaves where it came from as it was", () => {
  const box = makeBox([0, 0, 0], [10, 20, 30]);
  scoped((scope) => {
    const oc = lib();
    const walk = scope.use(new oc.TopExp_Explorer(box, KINDS.face, "TopAbs_SHAPE"));
    const list = listOf(scope, [box]);
    const maker = scope.use(new oc.BRepPrimAPI_MakeBox(1, 2, 3));
    const cut = scope.use(new oc.BRepAlgoAPI_BuilderAlgo());
    const ways: [string, () => Shape][] = [
      ["the walk's current face", () => walk.Current()],
      ["the first of a list", () => list.First()],
      ["the last of a list", () => list.Last()],
      ["what a maker made", () => maker.Shape()],
      ["another kind of handle", () => oc.TopoDS.Solid(box)],
    ];
    expect(cut.IsDone()).toBe(false);
    for (const [what, give] of ways) {
      give().delete();
      const again = give();
      expect(again.IsNull(), what).toBe(false);
      again.delete();
    }
    const appended = list.Append(box) as Shape;
    appended.delete();
    expect(scope.use(list.Last()).IsNull()).toBe(false);
    expect(list.Size()).toBe(2);
  });
  expect(() => bareMeasures(box)).not.toThrow();
  freeShape(box);
});

test("a part of a shape outlives it, and nothing is given back twice", () => {
  const box = makeBox([0, 0, 0], [10, 20, 30]);
  const face = scoped((scope) => lib().TopoDS.Face(subshapes(scope, box, "face")[0]!));
  box.delete();
  expect(() => box.delete()).toThrow(/deleted/);
  // What is made next may lie where the shape was: the face is still whole.
  const others = Array.from({ length: 50 }, () => makeBox([0, 0, 0], [1, 1, 1]));
  expect(scoped((scope) => subshapes(scope, face, "edge").length)).toBe(4);
  for (const other of others) freeShape(other);
  face.delete();
});

test("values, too, are copies: none lies within the object that it was asked of, and two answers are two objects", () => {
  const oc = lib();
  const addressOf = (object: object): number => {
    const record = (object as Record<string, Record<string, unknown>>)[Object.getOwnPropertyNames(object)[0]!]!;
    return Object.values(record).find((value) => typeof value === "number") as number;
  };
  const box = makeBox([0, 0, 0], [10, 20, 30]);
  scoped((scope) => {
    const at = scope.use(new oc.gp_Pnt(1, 2, 3));
    const along = scope.use(new oc.gp_Dir(0, 0, 1));
    const axes = scope.use(new oc.gp_Ax2(at, along));
    const edge = scope.use(oc.TopoDS.Edge(subshapes(scope, box, "edge")[0]!));
    const face = scope.use(oc.TopoDS.Face(subshapes(scope, box, "face")[0]!));
    const bounds = scope.use(new oc.Bnd_Box());
    oc.BRepBndLib.Add(box, bounds, false);
    const asked: object[] = [
      at,
      along,
      axes,
      box,
      bounds,
      scope.use(new oc.gp_Ax1(at, along)),
      scope.use(new oc.gp_Pln(at, along)),
      scope.use(new oc.gp_Circ(axes, 4)),
      scope.use(new oc.gp_Elips(axes, 4, 3)),
      scope.use(new oc.gp_Trsf()),
      scope.use(new oc.GProp_GProps()),
      scope.use(new oc.BRepAdaptor_Curve(edge)),
      scope.use(new oc.BRepAdaptor_Surface(face, true)),
      scope.use(new oc.BRepPrimAPI_MakeBox(1, 2, 3)),
    ];
    let seen = 0;
    const asks =
      /^(Location|Position|Axis|(X|Y|Main)?Direction|[XY]Axis|XYZ|Coord|Line|Plane|Centre\w*|Corner\w+|Value|Shape|Solid|Shell|Trsf|\w*Part)$/;
    for (const object of asked) {
      const methods = new Set<string>();
      for (let of: object | null = object; of; of = Object.getPrototypeOf(of))
        for (const name of Object.getOwnPropertyNames(of)) if (asks.test(name)) methods.add(name);
      for (const name of methods) {
        const ask = () => {
          try {
            return (object as Record<string, () => unknown>)[name]!();
          } catch {
            return null; // A question that this object has no answer to.
          }
        };
        const [one, two] = [ask(), ask()];
        if (!one || !two || typeof one !== "object" || !("delete" in one)) continue;
        seen++;
        const [first, second, own] = [addressOf(one), addressOf(two), addressOf(object)];
        expect(first, name).not.toBe(second);
        expect(first < own || first >= own + 16, `${object.constructor.name}.${name}`).toBe(true);
        (one as { delete(): void }).delete();
        (two as { delete(): void }).delete();
      }
    }
    expect(seen).toBeGreaterThan(15);
  });
  freeShape(box);
});
