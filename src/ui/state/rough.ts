import { type ItemView, isBodyView, type PieceView, type RoughPieces, type ViewMesh } from "@/engine/contract";
import type { Editing } from "./workspace-store";

/** The pieces of the open step as triangles, while the exact ones keep somebody waiting. */
export interface RoughView extends RoughPieces {
  /** The step. */
  step: string;
  /** Of each of them the exact piece that was there last which it stands for; null where none is known. */
  standsFor: readonly (PieceView | null)[];
}

/** What is shown by triangles of the step that is open; null where what is exact is. */
export const roughOf = (rough: RoughView | null, editing: Editing | null): RoughView | null =>
  rough !== null && rough.step === editing?.step.id ? rough : null;

export const asShown = (step: string, answer: RoughPieces, pieces: readonly PieceView[]): RoughView => ({
  ...answer,
  step,
  standsFor: standsFor(answer.pieces, pieces),
});

/**
 * For each piece of triangles the exact one that was there last: of the same stock, on the same sides of all that cuts. Of several
 * the nearest, each once as long as there are others; it is drawn as that one was.
 */
export function standsFor(rough: RoughPieces["pieces"], pieces: readonly PieceView[]): (PieceView | null)[] {
  const found: (PieceView | null)[] = rough.map(() => null);
  const groups = new Map<string, { rough: number[]; exact: PieceView[] }>();
  const groupOf = (piece: Pick<PieceView, "stock" | "sides">) => {
    const key = JSON.stringify([[...piece.stock].sort(), Object.entries(piece.sides).sort(byName)]);
    const group = groups.get(key) ?? { rough: [], exact: [] };
    groups.set(key, group);
    return group;
  };
  for (const piece of pieces) groupOf(piece).exact.push(piece);
  for (const [i, piece] of rough.entries()) groupOf(piece).rough.push(i);
  for (const { rough: places, exact } of groups.values()) {
    const pairs = places.flatMap((i) =>
      exact.map((piece) => ({ i, piece, far: distance(rough[i]!.at, middleOf(piece)) })),
    );
    pairs.sort((a, b) => a.far - b.far);
    const taken = new Set<PieceView>();
    for (const again of [false, true])
      for (const { i, piece } of pairs) {
        if (found[i] || (!again && taken.has(piece))) continue;
        found[i] = piece;
        taken.add(piece);
      }
  }
  return found;
}

const byName = ([a]: [string, string], [b]: [string, string]) => (a < b ? -1 : a > b ? 1 : 0);

const middleOf = ({ measures: { box }, centre }: PieceView): readonly number[] =>
  box ? box.min.map((value, k) => (value + box.max[k]!) / 2) : centre;

const distance = (a: readonly number[], b: readonly number[]) => Math.hypot(...a.map((value, k) => value - b[k]!));

/** Items with those that have moved where they lie now. */
export function withMoved(items: readonly ItemView[], rough: RoughView | null): readonly ItemView[] {
  if (!rough || rough.items.length === 0) return items;
  const moved = new Map(rough.items.map((item) => [item.id, item]));
  return items.map((item) => moved.get(item.id) ?? item);
}

/** Meshes with those that came with what has moved. */
export function withMovedMeshes(meshes: Map<string, ViewMesh>, { items }: RoughPieces): Map<string, ViewMesh> {
  const fresh = items.flatMap((item) => (isBodyView(item) && item.mesh ? [[item.meshId, item.mesh] as const] : []));
  return fresh.length === 0 ? meshes : new Map([...meshes, ...fresh]);
}
