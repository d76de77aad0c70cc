import type { Thing } from "@/core/check";
import { SeamError } from "@/core/errors";
import type { BenchItem } from "@/core/evaluate";
import { has } from "@/core/items";
import { topologyNames } from "@/core/naming";
import type { Target } from "../contract";

/** What a target names. @throws SeamError when it is there no longer. */
export function thingOf(bench: readonly BenchItem[], { body: id, part }: Target): Thing {
  const item = bench.find((entry) => entry.item.id === id)?.item;
  const gone = () =>
    new SeamError({ code: "measured-gone", message: "What was measured is there no longer. Pick again." });
  if (item && has(item, "path") && !part) return { curve: item };
  if (!item || !has(item, "body")) throw gone();
  if (!part) return { body: item };
  const names = topologyNames(item.shape, item.faces);
  const list = { face: item.faces, edge: names.edges, corner: names.vertices }[part.kind];
  const place = list.indexOf(part.name);
  if (place < 0) throw gone();
  return { body: item, part: { kind: part.kind, place } };
}
