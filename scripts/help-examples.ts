/** A few steps for each tool's page, of the pier as the demo has it: what is shown in its picture. All sizes are invented. */
type Steps = Record<string, unknown>[];

const line = (id: string, from: string, to: string) => ({ id, type: "line", from, to });
const point = (id: string, x: number, y: number) => ({ id, type: "point", x, y });
const outline = (id: string, corners: [number, number][], more: object = {}) => ({
  id,
  type: "sketch",
  ...more,
  entities: [
    ...corners.map(([x, y], i) => point(`p${i}`, x, y)),
    ...corners.map((_, i) => line(`l${i}`, `p${i}`, `p${(i + 1) % corners.length}`)),
  ],
});
const path = (id: string, corners: [number, number][], more: object = {}) => ({
  id,
  type: "sketch",
  ...more,
  entities: [
    ...corners.map(([x, y], i) => point(`p${i}`, x, y)),
    ...corners.slice(1).map((_, i) => line(`l${i}`, `p${i}`, `p${i + 1}`)),
  ],
});
const circle = (id: string, radius: number, more: object = {}) => ({
  id,
  type: "sketch",
  ...more,
  entities: [point("c", 0, 0), { id: "o", type: "circle", centre: "c", radius }],
});
const box = (id: string, size: number[], more: object = {}) => ({ id, type: "box", size, ...more });
const tube = { id: "tube", type: "cylinder", diameter: 30, height: 120, axis: "x", at: [-60, 0, 20] };
const face = (body: string, name: string) => ({ body, face: name });

