import { beforeAll, expect, test } from "vitest";
import { planeOf } from "../facts/planes";
import { loadNodeKernel } from "../library/node";
import { facesOf } from "../library/topology";
import { makeCylinder, makeSphere, makeTorus } from "../make/primitives";
import { sheetFromFaces } from "../make/sheet";
import { placed } from "../make/transform";
import { fuseOnce } from "./general-fuse";
import { Opinion } from "./opinion";

beforeAll(loadNodeKernel);

test("a cut that ends within a face and hangs in it is no reason to contradict", () => {
  // The side of a bar ends within the ball, beside the ring: triangles of the ball's face leave it by 10 mm there.
  const bar = makeCylinder([-2, -10, -6], [0, 0, 1], 4, 12);
  const args = [makeTorus([0, 0, 0], [0, 0, 1], 24, 4), makeSphere([-14, -14, -8], 14), sheetFromFaces(bar, [0]).shape];
  const fusion = fuseOnce(args, 0, false);
  expect(fusion.cells.map(({ within }) => within)).toEqual([[0], [0, 1], [1]]);
  expect(new Opinion(args).contradiction(fusion)).toBeNull();
  // What is wrong is still found: the ring's part in the ball, said to lie out of it.
  for (const cell of fusion.cells) cell.within = cell.within.filter((a) => a === cell.within[0]);
  expect(new Opinion(args).contradiction(fusion)).not.toBeNull();
});

test("of bodies that are nearly the same, each said to lie outside the other, the insides contradict", () => {
  const ring = makeTorus([0, 0, 0], [0, 0, 1], 25, 7);
  const turned = placed(ring, { about: [0, 0, 0], axis: [1, 0, 0], angle: -1e-4, by: [0, 0, 0] });
  // What the library makes of them, whichever way: no face of either is far enough off the other to be told by.
  const fusion = fuseOnce([ring, turned], 0, false);
  const apart = [[0], [1]];
  const said = { ...fusion, cells: fusion.cells.slice(0, 2).map((cell, i) => ({ ...cell, within: apart[i]! })) };
  expect(new Opinion([ring, turned]).contradiction(said)).not.toBeNull();
  // What lies beyond what is divided is nobody's concern.
  expect(new Opinion([ring, turned], 0).contradiction(said)).toBeNull();
});

test("skins that cross unseen: a division that has one body wholly in the other is off by more than it says", () => {
  const ring = makeTorus([0, 0, 0], [0, 0, 1], 25, 7);
  const turned = placed(ring, { about: [0, 0, 0], axis: [1, 0, 0], angle: -1e-4, by: [0, 0, 0] });
  const args = [ring, turned];
  const fusion = fuseOnce(args, 0, false);
  // One ring's skin is said to lie in the other all round: half of it is out. Turned by t about its
  // diameter, a place at the angle s of its section moves by 25 t sin s along its normal: 25 mm · 10⁻⁴ at the most.
  const [face] = fusion.cells[0]!.faces;
  const cell = { ...fusion.cells[0]!, within: [0, 1], faces: [face!] };
  const mine = fusion.images[0]!.flat().some((use) => use.face === face!.face) ? 0 : 1;
  const said = {
    ...fusion,
    cells: [cell],
    images: [mine === 0 ? fusion.images[0]! : [], mine === 1 ? fusion.images[1]! : []],
  };
  const { size, at } = new Opinion(args).misplaced(said, 5e-5)!;
  expect(size).toBeGreaterThan(0.98 * 2.5e-3);
  expect(size).toBeLessThan(1.25 * 2.5e-3 + 1e-6);
  expect(Math.abs(at[1])).toBeCloseTo(25, 0);
  // Said to be right to 0.01 mm it is, and what is not divided is not asked about.
  expect(new Opinion(args).misplaced(said, 1e-2)).toBeNull();
  expect(new Opinion(args, 0).misplaced(said, 5e-5)).toBeNull();
});

test("of a sheet that is divided by a solid, what lies in it is asked about, too", () => {
  const ball = makeSphere([0, 0, 0], 10);
  const bar = makeCylinder([0, 0, -20], [0, 0, 1], 4, 40);
  // The side of a bar, which the ball's skin cuts in three.
  const sheet = sheetFromFaces(bar, [0]).shape;
  const args = [sheet, ball];
  const fusion = fuseOnce(args, 0, false);
  expect(new Opinion(args, 1).contradiction(fusion)).toBeNull();
  // The part within, said to lie out; and said to bound nothing, which is the same.
  for (const cells of [fusion.cells.map((cell) => ({ ...cell, within: [] })), []])
    expect(new Opinion(args, 1).contradiction({ ...fusion, cells })).not.toBeNull();
});

test("all corners of a face on the skin, and the rest of it beside: what lies between them is asked about", () => {
  const bar = makeCylinder([0, 0, 0], [0, 0, 1], 12, 20);
  const other = makeCylinder([1e-3, 0, 0], [0, 0, 1], 12, 20);
  const sheet = sheetFromFaces(bar, [0]).shape;
  const args = [sheet, other];
  const fusion = fuseOnce(args, 0, false);
  // The whole side, said to lie out of the other: both rims lie in the planes of its ends.
  const whole = { ...fusion, cells: [] };
  const off = new Opinion(args, 1).misplaced(whole, 5e-5)!;
  expect(off.size).toBeGreaterThan(0.9e-3);
  expect(off.size).toBeLessThan(1.25e-3 + 1e-9);
  expect(off.at[0]).toBeGreaterThan(0);
});

test("a face that two bodies are said to share lies on the surfaces of both, or is off by what parts them", () => {
  const [bar, above] = [
    makeCylinder([0, 0, 0], [0, 0, 1], 12, 20),
    placed(makeCylinder([0, 0, 20], [0, 0, 1], 12, 20), {
      about: [0, 0, 20],
      axis: [1, 0, 0],
      angle: 1e-5,
      by: [0, 0, 0],
    }),
  ];
  const args = [bar, above];
  const fusion = fuseOnce(args, 0, false);
  const end = fusion.images[0]!.findIndex((parts) => parts.some(({ face }) => fusion.surface(face).kind === "plane"));
  const images = [fusion.images[0]!, [fusion.images[0]![end]!]];
  const places = facesOf(above).map((_, place) => place);
  const flat = places.filter((place) => planeOf(facesOf(above)[place]!) !== null);
  // The bar's end, said to be an end of the leaning one, too: at its rim it is off by 12 mm · 10⁻⁵, or by a bar's length.
  const said = (place: number) => ({
    ...fusion,
    images: [images[0]!, places.map((p) => (p === place ? images[1]![0]! : []))],
  });
  const sizes = flat.map((place) => new Opinion(args).misplaced(said(place), 5e-5)!.size / 1.25).sort((a, b) => a - b);
  expect(Math.min(...sizes.map((size) => Math.abs(size - 12e-5)))).toBeLessThan(1e-5);
});
