import type { PieceView, ViewMesh } from "@/engine/contract";

/**
 * Pieces as they came, with those that are as they were before taken from there: what shows a piece draws it anew only when it is
 * another. A decision on one of 300 pieces changes one.
 */
export function withSamePieces(now: PieceView[], before: readonly PieceView[] | undefined): PieceView[] {
  if (!before) return now;
  const known = new Map(before.map((piece) => [piece.key, piece] as const));
  return now.map((piece) => {
    const was = known.get(piece.key);
    if (!was || !sameMesh(was.mesh, piece.mesh)) return piece;
    const same = { ...piece, mesh: was.mesh };
    return words(was) === words(same) ? was : same;
  });
}

const words = (piece: PieceView) => JSON.stringify({ ...piece, mesh: null });

function sameMesh(a: ViewMesh, b: ViewMesh): boolean {
  const keys = Object.keys(a) as (keyof ViewMesh)[];
  return keys.length === Object.keys(b).length && keys.every((key) => sameNumbers(a[key], b[key]));
}

const sameNumbers = (a: ArrayLike<number>, b: ArrayLike<number> | undefined): boolean => {
  if (a.length !== b?.length) return false;
  for (let i = 0; i < a.length; i++) if (a[i] !== b[i]) return false;
  return true;
};
