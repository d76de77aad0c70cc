import { beforeAll, describe, expect, test } from "vitest";
import { contains, innerPoint, surfaceCentre } from "../../kernel";
import { loadNodeKernel } from "../../kernel/library/node";
import { build, buildSteps, jobOf } from "../../testing/harness";
import { SketchMaker } from "../../testing/sketches";
import { Random } from "../../testing/trust/random";

beforeAll(loadNodeKernel);

type Step = Record<string, unknown>;

const box = (id: string, size: number[], at: number[] = [0, 0, 0]): Step => ({ id, type: "box", name: id, size, at });
const choose = (stock: string[], more: Step = {}): Step => ({
  id: "s",
  type: "seam",
  preset: "choose",
  stock,
  ...more,
});
const plane = (id: string, offset: number, base = "xy"): Step => ({ id, type: "workplane", name: id, base, offset });

function result(...steps: Step[]) {
  const built = build(jobOf(steps), { pieces: "s" });
  const { state, error, warnings } = built.step("s");
  const own = built.reports.filter(({ id }) => id.startsWith("s:"));
  const volumes = own.map(({ volume }) => volume!).sort((p, q) => p - q);
  return { built, state, error, warnings, own, volumes };
}

describe("pieces are chosen of bodies that divide each other", () => {
  // 20 × 20 × 20 and as much again, moved by 10: 4000 each alone, 4000 in both.
  const two = [box("a", [20, 20, 20]), box("b", [20, 20, 20], [10, 0, 0])];

  test("what two share is one piece; all stay until someone says otherwise", () => {
    const { volumes, state, warnings } = result(...two, choose(["a", "b"]));
    expect(volumes.map((volume) => volume.toFixed(6))).toEqual(["4000.000000", "4000.000000", "4000.000000"]);
    expect([state, warnings]).toEqual(["good", []]);
  });

  test("chosen by rule: in both, in one alone, joined as one", () => {
    const both = { sides: { a: "in", b: "in" } };
    const rule = (where: object, fate: string, group?: string) => ({ where, fate, ...(group ? { group } : {}) });
    expect(result(...two, choose(["a", "b"], { rules: [rule({}, "scrap"), rule(both, "keep")] })).volumes).toHaveLength(
      1,
    );
    const less = result(...two, choose(["a", "b"], { rules: [rule({ sides: { b: "in" } }, "scrap")] }));
    expect(less.volumes[0]).toBeCloseTo(4000, 6);
    const { volumes } = result(...two, choose(["a", "b"], { rules: [rule({}, "group", "All")] }));
    expect(volumes).toHaveLength(1);
    expect(volumes[0]).toBeCloseTo(12000, 6);
  });

  test("planes divide them, too, and so do solids that are only cutters: what is in those alone is nobody's", () => {
    const { volumes } = result(...two, plane("w", 5), choose(["a", "b"], { cutters: ["w"] }));
    expect(volumes).toHaveLength(6);
    expect(volumes.reduce((sum, volume) => sum + volume, 0)).toBeCloseTo(12000, 6);
    const c = box("c", [6, 60, 6], [5, 0, 7]);
    const holed = result(...two, c, choose(["a", "b"], { cutters: ["c"] }));
    expect(holed.volumes).toHaveLength(4);
    expect(holed.volumes[0]).toBeCloseTo(6 * 20 * 6, 6);
  });

  test("a body that shares nothing and that nothing cuts is told; so is a cutter that stops short or misses", () => {
    const { warnings } = result(...two, box("c", [5, 5, 5], [90, 0, 0]), choose(["a", "b", "c"]));
    expect(warnings.map(({ code, bodies }) => [code, bodies])).toEqual([["stock-missed", ["c:block"]]]);
    const miss = result(...two, plane("w", 50), plane("v", 8), choose(["a", "b"], { cutters: ["w", "v"] }));
    expect(miss.warnings.map(({ code }) => code)).toEqual(["cutter-misses"]);
    const draft = new SketchMaker();
    draft.line("l", [-5, -30], [-5, 4]);
    const short = [{ id: "k", type: "sketch", entities: draft.entities }, choose(["a", "b"], { cutters: ["k"] })];
    expect(result(...two, ...short).error).toMatchObject({ code: "cutter-short" });
  });

  test("bodies apart from each other, one alone with a cutter, one alone with none", () => {
    const apart = result(box("a", [5, 5, 5]), box("b", [5, 5, 5], [50, 0, 0]), choose(["a", "b"]));
    expect(apart.warnings.map(({ code }) => code)).toEqual(["stock-missed", "stock-missed"]);
    expect(result(box("a", [20, 20, 20]), plane("w", 5), choose(["a"], { cutters: ["w"] })).volumes).toHaveLength(2);
    expect(result(box("a", [20, 20, 20]), choose(["a"])).error).toMatchObject({ code: "nothing-picked" });
  });

  test("sheets that cross cut one another; sheets among solids are refused, with what to do", () => {
    const sheet = (id: string, from: [number, number], to: [number, number]): Step[] => {
      const draft = new SketchMaker();
      draft.line("l", from, to);
      const sketch = { id: `k${id}`, type: "sketch", entities: draft.entities };
      return [sketch, { id, type: "extrude", name: id, sketch: [`k${id}`], as: "sheet", distance: 10 }];
    };
    const sheets = [...sheet("p", [-20, 0], [20, 0]), ...sheet("q", [0, -20], [0, 20])];
    expect(result(...sheets, choose(["p", "q"])).own.map(({ area }) => area.toFixed(6))).toEqual(
      Array.from({ length: 4 }, () => "200.000000"),
    );
    expect(result(...two, ...sheets, choose(["a", "p"])).error).toMatchObject({
      code: "solids-or-sheets",
      message: expect.stringContaining("p is a sheet among solids. Let it cut instead."),
    });
  });

  test("turned into a split and back, with what was picked and decided", () => {
    const rules = [{ where: { sides: { w: "front" } }, fate: "scrap" }];
    const steps = (preset: string): Step[] => [
      ...two,
      plane("w", 5),
      choose(["a", "b"], { preset, cutters: ["w"], rules }),
    ];
    expect(result(...steps("choose")).volumes).toHaveLength(3);
    // Each body by itself: what both share is there twice.
    expect(result(...steps("split")).volumes).toHaveLength(2);
    expect(result(...steps("choose")).volumes.reduce((sum, volume) => sum + volume, 0)).toBeCloseTo(3000, 6);
  });
});

