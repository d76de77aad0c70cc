import { beforeAll, describe, expect, test } from "vitest";
import { loadNodeKernel } from "../kernel/library/node";
import { build, jobOf, volumeOfStep } from "../testing/harness";
import { ResultCache } from ".";

beforeAll(loadNodeKernel);

const parameter = (name: string, formula: number | string, unit = "mm") => ({ name, formula, unit });

describe("steps driven by parameters", () => {
  const steps = [
    { id: "a", type: "box", size: ["width", "width / 2", "1/2 in"], at: ["gap + 1/8 in", 0, 0] },
    { id: "b", type: "cylinder", diameter: "bore", height: 40, at: ["gap + 1/8 in", 0, -5] },
    { id: "c", type: "sphere", diameter: 10, at: [200, 0, 0] },
    { id: "s", type: "seam", preset: "subtract", stock: ["a"], cutters: ["b"] },
    { id: "t", type: "move", bodies: ["c"], turn: "tilt * 2", by: [0, 0, 5] },
  ];
  const job = (width: number, bore: number | string = "max(wall * 4, 0.8 mm)") =>
    jobOf(steps, {
      parameters: [
        parameter("width", width),
        parameter("wall", 2),
        parameter("gap", 0.25),
        parameter("bore", bore),
        parameter("tilt", 15, "deg"),
      ],
    });

  test("the volume by closed form", () => {
    const built = build(job(60));
    expect(built.steps.map((step) => step.state)).toEqual(["good", "good", "good", "good", "good"]);
    expect(volumeOfStep(built, "s")).toBeCloseTo(60 * 30 * 12.7 - Math.PI * 16 * 12.7, 6);
  });

  test("a change builds only what depends on it", () => {
    const cache = new ResultCache();
    const before = build(job(60), { cache });
    const after = build(job(70), { cache });
    const same = after.steps.filter((step, i) => step.key === before.steps[i]!.key).map(({ id }) => id);
    expect(same).toEqual(["b", "c", "t"]);
    expect(volumeOfStep(after, "s")).toBeCloseTo(70 * 35 * 12.7 - Math.PI * 16 * 12.7, 6);
  });

  test("another way to write the same number builds nothing", () => {
    const cache = new ResultCache();
    const before = build(job(60), { cache });
    const after = build(job(60, 8), { cache });
    expect(after.steps.map(({ key }) => key)).toEqual(before.steps.map(({ key }) => key));
  });

  test.each([
    ["wall - 5 mm", "Diameter: has to be more than 0 mm; it is -3 mm (bore)."],
    ["bore * 2", "Diameter: bore needs bore: a formula cannot need its own result. Give one of them a number."],
    ["tilt", "Diameter: bore has no value: The result is an angle, and this is a length."],
  ])("%s: the step says what is wrong, and the others go on", (bore, message) => {
    const built = build(job(60, bore!));
    expect(built.steps.map((step) => step.state)).toEqual(["good", "failed", "good", "waiting", "good"]);
    expect(built.step("b").error).toMatchObject({ code: "value", field: "diameter" });
    expect(built.step("b").error!.message).toBe(message);
  });
});

test("named dimensions of a sketch drive later steps, and each other", () => {
  const steps = [
    {
      id: "plate",
      type: "sketch",
      entities: [
        { id: "p", type: "point", x: 0, y: 0 },
        { id: "c", type: "circle", centre: "p", radius: 5 },
        { id: "h", type: "circle", centre: "p", radius: 2 },
      ],
      dimensions: [
        { id: "d1", type: "diameter", of: ["c"], name: "outer", value: "wide / 2" },
        { id: "d2", type: "diameter", of: ["h"], name: "bore", value: "plate.outer - 20 mm" },
      ],
    },
    { id: "e", type: "extrude", sketch: ["plate"], distance: "plate.bore / 4" },
  ];
  const built = build(jobOf(steps, { parameters: [parameter("wide", 100)] }));
  expect(built.steps.map(({ state }) => state)).toEqual(["good", "good"]);
  expect(volumeOfStep(built, "e")).toBeCloseTo(Math.PI * (625 - 225) * 7.5, 6);
  const circular = structuredClone(steps);
  circular[0]!.dimensions![0]!.value = "plate.bore * 2";
  expect(build(jobOf(circular, { parameters: [parameter("wide", 100)] })).step("plate").error!.message).toContain(
    "Dimension outer: plate.bore needs plate.outer needs plate.bore: a formula cannot need its own result.",
  );
});
