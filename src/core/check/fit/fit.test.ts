import { beforeAll, describe, expect, test } from "vitest";
import type { WantedFit } from "../../fit/audit";
import { ownHandle } from "../../kernel";
import { loadNodeKernel } from "../../kernel/library/node";
import { checked } from "../../testing/checks";
import { buildSteps } from "../../testing/harness";
import type { AskedFit } from "../check-run";
import { fitsOf } from "./fits";

beforeAll(loadNodeKernel);

type Step = Record<string, unknown>;
const plate: Step = { id: "a", type: "box", name: "Plate", size: [60, 40, 10] };
const bore: Step = { id: "h", type: "cylinder", diameter: 12, height: 30, at: [0, 0, -10] };
const cut: Step = { id: "s", type: "seam", preset: "subtract", stock: ["a"], cutters: ["h"], keepCutters: false };
const pin = (diameter: number): Step => ({
  id: "p",
  type: "cylinder",
  name: "Pin",
  diameter,
  height: 30,
  at: [0, 0, -10],
});
const lid: Step = { id: "l", type: "box", name: "Lid", size: [60, 40, 5], at: [0, 0, 10.2] };

const asked = (built: ReturnType<typeof buildSteps>, wanted: Partial<WantedFit>): AskedFit => ({
  place: 0,
  wanted: { want: "gap", least: 0, most: 0, ...wanted } as never,
  ends: ["s:", "p:"].map((start) => {
    const body = built.bodies.find(({ id }) => id.startsWith(start)) ?? null;
    return { part: "part", name: start, body };
  }) as AskedFit["ends"],
  problem: null,
});

describe("bodies against each other", () => {
  test("what shares room comes first and is to be looked at; gaps by their size; what is further off is left out", () => {
    const built = buildSteps(plate, bore, cut, pin(12.5), lid, {
      id: "o",
      type: "sphere",
      name: "Ball",
      at: [0, 0, 99],
    });
    const result = checked(built, "fit", { within: 1 });
    expect(result.good).toBe(false);
    expect(result.summary).toBe("Of 6 pairs of bodies 2 share room, 0 touch; 2 to be looked at.");
    expect(result.found.map(({ cells }) => cells.slice(0, 2))).toEqual([
      ["Pin – Lid", expect.stringMatching(/^sharing/)],
      ["Plate – Pin", expect.stringMatching(/^sharing/)],
      ["Plate – Lid", "apart"],
    ]);
    // A pin 0.5 thicker than its bore presses by a quarter of a millimetre.
    expect(result.found[1]!.cells[2]).toEqual({ length: expect.closeTo(-0.25, 6) });
    const { pair, faces, body } = result.found[2]!;
    expect(body).toBe(pair!.one.body);
    expect(faces.length * pair!.other.faces.length).toBe(1);
    expect(pair!.at[1][2] - pair!.at[0][2]).toBeCloseTo(0.2, 9);
  });

  test("what was brought in and is as it was there is that very body, and lies in nothing", () => {
    const built = buildSteps(plate, lid);
    const bodies = [
      ...built.bodies,
      { ...built.bodies[0]!, id: "other:of:a:block", shape: ownHandle(built.bodies[0]!.shape) },
    ];
    const result = checked(
      { ...built, bodies, bench: [...built.bench, { ...built.bench[0]!, item: bodies[2]! }] },
      "fit",
    );
    expect(result.summary).toContain("Of 2 pairs of bodies none shares room");
  });

  test("one body alone", () => {
    expect(checked(buildSteps(plate), "fit").summary).toBe("There is only one body: nothing to hold it against.");
  });

  test("what is refused: a gap below nothing", () => {
    expect(() => checked(buildSteps(plate), "fit", { within: -1 })).toThrow("Gaps up to");
  });
});

describe("wanted fits", () => {
  const report = (diameter: number, wanted: Partial<WantedFit>) => {
    const built = buildSteps(plate, bore, cut, pin(diameter));
    return fitsOf([asked(built, wanted)])[0]!;
  };
  test.each<[string, number, Partial<WantedFit>, boolean, string]>([
    ["at least so far apart", 11.5, { want: "gap", least: 0.25 }, true, "at least 0.25 mm"],
    ["nearer", 11.5, { want: "gap", least: 0.3 }, false, "at least 0.3 mm wanted: 0.25 mm apart"],
    ["touching where a gap is wanted", 12, { want: "gap", least: 0.1 }, false, "wanted: touching"],
    ["apart at all: touching will do", 12, { want: "gap", least: 0 }, true, "at least 0 mm"],
    ["sharing room where a gap is wanted", 12.1, { want: "gap", least: 0 }, false, "sharing"],
    ["touching", 12, { want: "touch" }, true, "touching"],
    ["not touching", 11.9, { want: "touch" }, false, "0.05 mm apart"],
    ["pressed in as wanted", 12.04, { want: "press", least: 0.01, most: 0.03 }, true, "0.01 mm to 0.03 mm of press"],
    ["pressed in too far", 12.1, { want: "press", least: 0.01, most: 0.03 }, false, "0.05 mm deep"],
    ["not pressed in", 12, { want: "press", least: 0.01, most: 0.03 }, false, "touching"],
  ])("%s", (_, diameter, wanted, holds, words) => {
    const found = report(diameter, wanted);
    expect(found.holds).toBe(holds);
    expect(found.words).toContain(words);
  });

  test("what cannot be told is said: a body that is gone, one that has become the other, limits the wrong way round", () => {
    const built = buildSteps(plate, bore, cut, pin(12));
    const fit = asked(built, {});
    const gone: AskedFit = { ...fit, ends: [fit.ends[0], { ...fit.ends[1], body: null }] };
    const same: AskedFit = { ...fit, ends: [fit.ends[0], fit.ends[0]] };
    const turned = asked(built, { want: "press", least: 3, most: 1 } as never);
    const reports = fitsOf([gone, same, turned]);
    expect(reports.map(({ holds }) => holds)).toEqual([null, null, null]);
    expect(reports[0]!.words).toContain("is not there");
    expect(reports[1]!.words).toContain("both are one body");
  });
});
