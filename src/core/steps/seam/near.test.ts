import { beforeAll, describe, expect, test } from "vitest";
import type { Repair } from "../../errors";
import { insertBefore, insertedStep } from "../../job";
import { loadNodeKernel } from "../../kernel/library/node";
import { build, jobOf, relative } from "../../testing/harness";

beforeAll(loadNodeKernel);

type Step = { id: string; type: string } & Record<string, unknown>;

/** A job built as it is, and with what a repair of its last step adds. */
function before(...steps: Step[]) {
  const job = jobOf(steps);
  const built = build(job);
  const report = built.step(steps.at(-1)!.id);
  const mended = (repair: Repair) => {
    const part = structuredClone(job.parts[0]!);
    insertBefore(part, insertedStep(part, repair.insert!, job), repair.step);
    return build({ ...job, parts: [part] });
  };
  return { report, mended };
}

const block = (id: string, size: number[], at: number[]): Step => ({
  id,
  type: "box",
  name: id.toUpperCase(),
  size,
  at,
});
const union: Step = { id: "s", type: "seam", preset: "union", stock: ["a", "b"] };

describe("what nearly meets", () => {
  test("bodies a hair's breadth apart: by how much, and one press moves the one against the other", () => {
    const { report, mended } = before(
      block("a", [40, 30, 20], [0, 0, 0]),
      block("b", [10, 10, 10], [25.02, 0, 5]),
      union,
    );
    const [warning] = report.warnings;
    expect(warning!.code).toBe("union-apart");
    expect(warning!.message).toContain("0.02 mm");
    expect(warning!.others!.map(({ label }) => label)).toEqual([
      "Move B by 0.020 mm, against A",
      "Move A by 0.020 mm, against B",
    ]);
    for (const repair of warning!.others!) {
      const after = mended(repair);
      expect(after.step("s")).toMatchObject({ state: "good" });
      expect(after.reports).toHaveLength(1);
      expect(relative(after.reports[0]!.volume!, 40 * 30 * 20 + 1000)).toBeLessThan(1e-9);
    }
  });

  test("no move is offered where they are far apart, or would only touch along an edge", () => {
    const far = before(block("a", [40, 30, 20], [0, 0, 0]), block("b", [10, 10, 10], [26, 0, 5]), union);
    expect(far.report.warnings[0]!.others ?? []).toEqual([]);
    const edge = before(block("a", [40, 30, 20], [0, 0, 0]), block("b", [10, 10, 10], [25.02, 20.02, 5]), union);
    expect(edge.report.warnings[0]!.code).toBe("union-apart");
    expect(edge.report.warnings[0]!.others ?? []).toEqual([]);
  });

  test("faces nearly in one plane: the step that a union leaves, and the skin that a pocket does", () => {
    const stepped = before(block("a", [40, 30, 20], [0, 0, 0]), block("b", [20, 30, 20], [25, 0, 0.004]), union);
    const [warning] = stepped.report.warnings;
    expect(warning).toMatchObject({ code: "near-faces", bodies: ["a:block", "b:block"] });
    expect(warning!.message).toMatch(/^Faces of A and B are 0.0040 mm from lying in one plane: that leaves a step/);
    expect(warning!.repair!.label).toBe("Move B by 0.0040 mm, against A");
    const flush = stepped.mended(warning!.repair!);
    expect(flush.step("s")).toMatchObject({ state: "good" });
    expect(flush.reports[0]!.faces).toBe(6);

    const pocket: Step = {
      id: "s",
      type: "seam",
      preset: "subtract",
      stock: ["a"],
      cutters: ["b"],
      keepCutters: false,
    };
    const webbed = before(block("a", [40, 30, 20], [0, 0, 0]), block("b", [10, 10, 30], [0, 0, 0.006]), pocket);
    const [skin] = webbed.report.warnings;
    expect(skin!.message).toContain("that leaves a skin too small to be made");
    const through = webbed.mended(skin!.repair!);
    expect(through.step("s")).toMatchObject({ state: "good" });
    // A hole right through: a ring of four walls.
    expect(through.reports[0]!).toMatchObject({ genus: 1, faces: 10 });
  });

  test("nothing is said where what is made has no such place", () => {
    const none = (...steps: Step[]) =>
      expect(before(...steps).report.warnings.filter(({ code }) => code === "near-faces")).toEqual([]);
    const a = block("a", [40, 30, 20], [0, 0, 0]);
    const pocket: Step = { id: "s", type: "seam", preset: "subtract", stock: ["a"], cutters: ["b"] };
    // The cutter comes out of the top by a hair; a boss sunk in by a hair; a bar all within, with its end near the top's plane.
    none(a, block("b", [10, 10, 10.005], [0, 0, 10]), pocket);
    none(a, block("b", [10, 10, 10], [0, 0, 19.995]), union);
    none(a, block("b", [10, 10, 10], [0, 0, 9.995]), union);
    // A slot a hair wide is left between a boss and a wall that it nearly touches.
    const slot = before(
      block("a", [40, 30, 20], [0, 0, 0]),
      block("wall", [5, 30, 20], [17.5, 0, 20]),
      block("b", [10, 30, 20.001], [9.996, 0, 19.999]),
      { ...union, stock: ["a", "wall", "b"] },
    );
    expect(slot.report.warnings.map(({ message }) => message).join()).toContain("that leaves a slot too small");
  });

  test("nothing is said where faces lie in one plane, or well apart", () => {
    for (const z of [0, 0.5]) {
      const { report } = before(block("a", [40, 30, 20], [0, 0, 0]), block("b", [20, 30, 20], [25, 0, z]), union);
      expect(report).toMatchObject({ state: "good" });
    }
  });

  test("an enclosure that leaks by a hair is closed by moving one of its bodies", () => {
    const plates = [
      block("floor", [40, 40, 5], [0, 0, -5]),
      block("lid", [40, 40, 5], [0, 0, 20.02]),
      block("left", [5, 40, 20], [-17.5, 0, 0]),
      block("right", [5, 40, 20], [17.5, 0, 0]),
      block("front", [30, 5, 20], [0, -17.5, 0]),
      block("back", [30, 5, 20], [0, 17.5, 0]),
    ];
    const fill: Step = { id: "s", type: "seam", preset: "fill", stock: plates.map(({ id }) => id) };
    const { report, mended } = before(...plates, fill);
    expect(report.error).toMatchObject({ code: "nothing-enclosed" });
    expect(report.error!.message).toContain("0.02 mm");
    const offered = [report.error!.repair, ...(report.error!.others ?? [])].find((one) => one?.insert);
    expect(offered!.label).toMatch(/^Move LID by 0.020 mm, against|^Move .* by 0.020 mm, against LID/);
    const after = mended(offered!);
    expect(after.step("s").state).toBe("good");
    const room = after.reports.find(({ id }) => id.startsWith("s:"))!;
    expect(relative(room.volume!, 30 * 30 * 20)).toBeLessThan(1e-9);
  });
});
