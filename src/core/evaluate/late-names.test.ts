import { beforeAll, describe, expect, test } from "vitest";
import { loadNodeKernel } from "../kernel/library/node";
import { build, jobOf } from "../testing/harness";
import { ResultCache } from "./cache";
import { named, worded } from "./late-names";
import { fromStored, toStored } from "./result";

beforeAll(loadNodeKernel);

describe("words of a result that is kept", () => {
  const job = () =>
    jobOf([
      { id: "a", type: "box", size: [10, 10, 10] },
      { id: "b", type: "box", size: [10, 10, 10], at: [40, 0, 0] },
      { id: "p", type: "workplane", base: "yz" },
      { id: "s", type: "seam", preset: "trim", stock: ["a", "b"], cutters: ["p"] },
      { id: "f", type: "shell", body: ["a:block"], thickness: 80 },
    ]);

  test("call a body as it is called now, though nothing is built anew: in warnings and in errors", () => {
    const cache = new ResultCache();
    const part = job();
    const before = build(part, { cache });
    expect(before.step("s").warnings[0]!.message).toMatch(/^Workplane does not reach Block 2,/);
    expect(before.step("f").error!.message).toMatch(/^Block /);
    part.parts[0]!.names["b:block"] = "Left rail";
    part.parts[0]!.names["a:block"] = "Carrier";
    const after = build(part, { cache });
    expect(after.step("s").key).toBe(before.step("s").key);
    expect(after.step("s").warnings[0]!.message).toMatch(/^Workplane does not reach Left rail,/);
    expect(after.step("f").error!.message).toMatch(/^Carrier /);
  });

  test("also when it was stored", () => {
    const part = job();
    const { results, step } = build(part);
    const kept = JSON.parse(JSON.stringify(toStored(results.get(step("s").key!)!)));
    part.parts[0]!.names["b:block"] = "Left rail";
    const again = build(part, { stored: (key) => (key === kept.key ? fromStored(kept) : undefined) });
    expect(again.step("s").warnings[0]!.message).toContain("Left rail");
  });

  test("hold no sign that people see, whatever they are told of", () => {
    const { steps } = build(job());
    expect(JSON.stringify(steps)).not.toContain("u0001");
  });

  test("are put in where repairs are offered, too", () => {
    const trouble = worded(
      {
        code: "x",
        message: `${named("a:b")} and ${named("c")} meet.`,
        repair: { label: `Take ${named("c")}`, step: "s", set: {} },
        others: [{ label: named("a:b"), step: "s", set: {} }],
      },
      (id) => `<${id}>`,
    );
    expect(trouble).toMatchObject({
      message: "<a:b> and <c> meet.",
      repair: { label: "Take <c>" },
      others: [{ label: "<a:b>" }],
    });
  });
});
