import type { RegionView, SketchView } from "@/engine/contract";
import type { WorkspaceStore } from "./workspace-store";

/** A region as a step refers to it. */
export interface RegionRef {
  key: string;
  inner?: [number, number];
}

/** The open step's sketch and the regions it has chosen; null when the open step takes none. */
export function openRegions({ editing, evaluation }: Pick<WorkspaceStore, "editing" | "evaluation">) {
  if (!editing || !("regions" in editing.step)) return null;
  const [ref] = editing.step.sketch as string[];
  const items = evaluation?.before ?? evaluation?.items ?? [];
  const sketch = items.find(
    (item): item is SketchView => item.kind === "sketch" && (item.id === ref || item.step === ref),
  );
  return sketch ? { sketch, refs: editing.step.regions as RegionRef[] } : null;
}

const means = (ref: RegionRef, region: RegionView, regions: readonly RegionView[]): boolean => {
  if (ref.key !== region.key) return false;
  const twins = regions.filter(({ key }) => key === region.key);
  if (twins.length === 1 || !ref.inner) return true;
  const away = ({ inner }: RegionView) => Math.hypot(inner[0] - ref.inner![0], inner[1] - ref.inner![1]);
  return twins.every((twin) => away(region) <= away(twin));
};

/** Which regions are taken, by place: those chosen, or all that are no holes while none is. */
export function takenRegions({ regions }: SketchView, refs: readonly RegionRef[]): boolean[] {
  if (refs.length === 0) return regions.map(({ filled }) => filled);
  return regions.map((region) => refs.some((ref) => means(ref, region, regions)));
}

/** Takes a region, or leaves it; the last one cannot be left, since none chosen means all. */
export function toggleRegion(sketch: SketchView, refs: readonly RegionRef[], place: number): RegionRef[] {
  const taken = takenRegions(sketch, refs).map((is, i) => (i === place ? !is : is));
  const chosen = sketch.regions.filter((_, i) => taken[i]);
  if (chosen.length === 0) return [...refs];
  if (sketch.regions.every(({ filled }, i) => filled === taken[i])) return [];
  return chosen.map(({ key, inner }) => ({ key, inner }));
}
