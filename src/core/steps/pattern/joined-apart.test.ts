import { beforeAll, describe, expect, test } from "vitest";
import { loadNodeKernel } from "../../kernel/library/node";
import { build, jobOf } from "../../testing/harness";

beforeAll(loadNodeKernel);

type Step = Record<string, unknown>;

/** Two bars, each in a row of copies that are joined where they touch, with the row's pitch and the first bar's length. */
const rows = (pitch: number, length: number, ...more: Step[]) => [
  { id: "a", type: "box", size: [length, 10, 6], at: [0, 0, 0] },
  { id: "b", type: "box", size: [12, 10, 6], at: [0, 40, 0] },
  { id: "p", type: "pattern", bodies: ["a", "b"], kind: "rows", count: 4, spacing: pitch, join: true },
  ...more,
];
const made = (steps: Step[], names: Record<string, string> = {}) =>
  build(jobOf([], { parts: [{ id: "part", name: "Part", steps, names }] }));

describe("copies that stay several bodies are known by where they lie", () => {
  const first = () => made(rows(30, 20));
  const at = (built: ReturnType<typeof made>, x: number, y: number) =>
    built.reports.find(({ box }) => box!.min[0] < x && x < box!.max[0] && box!.min[1] < y && y < box!.max[1])!;

  test("each has an id of its own, and says which bar it comes from", () => {
    const built = first();
    expect(built.step("p").made).toHaveLength(8);
    expect(new Set(built.step("p").made).size).toBe(8);
  });

  test.each([0, 1, 2, 3])("the name and a later step stay with copy %d when the bars and the pitch change", (copy) => {
    for (const y of [0, 40]) {
      const { id } = at(first(), 30 * copy, y);
      for (const [pitch, length] of [
        [30, 26],
        [34, 20],
        [27, 15],
      ] as const) {
        const built = made(rows(pitch, length), { [id]: "Chosen" });
        const named = built.reports.filter(({ name }) => name === "Chosen").map((report) => report.id);
        const asked = built.step("p").warnings.filter(({ code }) => code === "mention-unclear");
        // Named as it was meant, or asked: never another.
        if (named.length > 0) expect(named).toEqual([at(built, pitch * copy, y).id]);
        else expect(asked).toHaveLength(1);
        const lifted = made(rows(pitch, length, { id: "m", type: "move", bodies: [id], by: [0, 0, 100] }));
        if (lifted.step("m").state === "failed") continue;
        const up = lifted.reports.find(({ box }) => box!.min[2] > 50)!;
        expect(at({ ...lifted, reports: [up] }, pitch * copy, y)).toBeDefined();
      }
    }
  });

  test("a bar of one lump keeps the name that it had in older jobs", () => {
    const built = made(rows(15, 20));
    expect(built.step("p").made).toContain("p:group:union:a:block");
    expect(made(rows(10, 20), { "p:group:union:b:block": "Chosen" }).reports.map(({ name }) => name)).toContain(
      "Chosen",
    );
  });
});
