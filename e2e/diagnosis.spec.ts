import { sampled } from "../src/core/testing/sample";
import { built, open, openStep } from "./helpers";
import { expect, test } from "./server";

type Step = Record<string, unknown>;

const line = (id: string, points: number[][]): Step => ({
  id,
  type: "sketch",
  entities: points.flatMap(([x, y], i): Step[] => [
    { id: `p${i}`, type: "point", x, y },
    ...(i > 0 ? [{ id: `l${i}`, type: "line", from: `p${i - 1}`, to: `p${i}` }] : []),
  ]),
});
const sheet = (id: string, name: string, sketch: string, distance: number): Step => ({
  id,
  type: "extrude",
  name,
  sketch: [sketch],
  as: "sheet",
  extent: "symmetric",
  distance,
});
const block = { id: "a", type: "box", name: "Block", size: [60, 40, 20] };
const half: Step = {
  id: "k",
  type: "sketch",
  entities: [
    { id: "c", type: "point", x: 0, y: 0 },
    { id: "p", type: "point", x: 0, y: -20 },
    { id: "q", type: "point", x: 0, y: 20 },
    { id: "arc", type: "arc", centre: "c", from: "p", to: "q" },
  ],
};

/** Each kind of trouble: the job, what is said, what is pressed, and what is said then. */
const KINDS: { kind: string; steps: Step[]; says: string; press: string | RegExp; after: string | RegExp }[] = [
  {
    kind: "a sliver",
    steps: [
      block,
      { id: "w", type: "workplane", name: "Level", base: "xy", offset: 19.996 },
      { id: "s", type: "seam", name: "Cut", stock: ["a"], cutters: ["w"] },
    ],
    says: "is a sliver, 0.0040 mm thick: faces lie that near to each other there",
    press: /^Merge it into piece \d$/,
    after: "Comes out: 1 body",
  },
  {
    kind: "a cutter that ends within a solid",
    steps: [
      block,
      line("k", [
        [7, -40],
        [7, 0],
      ]),
      sheet("b", "Knife", "k", 60),
      { id: "s", type: "seam", name: "Cut", stock: ["a"], cutters: ["b"] },
    ],
    says: "Knife stops short inside Block. It has to reach 20 mm further.",
    press: "Run the sheet on past all the stock",
    after: "2 pieces",
  },
  {
    kind: "a cutter that ends within a sheet",
    steps: [
      line("k", [
        [-40, 0],
        [40, 0],
      ]),
      sheet("a", "Flat", "k", 60),
      line("q", [
        [7, -10],
        [7, 10],
      ]),
      sheet("b", "Knife", "q", 20),
      { id: "s", type: "seam", name: "Cut", stock: ["a"], cutters: ["b"] },
    ],
    says: "Knife stops short inside Flat. It has to reach 20 mm further.",
    press: "Run the sheet on past all the stock",
    after: "2 pieces",
  },
  {
    kind: "a sheet taken for a solid",
    steps: [
      half,
      { id: "a", type: "revolve", name: "Skin", sketch: ["k"], as: "sheet", axis: "y" },
      { id: "w", type: "workplane", name: "Level", base: "xy", offset: 5 },
      { id: "s", type: "seam", name: "Cut", stock: ["a"], cutters: ["w"] },
    ],
    says: "Skin is a sheet closed all round, and no solid: where it is cut it is left open.",
    press: "Close what is cut",
    after: /2 stay, 33\.51 cm³/,
  },
  {
    kind: "bodies a hair's breadth apart",
    steps: [
      block,
      { id: "b", type: "box", name: "Boss", size: [10, 10, 10], at: [35.02, 0, 5] },
      { id: "s", type: "seam", name: "Cut", preset: "union", stock: ["a", "b"] },
    ],
    says: "do not all touch, so the union is 2 bodies: the gap between them is 0.02 mm",
    press: "Move Boss by 0.020 mm, against Block",
    after: /Comes out: 1 body/,
  },
  {
    kind: "faces nearly in one plane",
    steps: [
      block,
      { id: "b", type: "box", name: "Boss", size: [10, 10, 30], at: [0, 0, 0.006] },
      { id: "s", type: "seam", name: "Cut", preset: "subtract", stock: ["a"], cutters: ["b"] },
    ],
    says: "Faces of Block and Boss are 0.0060 mm from lying in one plane: that leaves a skin too small to be made.",
    press: "Move Boss by 0.0060 mm, against Block",
    after: /46 cm³Comes out: 1 body/,
  },
  {
    kind: "what encloses nothing",
    steps: [
      {
        id: "k",
        type: "sketch",
        entities: [
          { id: "c", type: "point", x: 0, y: 0 },
          { id: "r", type: "circle", centre: "c", radius: 10 },
        ],
      },
      sheet("a", "Pipe", "k", 60),
      { id: "s", type: "seam", name: "Cut", preset: "fill", stock: ["a"] },
    ],
    says: "Pipe encloses nothing: it ends in an open rim 62.832 mm long",
    press: "Close the openings",
    after: "18.85 cm³",
  },
];

for (const { kind, steps, says, press, after } of sampled(KINDS, 2))
  test(`${kind}: said, lit in the view, and mended at one press`, async ({ page }) => {
    test.setTimeout(60_000);
    await openStep(page, steps, "s", "Cut");
    await expect(open(page)).toContainText(says);
    await open(page).getByRole("button", { name: press }).first().click();
    await built(page);
    await expect(page.getByRole("region", { name: "Pieces" })).toContainText(after);
    await expect(open(page)).not.toContainText(says);
  });

const bar = (x: number): Step => ({
  id: "b",
  type: "cylinder",
  name: "Bar",
  diameter: 10,
  height: 40,
  at: [x, 0, -10],
});

/** What no press mends: it is said, with its place, and what to do. */
for (const [kind, steps, says] of [
  [
    "a cutter that touches without dividing",
    [block, bar(35), { id: "s", type: "seam", name: "Cut", stock: ["a"], cutters: ["b"] }],
    "Bar only touches the skin of Block, so it divides nothing. Move it into Block.",
  ],
  [
    "a body that touches itself along a line",
    [block, bar(25), { id: "s", type: "seam", name: "Cut", preset: "subtract", stock: ["a"], cutters: ["b"] }],
    "touches itself along a line of 20 mm: there is no thickness there.",
  ],
] as [string, Step[], string][])
  test(`${kind}: said`, async ({ page }) => {
    test.setTimeout(60_000);
    await openStep(page, steps, "s", "Cut");
    await expect(open(page)).toContainText(says);
  });
