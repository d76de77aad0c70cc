import {
  type CornerRef,
  type EdgeRef,
  type FaceRef,
  writeCornerRef,
  writeEdgeRef,
  writeFaceRef,
} from "@/core/references";
import type { BodyView, CornerView, EdgeView, FaceView } from "@/engine/contract";
import type { Found } from "./whereabouts";

/** The reference that a step keeps of a picked edge. */
export const edgeRef = (body: BodyView, edge: EdgeView): EdgeRef => writeEdgeRef(body.id, edge);

export const cornerRef = (body: BodyView, corner: CornerView): CornerRef => writeCornerRef(body.id, corner);

/** Takes a reference in or out; where only so many may be picked, the newest replace the oldest. */
export function togglePart<T extends object>(value: T[], ref: T, same: (a: T, b: T) => boolean, max?: number): T[] {
  const without = value.filter((other) => !same(other, ref));
  if (without.length < value.length) return without;
  const next = [...value, ref];
  return max === undefined ? next : next.slice(-max);
}

export const sameEdge = (a: EdgeRef, b: EdgeRef): boolean => a.body === b.body && a.edge === b.edge;
export const sameFace = (a: FaceRef, b: FaceRef): boolean => a.body === b.body && a.face === b.face;
export const sameCorner = (a: CornerRef, b: CornerRef): boolean => a.body === b.body && a.corner === b.corner;

/** The same, with what was picked earlier taken as it is called today. */
export const asNow =
  <T extends FaceRef | EdgeRef | CornerRef>(found: Found, same: (a: T, b: T) => boolean) =>
  (kept: T, picked: T): boolean => {
    const now = found.part(kept)?.now;
    return now !== undefined && same(now, picked);
  };

/** The reference that a step keeps of a picked face. */
export const faceRef = (body: BodyView, face: FaceView): FaceRef => writeFaceRef(body.id, face);

/** An item as far as references go: it is meant by its own id and by that of the step that made it. */
interface Item {
  id: string;
  step: string;
}

const means = (ref: string, { id, step }: Item): boolean => ref === id || ref === step;

/** The items that references mean: a step's id stands for all that it made. */
export const meant = (refs: readonly string[], items: readonly Item[]): string[] =>
  items.filter((item) => refs.some((ref) => means(ref, item))).map(({ id }) => id);

/** References that mean nothing of what is there now. */
export const unmeant = (refs: readonly string[], items: readonly Item[]): string[] =>
  refs.filter((ref) => !items.some((item) => means(ref, item)));

/**
 * Takes an item in or out; where only so many may be picked, the newest replace the oldest. What stands for several items
 * becomes those; what means nothing now stays, since it may mean something again.
 */
export function toggleItem(value: readonly string[], id: string, items: readonly Item[], max?: number): string[] {
  const each = value.flatMap((ref) => {
    const own = items.filter((item) => means(ref, item)).map((item) => item.id);
    return own.length > 0 ? own : [ref];
  });
  const plain = [...new Set(each)];
  if (plain.includes(id)) return plain.filter((other) => other !== id);
  const next = [...plain, id];
  return max === undefined ? next : next.slice(-max);
}
