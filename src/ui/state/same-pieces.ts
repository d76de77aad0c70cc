import type { PieceView, SentPiece, ViewMesh } from "@/engine/contract";

/**
 * Pieces as they came, with those that are as they were before taken from there: what shows a piece draws it anew only when it is
 * another. A decision on one of 300 pieces changes one.
 * @param before those that were there when these were asked for: where one came without its mesh, theirs is it.
 */
export function withSamePieces(now: readonly SentPiece[], before: readonly PieceView[] = []): PieceView[] {
  const meshes = new Map(before.map(({ meshId, mesh }) => [meshId, mesh] as const));
  const known = new Map(before.map((piece) => [piece.key, piece] as const));
  return now.map((sent) => {
    const mesh = sent.mesh ?? meshes.get(sent.meshId);
    if (!mesh) throw new Error(`The mesh of piece ${sent.index + 1} did not come, and is not here.`);
    const piece = sent.mesh ? (sent as PieceView) : { ...sent, mesh };
    const was = known.get(piece.key);
    if (!was || !sameMesh(was.mesh, mesh)) return piece;
    // What it looks like is the same: by which id it is asked for follows the engine.
    const same = { ...piece, mesh: was.mesh };
    return words(was) === words(same) ? was : same;
  });
}

const words = (piece: PieceView) => JSON.stringify({ ...piece, mesh: null });

function sameMesh(a: ViewMesh, b: ViewMesh): boolean {
  if (a === b) return true;
  const keys = Object.keys(a) as (keyof ViewMesh)[];
  return keys.length === Object.keys(b).length && keys.every((key) => sameNumbers(a[key], b[key]));
}

const sameNumbers = (a: ArrayLike<number>, b: ArrayLike<number> | undefined): boolean => {
  if (a.length !== b?.length) return false;
  for (let i = 0; i < a.length; i++) if (a[i] !== b[i]) return false;
  return true;
};
