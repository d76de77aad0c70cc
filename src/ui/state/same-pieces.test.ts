import { expect, test } from "vitest";
import type { PieceView, SentPiece, ViewMesh } from "@/engine/contract";
import { withSamePieces } from "./same-pieces";

const mesh = (width: number): ViewMesh => ({
  positions: Float32Array.of(0, 0, 0, width, 0, 0, 0, 1, 0),
  normals: Float32Array.of(0, 0, 1, 0, 0, 1, 0, 0, 1),
  indices: Uint32Array.of(0, 1, 2),
  faceRanges: Uint32Array.of(0, 3),
  lines: new Float32Array(),
  edgeRanges: new Uint32Array(),
  seams: new Uint8Array(),
});
const piece = (key: string, fate: "keep" | "scrap", width = 1) =>
  ({ key, index: 0, fate: { fate }, mesh: mesh(width) }) as unknown as PieceView;

test("a piece that is as it was is the very same one; one with another fate keeps its mesh; another shape is new", () => {
  const before = [piece("a", "keep"), piece("b", "keep"), piece("c", "keep")];
  const now = [piece("a", "keep"), piece("b", "scrap"), piece("c", "keep", 2), piece("d", "keep")];
  const shown = withSamePieces(now, before);
  expect(shown[0]).toBe(before[0]);
  expect(shown[1]).not.toBe(before[1]);
  expect(shown[1]).toMatchObject({ fate: { fate: "scrap" } });
  expect(shown[1]!.mesh).toBe(before[1]!.mesh);
  expect(shown[2]).toBe(now[2]);
  expect(shown[3]).toBe(now[3]);
  expect(withSamePieces(now, undefined)).toEqual(now);
});

test("a piece that is sent without its mesh gets the one that it was known by; where that is not here, it is no piece", () => {
  const before = [{ ...piece("a", "keep"), meshId: "m1" }];
  const { mesh: _mesh, ...sent } = { ...piece("b", "scrap"), meshId: "m1" };
  const [shown] = withSamePieces([sent as SentPiece], before);
  expect(shown!.mesh).toBe(before[0]!.mesh);
  expect(() => withSamePieces([{ ...sent, meshId: "m2" } as SentPiece], before)).toThrow("did not come");
});