export const EXAMPLES: Readonly<Record<string, Steps>> = {
  box: [box("a", [76, 76, 40])],
  cylinder: [{ id: "a", type: "cylinder", diameter: 90, height: 18 }],
  sphere: [{ id: "a", type: "sphere", diameter: 24, at: [0, 0, 12] }],
  cone: [{ id: "a", type: "cone", diameter: 40, top: 12, height: 36 }],
  torus: [{ id: "a", type: "torus", diameter: 60, section: 12, at: [0, 0, 6] }],
  wedge: [{ id: "a", type: "wedge", length: 80, width: 40, height: 14 }],
  workplane: [
    box("a", [80, 50, 30]),
    { id: "w", type: "workplane", base: "midway", faces: [face("a:block", "a:side:x-"), face("a:block", "a:side:x+")] },
  ],
  "seam-fill": [
    { id: "o", type: "cylinder", diameter: 90, height: 80 },
    { id: "h", type: "shell", body: ["o"], open: [face("o:cylinder", "o:cap:end")], thickness: 6 },
    { id: "l", type: "workplane", base: "xy", offset: 48 },
    { id: "f", type: "seam", preset: "fill", stock: ["o"], cutters: ["l"] },
    { id: "v", type: "workplane", base: "zx" },
    { id: "s", type: "seam", preset: "trim", stock: ["o"], cutters: ["v"], keepSide: { v: "front" } },
  ],
  sketch: [
    outline(
      "k",
      [
        [-40, 0],
        [40, 0],
        [40, 30],
        [18, 30],
        [18, 12],
        [-18, 12],
        [-18, 30],
        [-40, 30],
      ],
      { on: "zx" },
    ),
  ],
  curve: [
    {
      id: "c",
      type: "curve",
      points: [
        { id: "a", at: [-60, 0, 0], by: "line" },
        { id: "b", at: [-20, 0, 0], by: "spline" },
        { id: "d", at: [10, 20, 25], by: "spline" },
        { id: "e", at: [50, 10, 50], by: "line" },
        { id: "f", at: [50, 10, 80], by: "line" },
      ],
    },
  ],
  extrude: [
    box("a", [100, 70, 12]),
    outline("k", [
      [-30, -6],
      [30, -6],
      [30, 6],
      [-30, 6],
    ]),
    { id: "e", type: "extrude", sketch: ["k"], extent: "through", into: "cut", targets: ["a"] },
  ],
  revolve: [
    outline(
      "k",
      [
        [0, 0],
        [40, 0],
        [40, 60],
        [16, 80],
        [16, 100],
        [0, 100],
      ],
      { on: "zx" },
    ),
    { id: "r", type: "revolve", sketch: ["k"], axis: "y", extent: "angle", angle: 260 },
  ],
  loft: [
    outline("k", [
      [-35, -35],
      [35, -35],
      [35, 35],
      [-35, 35],
    ]),
    { id: "w", type: "workplane", base: "xy", offset: 60 },
    circle("o", 16, { on: "workplane", plane: ["w"] }),
    { id: "l", type: "loft", sections: ["k", "o"] },
  ],
  sweep: [
    path("p", [
      [-50, -30],
      [50, -30],
      [50, 40],
    ]),
    { id: "w", type: "workplane", base: "yz", offset: -50 },
    outline(
      "k",
      [
        [-34, 0],
        [-26, 0],
        [-26, 12],
        [-34, 12],
      ],
      { on: "workplane", plane: ["w"] },
    ),
    { id: "s", type: "sweep", sketch: ["k"], path: ["p"], corners: "mitred" },
  ],
  pipe: [
    path(
      "p",
      [
        [-60, 0],
        [0, 0],
        [30, 70],
        [70, 70],
      ],
      { on: "zx" },
    ),
    { id: "t", type: "pipe", path: ["p"], size: 22, wall: 2, corners: "mitred" },
  ],
  fillet: [
    box("a", [80, 50, 24]),
    {
      id: "f",
      type: "fillet",
      edges: [
        { body: "a:block", edge: "a:side:y-|a:side:z+" },
        { body: "a:block", edge: "a:side:x+|a:side:z+" },
      ],
      radius: 9,
    },
  ],
  chamfer: [
    box("a", [80, 50, 24]),
    {
      id: "f",
      type: "chamfer",
      edges: [
        { body: "a:block", edge: "a:side:y-|a:side:z+" },
        { body: "a:block", edge: "a:side:x+|a:side:z+" },
      ],
      distance: 7,
    },
  ],
  draft: [
    box("a", [60, 60, 40]),
    {
      id: "d",
      type: "draft",
      faces: ["x+", "x-", "y+", "y-"].map((s) => face("a:block", `a:side:${s}`)),
      about: "xy",
      angle: 12,
    },
  ],
  shell: [
    box("a", [80, 60, 40]),
    { id: "s", type: "shell", body: ["a"], open: [face("a:block", "a:side:z+")], thickness: 4 },
  ],
  "offset-faces": [
    box("a", [80, 60, 26]),
    { id: "c", type: "cylinder", diameter: 36, height: 80, axis: "x", at: [-40, 0, 26] },
    { id: "s", type: "seam", preset: "subtract", stock: ["a"], cutters: ["c"], keepCutters: false },
    { id: "w", type: "box", size: [10, 60, 14], at: [-35, 0, 26] },
    { id: "u", type: "seam", preset: "union", stock: ["s", "w"] },
    { id: "o", type: "offset-faces", faces: [face("u", "w:side:x+")], distance: 12 },
  ],
  "replace-face": [
    { id: "v", type: "cylinder", diameter: 60, height: 70 },
    box("a", [40, 24, 24], { at: [58, 0, 24] }),
    { id: "o", type: "replace-face", face: [face("a", "a:side:x-")], by: "face", onto: [face("v", "v:side")] },
  ],
  clearance: [
    box("a", [60, 40, 30]),
    { id: "c", type: "cylinder", diameter: 22, height: 26, at: [0, 0, 30] },
    { id: "u", type: "seam", preset: "union", stock: ["a", "c"] },
    { id: "o", type: "clearance", body: ["u"], distance: 8, corners: "round" },
  ],
  motion: [
    { id: "t", type: "cylinder", diameter: 60, height: 60 },
    { id: "p", type: "box", name: "Pin", size: [40, 10, 10], at: [30, 0, 55] },
    {
      id: "o",
      type: "motion",
      body: ["p"],
      moves: [
        { id: "m1", how: "straight", by: [0, 0, -30] },
        { id: "m2", how: "turn", turn: 45, about: "z" },
      ],
      into: "cut",
      targets: ["t"],
    },
  ],
  scale: [
    box("a", [60, 60, 30]),
    { id: "m", type: "move", bodies: ["a"], by: [75, 0, 0], copy: true },
    { id: "s", type: "scale", bodies: ["m"], factor: 1.25, about: [75, 0, 0] },
  ],
  move: [
    box("a", [70, 70, 20]),
    box("b", [70, 70, 20], { at: [0, 0, 20] }),
    { id: "m", type: "move", bodies: ["b"], by: [0, 0, 30] },
  ],
  align: [
    box("a", [100, 70, 12]),
    { id: "c", type: "cylinder", diameter: 50, height: 24, at: [0, 0, 60] },
    { id: "l", type: "align", face: [face("c:cylinder", "c:cap:base")], onto: [face("a:block", "a:side:z+")] },
  ],
  mirror: [box("a", [40, 50, 20], { at: [30, 0, 0] }), { id: "m", type: "mirror", bodies: ["a"], about: "yz" }],
  pattern: [
    box("a", [120, 60, 10]),
    { id: "c", type: "cylinder", diameter: 10, height: 20, at: [-40, -15, 8] },
    {
      id: "p",
      type: "pattern",
      bodies: ["c"],
      kind: "rows",
      axis: "x",
      count: 4,
      spacing: 27,
      rows: 2,
      across: "y",
      rowSpacing: 30,
    },
  ],
  remove: [
    box("a", [60, 60, 20]),
    box("b", [30, 30, 20], { at: [0, 0, 20] }),
    { id: "r", type: "remove", bodies: ["b"] },
  ],
  "offset-sheet": [
    box("a", [70, 70, 24]),
    { id: "o", type: "offset-sheet", faces: [face("a:block", "a:side:z+")], distance: 12, extend: 14 },
  ],
  "seam-split": [
    box("a", [90, 60, 40]),
    { id: "w", type: "workplane", base: "turned", angle: 25, axis: "y", through: [0, 0, 20] },
    { id: "s", type: "seam", preset: "split", stock: ["a"], cutters: ["w"] },
    { id: "m", type: "move", bodies: ["s"], by: [0, 0, 0] },
  ],
  "seam-choose": [
    box("a", [70, 30, 40], { at: [-12, 0, 0] }),
    { id: "b", type: "cylinder", diameter: 44, height: 40, at: [18, 0, 0] },
    {
      id: "s",
      type: "seam",
      preset: "choose",
      stock: ["a", "b"],
      rules: [{ where: { sides: { a: "in", b: "in" } }, fate: "scrap" }],
    },
  ],
  "seam-seat": [
    box("a", [80, 60, 30]),
    { id: "b", type: "cone", diameter: 26, top: 44, height: 30, at: [0, 0, 10] },
    { id: "s", type: "seam", preset: "split", stock: ["a"], cutters: ["b"], keepCutters: false },
  ],
  "seam-skin": [
    {
      id: "k",
      type: "sketch",
      entities: [
        point("c", 0, 0),
        point("a", 0, -34),
        point("b", 0, 34),
        { id: "r", type: "arc", centre: "c", from: "a", to: "b" },
      ],
    },
    { id: "a", type: "revolve", sketch: ["k"], as: "sheet", axis: "y" },
    { id: "w", type: "workplane", base: "turned", angle: 25, axis: "y", through: [0, 0, 8] },
    { id: "s", type: "seam", preset: "trim", stock: ["a"], cutters: ["w"], keepSide: { w: "back" }, close: true },
  ],
  "seam-each-other": [
    path("k", [
      [-45, -8],
      [45, 22],
    ]),
    { id: "p", type: "extrude", sketch: ["k"], as: "sheet", distance: 60 },
    path("l", [
      [-10, -45],
      [10, 45],
    ]),
    { id: "q", type: "extrude", sketch: ["l"], as: "sheet", distance: 60 },
    {
      id: "s",
      type: "seam",
      preset: "trim",
      stock: ["p", "q"],
      mutual: true,
      keepSide: { p: "front", q: "either" },
    },
  ],
  "seam-carve": [
    circle("k", 26),
    { id: "a", type: "extrude", sketch: ["k"], as: "sheet", distance: 70 },
    { id: "b", type: "cylinder", diameter: 30, height: 90, axis: "y", at: [0, -45, 36] },
    {
      id: "s",
      type: "seam",
      preset: "subtract",
      stock: ["a"],
      cutters: ["b"],
      close: true,
      keepCutters: false,
    },
  ],
  "seam-trim": [
    tube,
    { id: "w", type: "workplane", base: "turned", parallelTo: "yz", axis: "y", angle: 35, through: [20, 0, 20] },
    { id: "s", type: "seam", preset: "trim", stock: ["tube"], cutters: ["w"], keepSide: { w: "back" } },
  ],
  "seam-subtract": [
    box("a", [80, 60, 40]),
    { id: "b", type: "sphere", diameter: 50, at: [0, 0, 40] },
    { id: "s", type: "seam", preset: "subtract", stock: ["a"], cutters: ["b"], keepCutters: false },
  ],
  "seam-union": [
    { id: "d", type: "cylinder", diameter: 90, height: 16 },
    { id: "p", type: "cylinder", diameter: 34, height: 60 },
    { id: "s", type: "seam", preset: "union", stock: ["d", "p"] },
  ],
  "seam-intersect": [
    { id: "d", type: "cylinder", diameter: 70, height: 60 },
    box("b", [60, 40, 60]),
    { id: "s", type: "seam", preset: "intersect", stock: ["d", "b"] },
  ],
};
