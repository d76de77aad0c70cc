import { Random } from "./trust/random";
import { SCENES } from "./trust/scenes";

/** Jobs by chance of all families, each as a part of one: what is evaluated twice and in several hosts, and compared. */
export function partsByChance(count: number): { id: string; name: string; steps: Record<string, unknown>[] }[] {
  return Array.from({ length: count }, (_, i) => {
    const random = new Random(61_000 + i);
    const scene = SCENES[i % SCENES.length]!;
    const { steps } = scene.draw(scene.sizes(random));
    return { id: `p${i + 1}`, name: `${scene.name} ${i + 1}`, steps };
  });
}
