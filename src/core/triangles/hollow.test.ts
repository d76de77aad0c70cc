import { beforeAll, describe, expect, test } from "vitest";
import { evaluatePart, ResultCache } from "../evaluate";
import { has } from "../items/kinds";
import { distanceToPoint, tessellate, volumeUnder } from "../kernel";
import { loadNodeKernel } from "../kernel/library/node";
import { build, jobOf, relative } from "../testing/harness";
import { hollowRoughly } from "./hollow";

beforeAll(loadNodeKernel);

type Step = Record<string, unknown>;
const FINE = { linear: 0.02, angular: 0.1 };

const block = { id: "b", type: "box", size: [60, 50, 40] };
const bar = { id: "b", type: "cylinder", diameter: 50, height: 60 };
const point = (id: string, x: number, y: number) => ({ id, type: "point", x, y });
const outline = [
  point("p0", 0, 0),
  point("p1", 45, 0),
  point("p2", 45, 70),
  point("p3", 18, 97),
  point("p4", 18, 120),
  point("p5", 0, 120),
];
const flask = [
  {
    id: "sk",
    type: "sketch",
    on: "zx",
    entities: [
      ...outline,
      ...outline.map(({ id }, i) => ({ id: `l${i}`, type: "line", from: id, to: outline[(i + 1) % 6]!.id })),
    ],
  },
  { id: "b", type: "revolve", sketch: ["sk"], axis: "line", line: "l5" },
];
/** The flask with its foot rounded. */
const foot = { body: "b:solid", print: { kind: "circle", length: 90 * Math.PI, at: [45, 0, 0] } };
const footed = [...flask, { id: "f", type: "fillet", edges: [foot], radius: 6 }];

/** The triangles of a hollow, and the hollow itself. */
function both(steps: Step[], more: Step) {
  const job = jobOf([...steps, { id: "h", type: "shell", body: ["b:solid"], ...more }]);
  const exact = build(job);
  expect(exact.step("h").error?.message ?? null).toBeNull();
  const plain = evaluatePart(job, job.parts[0]!, {
    cache: new ResultCache(),
    file: () => undefined,
    upTo: "h",
    parties: "h",
  });
  const { hollow } = plain;
  expect(has(hollow!.body, "closed")).toBe(true);
  const mesh = hollowRoughly(tessellate(hollow!.body.shape, FINE), hollow!);
  const far = (list: Float32Array) => {
    let most = 0;
    // Some of many.
    const step = 3 * Math.max(1, Math.floor(list.length / 3 / 120));
    for (let i = 0; i < list.length; i += step)
      most = Math.max(most, distanceToPoint(exact.bodies[0]!.shape, [list[i]!, list[i + 1]!, list[i + 2]!])!.gap);
    return most;
  };
  return { exact, mesh, far };
}

const open = (face: string) => [{ body: "b:solid", face }];

describe("a hollow as triangles", () => {
  test.each<[string, Step[], Step]>([
    ["a block, closed", [block], { thickness: 3 }],
    ["a block, open above", [block], { thickness: 3, open: open("b:side:z+") }],
    [
      "a block, open above, with a thick floor",
      [block],
      { thickness: 3, open: open("b:side:z+"), walls: "two", faces2: open("b:side:z-"), thickness2: 7 },
    ],
    ["a block, walls outside", [block], { thickness: 3, outward: true, open: open("b:side:z+") }],
    ["a bar, open at one end", [bar], { thickness: 4, open: open("b:cap:end") }],
    ["a flask, open at its mouth", flask, { thickness: 3, open: open("b:side:l4") }],
    ["a flask with a round foot", footed, { thickness: 3, open: open("b:side:l4") }],
  ])("%s: closed, every corner of it and of its lines on the hollow, and as large", (_, steps, more) => {
    const { exact, mesh, far } = both(steps, more);
    expect(far(mesh.positions)).toBeLessThan(2e-3);
    expect(far(mesh.lines)).toBeLessThan(2e-3);
    // Triangles that do not close hold another volume when they are moved.
    const held = volumeUnder(mesh);
    const moved = Float32Array.from(mesh.positions, (value) => value + 500);
    expect(relative(volumeUnder({ ...mesh, positions: moved }), held)).toBeLessThan(1e-3);
    expect(relative(held, exact.reports[0]!.volume!)).toBeLessThan(0.02);
  });

  test("past a rounding that is used up nothing is drawn within the room", () => {
    const { exact, mesh } = both(footed, { thickness: 8, open: open("b:side:l4") });
    expect(exact.step("h").state).toBe("good");
    const room = (r: number, z: number) => r < 37 - 1e-3 && z > 8 + 1e-3 && z < 60;
    for (let i = 0; i < mesh.positions.length; i += 3)
      expect(room(Math.hypot(mesh.positions[i]!, mesh.positions[i + 1]!), mesh.positions[i + 2]!)).toBe(false);
  });

  test("what is made smaller, or hollowed on one side of a plane, is not drawn so", () => {
    const plane = { id: "w", type: "workplane", base: "yz", offset: 12 };
    for (const more of [{ how: "smaller" }, { part: "front", about: "workplane", plane: ["w"] }]) {
      const job = jobOf([block, plane, { id: "h", type: "shell", body: ["b:solid"], thickness: 3, ...more }]);
      const options = { cache: new ResultCache(), file: () => undefined, upTo: "h", parties: "h" };
      expect(evaluatePart(job, job.parts[0]!, options).hollow).toBeUndefined();
    }
  });
});
