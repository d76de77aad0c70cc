import type { GapPlace } from "@/core/check";
import { has } from "@/core/items/kinds";
import type { BodyView, CurveView, ItemView, Measurement, Target } from "@/engine/contract";
import type { Hover } from "./workspace-store";

/** What is being measured: one thing or two, and what came of it. */
export interface Measuring {
  picked: readonly Hover[];
  result: Measurement | null;
  trouble: string | null;
  /** A place of the gap between the two that is looked at, drawn in the view. */
  place: GapPlace | null;
}

export const NOTHING_MEASURED: Measuring = { picked: [], result: null, trouble: null, place: null };

/** After a click: the first thing, then the second; a third begins anew. The same again takes it out. */
export function afterMeasurePick({ picked }: Measuring, hit: Hover): Measuring {
  const same = (a: Hover) => a.id === hit.id && a.face === hit.face && a.edge === hit.edge && a.corner === hit.corner;
  if (picked.some(same)) return { ...NOTHING_MEASURED, picked: picked.filter((thing) => !same(thing)) };
  return { ...NOTHING_MEASURED, picked: picked.length >= 2 ? [hit] : [...picked, hit] };
}

/** The part of a body that was picked, by name; null for the whole. */
export function partOf(body: BodyView, { face, edge, corner }: Hover): Target["part"] | null {
  if (corner !== undefined) return { kind: "corner", name: body.corners[corner]!.name };
  if (edge !== undefined) return { kind: "edge", name: body.edges[edge]?.name ?? "" };
  return face === null ? null : { kind: "face", name: body.faces[face]!.name };
}

/** Whether something of an item can be measured, or the whole of it. */
export const isMeasured = (item: ItemView): item is BodyView | CurveView => has(item, "body") || has(item, "path");

function targetOf(item: BodyView | CurveView, picked: Hover): Target {
  const part = has(item, "body") ? partOf(item, picked) : null;
  return { body: item.id, ...(part ? { part } : {}) };
}

/** What is picked, by name: of what is there. */
export const targetsOf = (items: readonly (BodyView | CurveView)[], picked: readonly Hover[]): Target[] =>
  picked.flatMap((thing) => {
    const item = items.find(({ id }) => id === thing.id);
    return item ? [targetOf(item, thing)] : [];
  });
