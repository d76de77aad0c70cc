import { beforeAll, expect, test } from "vitest";
import { loadNodeKernel } from "../kernel/library/node";
import { build, jobOf } from "../testing/harness";
import { Random } from "../testing/trust/random";

beforeAll(loadNodeKernel);

const SCENES = Number(process.env.PROOF_FILLS ?? 4);
const SEED = Number(process.env.PROOF_SEED ?? 711);
type Step = Record<string, unknown>;

/** Sizes on a grid of two, so that faces lie in one another, touch and miss by nothing as often as not. */
function solid(id: string, random: Random): Step {
  const size = () => random.nice(4, 34, 2);
  const at = () => [random.nice(-30, 30, 2), random.nice(-24, 24, 2), random.nice(-6, 36, 2)];
  const axis = random.pick(["x", "y", "z"]);
  return random.pick([
    () => ({ id, type: "box", size: [size(), size(), size()], at: at() }),
    () => ({ id, type: "cylinder", diameter: size(), height: size(), axis, at: at() }),
    () => ({ id, type: "sphere", diameter: size(), at: at() }),
    () => ({ id, type: "cone", diameter: size(), top: random.pick([0, 2]), height: size(), at: at() }),
    () => ({ id, type: "torus", diameter: 20 + size(), section: random.nice(2, 10, 2), at: at() }),
  ])();
}

function plane(id: string, random: Random): Step {
  if (random.chance(0.5))
    return { id, type: "workplane", base: random.pick(["xy", "yz", "zx"]), offset: random.nice(-10, 20, 2) };
  const any = () => random.between(-1, 1);
  return {
    id,
    type: "workplane",
    base: "normal",
    normal: [any(), any(), any()],
    through: [0, 0, random.nice(4, 26, 2)],
  };
}

test("what is enclosed among solids in a closed box is the box within, less the solids, divided by the planes", () => {
  const random = new Random(SEED);
  let told = 0;
  for (let scene = 0; scene < SCENES; scene++) {
    const solids = Array.from({ length: random.whole(1, 3) }, (_, i) => solid(`s${i}`, random));
    const planes = Array.from({ length: random.whole(0, 2) }, (_, i) => plane(`p${i}`, random));
    const ids = (steps: Step[]) => steps.map(({ id }) => id);
    const box = [
      { id: "o", type: "box", size: [176, 164, 152], at: [0, 0, -60] },
      { id: "w", type: "shell", body: ["o"], thickness: 60, open: [] },
    ];
    const within = { id: "n", type: "box", size: [56, 44, 32], at: [0, 0, 0] };
    const place = JSON.stringify([...solids, ...planes]);
    const made = (steps: Step[], last: string) => {
      const built = build(jobOf(steps));
      const { error } = built.step(last);
      if (error) return error.code;
      const reports = built.reports.filter(({ id }) => id.startsWith(`${last}:`));
      // A body that touches itself is told to (`pinches`), and is none to the library's own check.
      for (const { closed, valid, pinches } of reports)
        expect({ closed, valid: valid || pinches.length > 0 }, place).toEqual({ closed: true, valid: true });
      return reports.map(({ volume }) => volume!).sort((a, b) => a - b);
    };
    const fill = { id: "f", type: "seam", preset: "fill", stock: ["w", ...ids(solids)], cutters: ids(planes) };
    const filled = made([...box, ...solids, ...planes, fill], "f");
    const cut = { id: "c", type: "seam", preset: "subtract", stock: ["n"], cutters: ids(solids) };
    const left = made([within, ...solids, cut], "c");
    const rest = left === "cutter-misses" ? [within] : [within, ...solids, cut];
    const body = left === "cutter-misses" ? "n" : "c";
    const split = { id: "d", type: "seam", preset: "split", stock: [body], cutters: ids(planes) };
    const parts =
      planes.length === 0 || !Array.isArray(left)
        ? left === "cutter-misses" && planes.length === 0
          ? [56 * 44 * 32]
          : left === "cutter-misses"
            ? made([...rest, ...planes, split], "d")
            : left
        : made([...rest, ...planes, split], "d");
    const expected = parts === "cutter-misses" ? (Array.isArray(left) ? left : [56 * 44 * 32]) : parts;
    if (expected === "nothing-left") {
      expect(filled, place).toBe("nothing-enclosed");
      continue;
    }
    if (typeof filled === "string" || typeof expected === "string") {
      // Told as what the library cannot do, here or by the other way: seldom, and never as something else.
      for (const answer of [filled, expected])
        if (typeof answer === "string") expect(answer, place).toBe("division-failed");
      told++;
      continue;
    }
    expect(filled.length, `${place}: ${filled} for ${expected}`).toBe(expected.length);
    filled.forEach((volume, i) => {
      expect(Math.abs(volume - expected[i]!) / (56 * 44 * 32), place).toBeLessThan(1e-6);
    });
  }
  expect(told).toBeLessThanOrEqual(Math.ceil(SCENES / 20));
});
