import { type OutItem, outItems } from "../exchange";
import { buildSteps } from "./harness";

export const outOptions = { title: "Foot <1> & “more”", tolerance: 0.02 };

/** A hollow ball with a rounded post, a tube, and a sheet: inner skins, seams, blends, an open body. */
export function fourBodies(): { out: OutItem[]; volumes: Map<string, number> } {
  const { bench, reports } = buildSteps(
    { id: "ball", type: "sphere", diameter: 40 },
    { id: "hollow", type: "shell", body: ["ball"], thickness: 3 },
    { id: "block", type: "box", size: [20, 30, 10], at: [60, 0, 0] },
    { id: "round", type: "fillet", edges: [{ body: "block", edge: "block:side:x+|block:side:z+" }], radius: 2 },
    { id: "bar", type: "cylinder", diameter: 20, height: 40, at: [0, 60, 0] },
    { id: "bore", type: "cylinder", diameter: 12, height: 50, at: [0, 60, -5] },
    { id: "tube", type: "seam", preset: "subtract", stock: ["bar"], cutters: ["bore"], keepCutters: false },
    {
      id: "line",
      type: "sketch",
      on: "zx",
      entities: [
        { id: "a", type: "point", x: 0, y: 100 },
        { id: "b", type: "point", x: 30, y: 100 },
        { id: "l", type: "line", from: "a", to: "b" },
      ],
    },
    { id: "sheet", type: "extrude", sketch: ["line"], as: "sheet", distance: 25 },
  );
  const names = ["Ball & “post” <2>", "Block", "Tube", "Sheet"];
  const looks = Object.fromEntries(
    bench.flatMap(({ item }) =>
      item.id.startsWith("ball") ? [[item.id, { colour: "clay" as const, clear: false }]] : [],
    ),
  );
  let next = 0;
  const out = outItems(
    { looks },
    bench.map((entry) => ({ ...entry, name: entry.item.kind === "sketch" ? entry.name : names[next++]! })),
  );
  return {
    out,
    volumes: new Map(reports.flatMap(({ volume }, i) => (volume === null ? [] : [[out[i]!.name, volume] as const]))),
  };
}

/** Six times what triangles enclose, by the corners of each. */
export const sixfold = (a: readonly number[], b: readonly number[], c: readonly number[]) =>
  a[0]! * (b[1]! * c[2]! - b[2]! * c[1]!) +
  a[1]! * (b[2]! * c[0]! - b[0]! * c[2]!) +
  a[2]! * (b[0]! * c[1]! - b[1]! * c[0]!);
