import { beforeAll, describe, expect, test } from "vitest";
import { loadNodeKernel } from "../../kernel/library/node";
import { buildSteps, relative } from "../../testing/harness";
import { Random } from "../../testing/trust/random";

beforeAll(loadNodeKernel);

type Step = Record<string, unknown>;

const block = { id: "a", type: "box", name: "Block", size: [60, 40, 20] };
const level = (offset: number): Step => ({ id: "w", type: "workplane", name: "Level", base: "xy", offset });
const seam = (more: Step = {}): Step => ({ id: "s", type: "seam", stock: ["a"], cutters: ["w"], ...more });

function result(...steps: Step[]) {
  const built = buildSteps(...steps);
  const { state, error, warnings } = built.step("s");
  const own = built.reports.filter(({ id }) => id.startsWith("s:"));
  return { state, error, warnings, own, volume: own.reduce((sum, one) => sum + one.volume!, 0) };
}

describe("slivers", () => {
  test("a plane that lies nearly in a face: told with how thin, where, and what may be done", () => {
    for (const thick of [0.004, 2e-5, 0.0099]) {
      const { state, warnings, own } = result(block, level(20 - thick), seam());
      expect(state).toBe("warned");
      expect(own).toHaveLength(2);
      const [told] = warnings;
      expect(told).toMatchObject({ code: "sliver", bodies: ["a:block"] });
      expect(told!.message).toMatch(
        /^Piece \d is a sliver, [\d.]+(e-\d+)? (mm|µm) thick: faces lie that near to each other there\./,
      );
      expect(told!.at![2]).toBeCloseTo(20, 1);
      expect(told!.others!.map(({ label }) => label)).toEqual([
        expect.stringMatching(/^Merge it into piece \d$/),
        "Scrap it",
      ]);
      const one = result(block, level(20 - thick), seam(told!.others![0]!.set as Step));
      expect([one.state, one.own.length]).toEqual(["good", 1]);
      expect(one.own[0]).toMatchObject({ name: "Block", valid: true, faces: 6 });
      expect(relative(one.volume, 60 * 40 * 20)).toBeLessThan(1e-12);
      const gone = result(block, level(20 - thick), seam(told!.others![1]!.set as Step));
      expect([gone.state, gone.own.length]).toEqual(["good", 1]);
      expect(relative(gone.volume, 60 * 40 * (20 - thick))).toBeLessThan(1e-12);
    }
  });

  test("thicker than a hair is none; what is small all round is none", () => {
    expect(result(block, level(19.9), seam()).warnings).toEqual([]);
    const small = { id: "a", type: "box", size: [0.02, 0.02, 0.02] };
    const { warnings } = result(small, level(0.01), seam());
    expect(warnings).toEqual([]);
  });

  test("along an edge, aslant, and between round faces", () => {
    // A corner cut off so little that a needle is left, 0.004 across.
    const needle = {
      id: "w",
      type: "workplane",
      base: "normal",
      through: [30 - 0.002, 20 - 0.002, 0],
      normal: [1, 1, 0],
    };
    expect(result(block, needle, seam()).warnings.map(({ code }) => code)).toEqual(["sliver"]);
    // A bar bored out to all but a skin of it.
    const bar = { id: "a", type: "cylinder", diameter: 30, height: 40 };
    const bore = { id: "w", type: "cylinder", diameter: 30 - 0.01, height: 60, at: [0, 0, -10] };
    const skin = result(bar, bore, seam());
    expect(skin.warnings.map(({ code }) => code)).toEqual(["sliver"]);
    const merged = result(bar, bore, seam({ mergeUnder: 0.01 }));
    expect(merged.own).toHaveLength(1);
    expect(relative(merged.volume, Math.PI * 225 * 40)).toBeLessThan(1e-9);
  });

  test("merged into what is scrapped they go with it; what was decided on stays as it is", () => {
    const trim = (more: Step) => seam({ preset: "trim", keepSide: { w: "front" }, ...more });
    const kept = result(block, level(20 - 0.004), trim({}));
    expect(kept.warnings.map(({ code }) => code)).toEqual(["sliver"]);
    expect(result(block, level(20 - 0.004), trim({ mergeUnder: 0.01 })).error!.code).toBe("nothing-left");
    const back = result(block, level(20 - 0.004), seam({ preset: "trim", keepSide: { w: "back" } }));
    expect(back.warnings).toEqual([]);
    const [told] = result(block, level(20 - 0.004), seam()).warnings;
    const scrap = (told!.others![1]!.set as Step).fates as { fate: string }[];
    const decided = result(
      block,
      level(20 - 0.004),
      seam({ mergeUnder: 0.01, fates: scrap.map((rule) => ({ ...rule, fate: "keep" })) }),
    );
    expect([decided.state, decided.own.length]).toEqual(["good", 2]);
  });

  test("a limit of one's own: all that is thinner, wherever it lies; merged pieces add up to the whole", () => {
    const random = new Random(7);
    for (let i = 0; i < 8; i++) {
      const offsets = Array.from({ length: 4 }, () => random.between(1, 19)).sort((a, b) => a - b);
      offsets.splice(2, 0, offsets[1]! + random.between(0.05, 0.4));
      const planes = offsets.map((offset, k) => ({ ...level(offset), id: `w${k}` }));
      const under = random.between(0.02, 0.9);
      const { own, volume, state } = result(
        block,
        ...planes,
        seam({ cutters: planes.map(({ id }) => id), mergeUnder: under }),
      );
      expect(["good", "warned"]).toContain(state);
      expect(relative(volume, 60 * 40 * 20)).toBeLessThan(1e-12);
      // Slabs: their mean thickness is a little less than their height, as their rims count as skin.
      const heights = [0, ...offsets, 20].slice(1).map((top, k) => top - [0, ...offsets][k]!);
      const mean = (h: number) => (60 * 40 * h) / (60 * 40 + 100 * h);
      expect(own).toHaveLength(heights.filter((h) => mean(h) >= under || h / 49 >= 0.05).length);
    }
  });
});

describe("a sheet that is closed all round and no solid", () => {
  const ball: Step[] = [
    {
      id: "k",
      type: "sketch",
      entities: [
        { id: "c", type: "point", x: 0, y: 0 },
        { id: "p", type: "point", x: 0, y: -20 },
        { id: "q", type: "point", x: 0, y: 20 },
        { id: "arc", type: "arc", centre: "c", from: "p", to: "q" },
      ],
    },
    { id: "a", type: "revolve", name: "Skin", sketch: ["k"], as: "sheet", axis: "y" },
  ];

  test("is told where a cut would leave it open, and may be closed", () => {
    const open = result(...ball, level(5), seam());
    expect(open.state).toBe("warned");
    expect(open.warnings[0]).toMatchObject({
      code: "skin-not-solid",
      message: "Skin is a sheet closed all round, and no solid: where it is cut it is left open.",
      others: [{ label: "Close what is cut", step: "s", set: { close: true } }],
    });
    const closed = result(...ball, level(5), seam({ close: true }));
    expect([closed.state, closed.own.map(({ kind }) => kind)]).toEqual(["good", ["solid", "solid"]]);
  });
});
