import { sampled } from "../src/core/testing/sample";
import { built, open, openStep, postJob, tool } from "./helpers";
import { expect, test } from "./server";

type Step = Record<string, unknown>;

const sheet = (id: string, name: string, from: number[], to: number[]): Step[] => [
  {
    id: `k${id}`,
    type: "sketch",
    name: `${name} drawn`,
    entities: [
      { id: "a", type: "point", x: from[0], y: from[1] },
      { id: "b", type: "point", x: to[0], y: to[1] },
      { id: "l", type: "line", from: "a", to: "b" },
    ],
  },
  { id, type: "extrude", name, sketch: [`k${id}`], as: "sheet", distance: 20 },
];

const cube = (id: string, name: string, x: number): Step => ({
  id,
  type: "box",
  name,
  size: [20, 20, 20],
  at: [x, 0, 0],
});
const ball: Step[] = [
  {
    id: "kb",
    type: "sketch",
    entities: [
      { id: "c", type: "point", x: 0, y: 0 },
      { id: "a", type: "point", x: 0, y: -20 },
      { id: "b", type: "point", x: 0, y: 20 },
      { id: "r", type: "arc", centre: "c", from: "a", to: "b" },
    ],
  },
  { id: "t", type: "revolve", name: "Ball", sketch: ["kb"], as: "sheet", axis: "y" },
];
/** Each tool of the stage: what is picked in which list, and what comes of it. */
const TOOLS: [label: string, picks: [list: string, names: string[]][], pieces: string, out: RegExp][] = [
  [
    "Split",
    [
      ["Stock", ["Left"]],
      ["Cutters", ["Level"]],
    ],
    "2 pieces",
    /Comes out: 2 bodies/,
  ],
  ["Choose pieces", [["Bodies that divide each other", ["Left", "Right"]]], "3 pieces", /Comes out: 3 bodies/],
  [
    "Plug and seat",
    [
      ["Stock", ["Left"]],
      ["Cutters", ["Peg"]],
    ],
    "1785.4 mm³",
    /Comes out: 2 bodies/,
  ],
  [
    "Split and close",
    [
      ["Stock", ["Ball"]],
      ["Cutters", ["Level"]],
    ],
    "2 pieces",
    /Comes out: 2 bodies/,
  ],
  [
    "Trim",
    [
      ["Stock", ["Left"]],
      ["Cutters", ["Level"]],
    ],
    "1 stays, 6000 mm³",
    /Comes out: 1 body/,
  ],
  ["Trim each other", [["Stock", ["Wall", "Fin"]]], "2 stay", /Comes out: 2 bodies/],
  [
    "Subtract",
    [
      ["Stock", ["Left"]],
      ["Cutters", ["Peg"]],
    ],
    "1 stays, 7215 mm³",
    /Comes out: 1 body/,
  ],
  [
    "Carve through",
    [
      ["Stock", ["Ball"]],
      ["Cutters", ["Drill"]],
    ],
    "1 stays",
    /Comes out: 1 body/,
  ],
  ["Union", [["Stock", ["Left", "Right"]]], "12 cm³", /Comes out: 1 body/],
  ["Intersect", [["Stock", ["Left", "Right"]]], "4000 mm³", /Comes out: 1 body/],
  [
    "Fill",
    [
      ["Bodies around it", ["Cup"]],
      ["What else bounds it", ["Brim"]],
    ],
    "4000 mm³",
    /Comes out: 1 body/,
  ],
];

test("every tool of the stage, by clicking", async ({ page }) => {
  test.setTimeout(120_000);
  const id = await postJob(page, [
    cube("a", "Left", 0),
    cube("b", "Right", 10),
    { id: "c", type: "cylinder", name: "Peg", diameter: 10, height: 20, at: [0, 0, 10] },
    { id: "w", type: "workplane", name: "Level", base: "xy", offset: 5 },
    ...sheet("p", "Wall", [-20, 0], [20, 0]),
    ...sheet("q", "Fin", [0, -20], [0, 20]),
    ...ball,
    { id: "d", type: "cylinder", name: "Drill", diameter: 8, height: 60, axis: "x", at: [-30, 0, 0] },
    { id: "e", type: "box", name: "Cup", size: [30, 30, 15], at: [80, 0, 0] },
    { id: "h", type: "shell", body: ["e"], open: [{ body: "e:block", face: "e:side:z+" }], thickness: 5 },
    { id: "v", type: "workplane", name: "Brim", base: "xy", offset: 15 },
  ]);
  await page.goto(`/jobs/${id}`);
  await built(page);
  const tray = page.getByRole("region", { name: "Pieces" });
  for (const [label, picks, pieces, out] of sampled(TOOLS, 2)) {
    await tool(page, "Seam", label);
    for (const [list, names] of picks)
      for (const name of names)
        await open(page)
          .getByRole("group", { name: list, exact: true })
          .getByRole("checkbox", { name, exact: true })
          .click();
    await built(page);
    await expect(tray, label).toContainText(pieces);
    await expect(tray, label).toContainText(out);
    await open(page).getByRole("button", { name: "Discard" }).click();
    await expect(open(page)).toBeHidden();
  }
});

test("a cutting face stays picked while the preset is changed: behind it goes, or stays", async ({ page }) => {
  await openStep(
    page,
    [
      cube("a", "Stock block", 0),
      { id: "c", type: "cylinder", name: "Drill", diameter: 10, height: 6, at: [0, 0, 30] },
      {
        id: "s",
        type: "seam",
        preset: "trim",
        stock: ["a"],
        cutterFaces: [{ body: "c:cylinder", face: "c:side" }],
        runOn: true,
      },
    ],
    "s",
    "Trim",
  );
  const tray = page.getByRole("region", { name: "Pieces" });
  const preset = (name: string) => open(page).getByRole("radio", { name, exact: true }).click();
  // A bore of 10 mm through 20 mm: 1571 mm³ of 8000.
  for (const [name, list, stays] of [
    ["Subtract", "Faces: what lies behind them goes", "1 stays, 6429 mm³"],
    ["Intersect", "Faces: what lies behind them stays", "1 stays, 1571 mm³"],
    ["Trim", "Cutting faces", "1 stays, 6429 mm³"],
  ] as const) {
    await preset(name);
    await built(page);
    await expect(open(page).getByRole("group", { name: list })).toContainText("Cylindrical, Ø10 mm");
    await expect(tray, name).toContainText(stays);
  }
});
