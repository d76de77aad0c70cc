import { inSpace } from "../space/plane-frame";
import { dot, sub, type Vec3 } from "../space/vectors";
import type { LoftOutline } from "./loft";
import type { BoundaryStep } from "./outline";

/** Where each step of an outline begins, in space. */
export function cornersOf({ frame, places, stretches, outline }: LoftOutline): Vec3[] {
  return outline.map(({ stretch, forwards }) => {
    const { start, end } = stretches[stretch]!;
    return inSpace(frame, places[forwards ? start : end]!);
  });
}

const reversed = (outline: readonly BoundaryStep[]): BoundaryStep[] =>
  [...outline].reverse().map(({ stretch, forwards }) => ({ stretch, forwards: !forwards }));

const rotated = (outline: readonly BoundaryStep[], by: number): BoundaryStep[] => {
  const at = ((by % outline.length) + outline.length) % outline.length;
  return [...outline.slice(at), ...outline.slice(0, at)];
};

/**
 * Outlines with the same number of curves, each running the same way round and beginning where its corners lie nearest to
 * those of the one before; moved on by as many corners as asked for.
 * @param starts by how many corners the start of each is moved on. @returns null when the numbers of curves differ.
 */
export function matchOutlines(sections: readonly LoftOutline[], starts: readonly number[]): LoftOutline[] | null {
  const count = sections[0]!.outline.length;
  if (sections.some(({ outline }) => outline.length !== count)) return null;
  const matched: LoftOutline[] = [];
  sections.forEach((section, s) => {
    const before = matched[s - 1];
    if (!before) {
      matched.push({ ...section, outline: rotated(section.outline, starts[s] ?? 0) });
      return;
    }
    const turned = dot(section.frame.normal, before.frame.normal) < 0;
    const outline = turned ? reversed(section.outline) : section.outline;
    const goal = relative(cornersOf(before));
    const misfits = outline.map((_, by) => {
      const corners = relative(cornersOf({ ...section, outline: rotated(outline, by) }));
      return corners.reduce((sum, corner, i) => sum + dot(sub(corner, goal[i]!), sub(corner, goal[i]!)), 0);
    });
    const best = misfits.indexOf(Math.min(...misfits));
    matched.push({ ...section, outline: rotated(outline, best + (starts[s] ?? 0)) });
  });
  return matched;
}

/** Corners from their own middle: where a section lies says nothing of which corner is which. */
function relative(corners: readonly Vec3[]): Vec3[] {
  const middle = [0, 1, 2].map((k) => corners.reduce((sum, corner) => sum + corner[k]!, 0) / corners.length);
  return corners.map((corner) => sub(corner, middle as unknown as Vec3));
}
