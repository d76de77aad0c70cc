import { beforeAll, describe, expect, test } from "vitest";
import { changesOf, type Job, repaired } from "../../job";
import { loadNodeKernel } from "../../kernel/library/node";
import { build, jobOf } from "../../testing/harness";

beforeAll(loadNodeKernel);

const block = { id: "b", type: "box", size: [60, 40, 30] };
/** The top of a pad inside the block, as a sheet with one edge past a side and the rest within. */
const pad = (id: string, z: number) => ({ id, type: "box", size: [30, 20, z], at: [0, 0, 0] });
const lid = (id: string, of: string) => ({
  id,
  type: "offset-sheet",
  faces: [{ body: of, face: `${of}:side:z+` }],
  extend: 0.5,
});
/** A drawn line, drawn out upwards from the floor: too low by 18 mm. */
const line = {
  id: "k",
  type: "sketch",
  entities: [
    { id: "p", type: "point", x: 10, y: -50 },
    { id: "q", type: "point", x: 10, y: 50 },
    { id: "l", type: "line", from: "p", to: "q" },
  ],
};
const wall = { id: "e", type: "extrude", sketch: ["k"], as: "sheet", distance: 12 };
const split = (...cutters: string[]) => ({ id: "s", type: "seam", preset: "split", stock: ["b"], cutters });

function mended(job: Job): Job {
  const { error } = build(job).step("s");
  const changes = new Map(changesOf(error!.repair!).map((change) => [change.step, change.set] as const));
  const [part] = job.parts;
  const steps = part!.steps.map((step) =>
    changes.has(step.id) ? { ...step, ...repaired(step, changes.get(step.id)!) } : step,
  );
  return { ...job, parts: [{ ...part!, steps }] };
}

describe("several cutters that fall short", () => {
  test("are told at once: each by how much, each place marked", () => {
    const job = jobOf([block, pad("c", 10), lid("u", "c"), pad("d", 20), lid("v", "d"), split("u", "v")]);
    const { error } = build(job).step("s");
    // From 15.5 to 30 across, and from 10.5 to 20: the longer of the two is what is missing.
    expect(error!.message).toBe(
      "2 cutters stop short: Sheet inside Block by 14.5 mm; Sheet 2 inside Block by 14.5 mm. Extend them, or use workplanes.",
    );
    expect([error!.at, ...error!.places!]).toHaveLength(2);
    expect(error!.bodies).toEqual(["u:sheet", "b:block", "v:sheet"]);
  });

  test("one press makes all reach, each in the way that its step can: extended, or drawn out", () => {
    const job = jobOf([block, pad("c", 10), lid("u", "c"), line, wall, split("u", "e")]);
    const { error } = build(job).step("s");
    expect(error!.repair).toEqual({
      label: "Make all 2 reach",
      step: "u",
      set: { extend: { add: 16 } },
      with: [{ step: "e", set: { distance: { add: 38 } } }],
    });
    const after = build(mended(job));
    expect(after.step("s")).toMatchObject({ state: "good" });
    expect(after.reports.filter(({ id }) => id.startsWith("s:"))).toHaveLength(4);
  });

  test("a cutter that passes by is told with them, and the repair is offered only where it mends the step", () => {
    const beside = { id: "w", type: "workplane", base: "yz", offset: 33 };
    const job = jobOf([block, pad("c", 10), lid("u", "c"), pad("d", 20), lid("v", "d"), beside, split("u", "v", "w")]);
    const { error } = build(job).step("s");
    expect(error!.message).toMatch(/^2 cutters stop short: .* Workplane misses Block by 3 mm\. Extend them/);
    expect(error!.places).toHaveLength(2);
    // With both sheets run on, the workplane alone misses: that is a warning, the others cut.
    const after = build(mended(job));
    expect(after.step("s")).toMatchObject({ state: "warned" });
  });

  test("one falls short and another only touches: each is told as what it is", () => {
    const skin = { ...lid("v", "d"), distance: 10, extend: 40 };
    const { error } = build(jobOf([block, pad("c", 10), lid("u", "c"), pad("d", 20), skin, split("u", "v")])).step("s");
    expect(error!.message).toBe(
      "Sheet stops short inside Block. It has to reach 14.5 mm further. Extend it, or use a workplane. Sheet 2 only touches the skin of Block.",
    );
  });

  test("all pass by: each is told", () => {
    const high = { id: "h", type: "workplane", base: "xy", offset: 31 };
    const beside = { id: "w", type: "workplane", base: "yz", offset: -32 };
    const { error } = build(jobOf([block, high, beside, split("h", "w")])).step("s");
    expect(error!.message).toBe(
      "Nothing is divided: Workplane misses Block by 1 mm; Workplane 2 misses Block by 2 mm. Move them into the stock.",
    );
    expect([error!.at, ...error!.places!]).toHaveLength(2);
  });
});
