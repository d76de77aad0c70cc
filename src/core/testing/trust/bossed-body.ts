import type { Body } from "../../items";
import { buildSteps } from "../harness";
import type { Random } from "./random";

/** A block with bosses and pockets by chance, some of them leaning. */
export function bossedBody(random: Random): { body: Body; steps: Record<string, unknown>[] } {
  const size = (low: number, high: number) => Math.round(random.between(low, high) * 100) / 100;
  const steps: Record<string, unknown>[] = [{ id: "a", type: "box", size: [60, 50, 20] }];
  let last = "a";
  const count = random.whole(1, 3);
  for (let i = 0; i < count; i++) {
    const at = [size(-18, 18), size(-14, 14), size(8, 16)];
    const id = `t${i}`;
    steps.push(
      random.pick([
        { id, type: "box", size: [size(6, 20), size(6, 20), size(8, 16)], at },
        { id, type: "cylinder", diameter: size(5, 18), height: size(8, 16), at },
        { id, type: "cone", diameter: size(10, 20), top: size(3, 8), height: size(8, 16), at },
        { id, type: "sphere", diameter: size(8, 16), at },
      ]),
    );
    if (random.chance(0.3))
      steps.push({ id: `m${i}`, type: "move", bodies: [id], turn: size(-20, 20), axis: random.pick(["x", "y"]) });
    const preset = random.pick(["union", "subtract"]);
    const roles = preset === "union" ? { stock: [last, id] } : { stock: [last], cutters: [id], keepCutters: false };
    steps.push({ id: `s${i}`, type: "seam", preset, ...roles });
    last = `s${i}`;
  }
  const built = buildSteps(...steps);
  return { body: built.bodies.find(({ id }) => id.startsWith(`${last}:`))!, steps };
}
