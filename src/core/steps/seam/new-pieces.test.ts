import { beforeAll, describe, expect, test } from "vitest";
import { surfaceCentre } from "../../kernel";
import { loadNodeKernel } from "../../kernel/library/node";
import { seenOf } from "../../seam";
import { build, jobOf } from "../../testing/harness";
import { Random } from "../../testing/trust/random";

beforeAll(loadNodeKernel);

type Step = Record<string, unknown>;

/** A bar of 60 × 20 × 20 with cuts across it, at so many places. */
const planes = (at: readonly number[]): Step[] =>
  at.map((offset, i) => ({ id: `w${i}`, type: "workplane", name: `Cut ${i + 1}`, base: "yz", offset }));
const bar: Step = { id: "a", type: "box", name: "Bar", size: [60, 20, 20] };
const cut = (count: number, more: Step = {}): Step => ({
  id: "s",
  type: "seam",
  stock: ["a"],
  cutters: Array.from({ length: count }, (_, i) => `w${i}`),
  ...more,
});

function result(...steps: Step[]) {
  const built = build(jobOf(steps), { pieces: "s" });
  const { state, error, warnings } = built.step("s");
  const made = built.reports.filter(({ id }) => id.startsWith("s:")).length;
  return { pieces: built.pieces!, state, error, warnings, made };
}

/** What the step remembers of its pieces, and a decision on the one that lies furthest along the bar. */
function decided(...steps: Step[]): Step {
  const { pieces } = result(...steps);
  const refs = pieces.map(({ piece, shape }) => ({
    kind: piece.kind,
    faces: [...new Set(piece.faces)],
    mark: piece.mark,
    at: surfaceCentre(shape),
  }));
  const end = refs.reduce((far, ref) => (ref.at[0] > far.at[0] ? ref : far));
  return { seen: seenOf(pieces.map(({ piece }) => piece.kind)), fates: [{ piece: end, fate: "scrap" }] };
}

/** Two posts on a plate, or more: what stands above a level is of one kind. */
const posts = (count: number, offset = 10): Step[] => [
  { id: "p", type: "box", name: "Plate", size: [100, 20, 10], at: [40, 0, 0] },
  { id: "q", type: "box", name: "Post", size: [4, 4, 20], at: [0, 0, 5] },
  { id: "r", type: "pattern", bodies: ["q"], kind: "rows", axis: "x", count, spacing: 20 },
  { id: "u", type: "seam", preset: "union", stock: ["p", "q", "r"] },
  { id: "w", type: "workplane", name: "Level", base: "xy", offset },
];
const above = (more: Step = {}): Step => ({ id: "s", type: "seam", stock: ["u"], cutters: ["w"], ...more });

describe("a piece that nobody knew when the others were decided on", () => {
  test("is told as new, with what the step does with it and what may be said; said, it is new no more", () => {
    const more = decided(bar, ...planes([0]), cut(1));
    expect(result(bar, ...planes([0]), cut(1, more))).toMatchObject({ state: "good", made: 1 });
    // Another cutter, which lies beside what was decided on: both pieces of the other half are new.
    const steps = [bar, ...planes([0, -15])];
    const { warnings, made } = result(...steps, cut(2, more));
    expect(made).toBe(2);
    const told = warnings.find(({ code }) => code === "new-pieces")!;
    expect(told.message).toBe(
      "2 pieces (1, 2) are new since somebody decided on the pieces of this step. By what the step does they are kept: say whether that is right.",
    );
    expect(told.pieces).toHaveLength(2);
    expect(told.others!.map(({ label }) => label)).toEqual(["That is right", "Keep all 2", "Scrap all 2"]);
    for (const { label, set } of told.others!) {
      const after = result(...steps, cut(2, { ...more, ...set }));
      expect(
        after.warnings.map(({ code }) => code),
        label,
      ).not.toContain("new-pieces");
    }
  });

  test("of a kind that has become more, how many are new, and among which", () => {
    const more = decided(...posts(2), above());
    expect(result(...posts(2), above(more)).warnings).toEqual([]);
    const { warnings } = result(...posts(4), above(more));
    expect(warnings.map(({ code }) => code)).toEqual(["new-among"]);
    expect(warnings[0]!.message).toMatch(/^2 of the pieces [\d, ]+ are new since somebody decided/);
    expect(warnings[0]!.others!.map(({ label }) => label)).toEqual(["That is right"]);
  });

  test("is not told where a rule speaks of it, where fewer are left, and where nobody decided on any", () => {
    const more = decided(...posts(2), above());
    const rules = [{ where: { sides: { w: "front" } }, fate: "scrap" }];
    expect(result(...posts(4), above({ ...more, rules })).warnings.map(({ code }) => code)).not.toContain("new-among");
    const codes = result(...posts(1), above({ ...more, fates: [] })).warnings.map(({ code }) => code);
    expect(codes).toEqual([]);
    expect(result(...posts(4), above()).warnings).toEqual([]);
  });

  test("of what is filled, joined and shared, too", () => {
    const box = (id: string, x: number): Step => ({ id, type: "box", name: id, size: [20, 20, 20], at: [x, 0, 0] });
    for (const preset of ["choose", "union"]) {
      const steps = (count: number) => [box("a", 0), box("b", 12), box("c", 24)].slice(0, count);
      const seam = (count: number, more: Step = {}): Step => ({
        id: "s",
        type: "seam",
        preset,
        stock: ["a", "b", "c"].slice(0, count),
        ...more,
      });
      const more = decided(...steps(2), seam(2));
      expect(result(...steps(2), seam(2, more)).warnings).toEqual([]);
      expect(result(...steps(3), seam(3, more)).warnings.map(({ code }) => code)).toContain("new-pieces");
    }
  });
});

test("by chance: after any edit, a piece more than there were is told, decided on, under a rule, or asked about", () => {
  const random = new Random(4411);
  let told = 0;
  for (let round = 0; round < 14; round++) {
    const places = (count: number) => Array.from({ length: count }, () => random.between(-29, 29));
    const first = places(random.whole(1, 3));
    const more = decided(bar, ...planes(first), cut(first.length));
    const then = result(bar, ...planes(first), cut(first.length)).pieces.length;
    const second = [...first.map((at) => at + random.between(-2, 2)), ...places(random.whole(0, 2))];
    const { pieces, warnings } = result(bar, ...planes(second), cut(second.length, more));
    const known = warnings.flatMap(({ code, pieces: about }) => (code.startsWith("new-") ? (about ?? []) : []));
    if (pieces.length > then) {
      const asked = warnings.some(({ code }) => code === "check-pieces");
      expect(known.length > 0 || asked).toBe(true);
      told++;
    } else if (second.length === first.length) expect(known).toEqual([]);
  }
  expect(told).toBeGreaterThan(3);
});
