import { beforeAll, describe, expect, test } from "vitest";
import { allFaceFacts, boxOf, distance, inSpace, type Vec3, verticesOf, volumeOf } from "../kernel";
import { loadNodeKernel } from "../kernel/library/node";
import { movedBy, transformOf, turnedBy } from "../place";
import { buildSteps } from "../testing/harness";
import { type Body, handlingOf, type Item } from ".";
import { inPlace } from "./in-place";

beforeAll(loadNodeKernel);

const plain = transformOf({ by: [7, -3, 11], turn: 37, axis: [1, 2, -1], mirror: "none" });
const mirrored = transformOf({ by: [7, -3, 11], turn: 37, axis: [1, 2, -1], mirror: "y" });
const near = (a: Vec3, b: Vec3) => expect(distance(a, b)).toBeLessThan(1e-9);

const itemOf = (step: string, ...steps: Record<string, unknown>[]): Item =>
  buildSteps(...steps).bench.find(({ item }) => item.id.startsWith(`${step}:`))!.item;

describe.each([
  ["turned and moved", plain],
  ["mirrored, turned and moved", mirrored],
])("an item as it lies %s", (_, lies) => {
  test("a solid: each corner and face where it goes, closed and the right way out", () => {
    const body = itemOf("w", { id: "w", type: "wedge", top: 7 }) as Body;
    const moved = inPlace(body, lies) as Body;
    expect(volumeOf(moved.shape)).toBeCloseTo(volumeOf(body.shape), 6);
    verticesOf(body.shape).forEach((at, v) => {
      near(verticesOf(moved.shape)[v]!, movedBy(lies, at));
    });
    allFaceFacts(body.shape).forEach(({ centre, direction }, f) => {
      const facts = allFaceFacts(moved.shape)[f]!;
      near(facts.centre, movedBy(lies, centre));
      if (direction) near(facts.direction!, turnedBy(lies, direction));
    });
    expect(moved.faces).toEqual(body.faces);
    handlingOf(moved).free(moved);
  });

  test("a sheet: its front where the image of the front is", () => {
    const block = { id: "b", type: "box", size: [30, 20, 10] };
    const take = { id: "t", type: "offset-sheet", faces: [{ body: "b", face: "b:side:z+" }] };
    const sheet = itemOf("t", block, take) as Body;
    const moved = inPlace(sheet, lies) as Body;
    const [before, now] = [allFaceFacts(sheet.shape)[0]!, allFaceFacts(moved.shape)[0]!];
    near(now.direction!, turnedBy(lies, before.direction!));
    near(now.centre, movedBy(lies, before.centre));
  });

  test("a workplane, its front with it", () => {
    const plane = itemOf("p", { id: "p", type: "workplane", base: "yz", offset: 5 }) as Item & { kind: "workplane" };
    const moved = inPlace(plane, lies) as typeof plane;
    near(moved.origin, movedBy(lies, plane.origin));
    near(moved.normal, turnedBy(lies, plane.normal));
  });

  test("a sketch: what is drawn lies where it goes", () => {
    const entities = [
      { id: "a", type: "point", x: 1, y: 2 },
      { id: "b", type: "point", x: 9, y: 5 },
      { id: "l", type: "line", from: "a", to: "b" },
    ];
    const sketch = itemOf("k", { id: "k", type: "sketch", on: "zx", entities }) as Item & { kind: "sketch" };
    const moved = inPlace(sketch, lies) as typeof sketch;
    for (const [x, y] of [
      [1, 2],
      [9, 5],
    ] as const)
      near(inSpace(moved.frame, [x, y]), movedBy(lies, inSpace(sketch.frame, [x, y])));
  });

  test("a curve", () => {
    const points = [
      [0, 0, 0],
      [10, 0, 5],
      [20, 8, 0],
    ].map((at, i) => ({ id: `p${i}`, at }));
    const curve = itemOf("c", { id: "c", type: "curve", points }) as Item & { kind: "curve" };
    const moved = inPlace(curve, lies) as typeof curve;
    const view = (item: typeof curve) =>
      handlingOf(item).view(item, {} as never) as { lines: number[]; length: number };
    const [was, now] = [view(curve), view(moved)];
    expect(now.length).toBeCloseTo(was.length, 9);
    near(now.lines.slice(0, 3) as never, movedBy(lies, was.lines.slice(0, 3) as never));
    near(now.lines.slice(-3) as never, movedBy(lies, was.lines.slice(-3) as never));
  });
});

test("where nothing moves, the very same form: what was measured of it holds", () => {
  const body = itemOf("b", { id: "b", type: "box" }) as Body;
  const same = inPlace(body, transformOf({ by: [0, 0, 0], turn: 360, axis: [1, 1, 1], mirror: "none" })) as Body;
  expect(boxOf(same.shape)).toEqual(boxOf(body.shape));
});