/** Two or three bodies by chance, all near the origin. */
function bodiesBy(random: Random): { ids: string[]; bodies: (Step & { id: string; at: number[] })[] } {
  const any = () => random.between(-9, 9);
  const ids = ["a", "b", "c"].slice(0, random.whole(2, 3));
  const bodies = ids.map((id) => ({
    ...random.pick<Step>([
      { type: "sphere", diameter: random.between(14, 24) },
      { type: "cylinder", diameter: random.between(8, 18), height: 40 },
      { type: "box", size: [random.between(9, 22), random.between(9, 22), random.between(9, 22)] },
    ]),
    id,
    name: id,
    at: [any(), any(), any() - 9],
  }));
  return { ids, bodies };
}

type Built = ReturnType<typeof result>["built"];
const bodyOf = ({ bodies }: Built, id: string) => bodies.find((body) => body.id.startsWith(`${id}:`))!;
/** The bodies that a piece lies in, by a point of it. */
const within = (built: Built, ids: readonly string[], shape: Parameters<typeof innerPoint>[0]) => {
  const at = innerPoint(shape)!;
  return ids.filter((id) => contains(bodyOf(built, id).shape, at));
};

test("by chance: each piece lies in the bodies that it says, the pieces of each add up to it, and what is joined is the union", () => {
  const random = new Random(77);
  for (let round = 0; round < 6; round++) {
    const { ids, bodies } = bodiesBy(random);
    const { built, own } = result(...bodies, choose(ids, { keepStock: true }));
    const sums = new Map<string, number>();
    for (const { piece, shape } of built.pieces!) {
      expect([...piece.stock].sort()).toEqual(within(built, ids, shape).map((id) => bodyOf(built, id).id));
      const { volume } = own.find(({ id }) => id === `s:${piece.key}`)!;
      for (const id of piece.stock) sums.set(id, (sums.get(id) ?? 0) + volume!);
    }
    for (const id of ids) {
      const { id: whole } = bodyOf(built, id);
      expect(sums.get(whole)! / built.reports.find((report) => report.id === whole)!.volume!).toBeCloseTo(1, 7);
    }
    const union = buildSteps(...bodies, { id: "s", type: "seam", preset: "union", stock: ids });
    const all = result(...bodies, choose(ids, { rules: [{ where: {}, fate: "group", group: "g" }] }));
    const sum = (list: readonly { volume: number | null }[]) => list.reduce((total, { volume }) => total + volume!, 0);
    expect(sum(all.own) / sum(union.reports.filter(({ id }) => id.startsWith("s:")))).toBeCloseTo(1, 7);
  }
});

test("by chance: what was said of a piece goes with it when bodies are moved and sized, or is asked about", () => {
  const random = new Random(5000);
  const any = (most: number) => random.between(-most, most);
  let right = 0;
  for (let round = 0; round < 8; round++) {
    const { ids, bodies } = bodiesBy(random);
    const first = result(...bodies, choose(ids, { keepStock: true })).built;
    const { piece, shape } = random.pick(first.pieces!);
    const then = within(first, ids, shape).join();
    const fates = [
      { piece: { kind: piece.kind, faces: piece.faces, mark: piece.mark, at: surfaceCentre(shape) }, fate: "scrap" },
    ];
    for (let edit = 0; edit < 2; edit++) {
      const moved = bodies.map((body) => ({
        ...body,
        at: body.at.map((value) => value + any(2)),
        ...("diameter" in body ? { diameter: Number(body.diameter) * random.between(0.85, 1.2) } : {}),
      }));
      const { built, state, warnings } = result(...moved, choose(ids, { keepStock: true, fates }));
      if (state === "failed") continue;
      const scrapped = built.pieces!.filter((one) => one.fate.fate === "scrap");
      if (scrapped.length === 0) expect(warnings.map(({ code }) => code)).toContain("check-pieces");
      else right++;
      for (const one of scrapped) expect(within(built, ids, one.shape).join()).toBe(then);
    }
  }
  expect(right).toBeGreaterThan(8);
});
