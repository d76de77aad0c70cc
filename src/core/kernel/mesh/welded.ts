import type { Mesh } from "./tessellate";

/** Triangles that share their corners. */
export interface Welded {
  /** xyz per corner, mm. */
  corners: Float32Array;
  /** Three corners per triangle. */
  triangles: Uint32Array;
}

/**
 * Triangles whose faces share no corners, with each place once: faces that meet have the very same places along their common
 * edge. What comes to less than a triangle is left out.
 */
export function welded({ positions, indices }: Pick<Mesh, "positions" | "indices">): Welded {
  const places = new Map<string, number>();
  const corners: number[] = [];
  const corner = new Uint32Array(positions.length / 3);
  for (let i = 0; i < corner.length; i++) {
    // Adding 0 makes −0 a 0.
    const at = [positions[3 * i]! + 0, positions[3 * i + 1]! + 0, positions[3 * i + 2]! + 0];
    const key = at.join(" ");
    let place = places.get(key);
    if (place === undefined) {
      place = places.size;
      places.set(key, place);
      corners.push(...at);
    }
    corner[i] = place;
  }
  const triangles: number[] = [];
  for (let t = 0; t < indices.length; t += 3) {
    const [a, b, c] = [corner[indices[t]!]!, corner[indices[t + 1]!]!, corner[indices[t + 2]!]!];
    if (a !== b && b !== c && c !== a) triangles.push(a, b, c);
  }
  return { corners: new Float32Array(corners), triangles: new Uint32Array(triangles) };
}

/** What is wrong with triangles as a skin: some edges are not passed as often one way as the other, or are passed more than once. */
export type SkinFault = "open" | "touching";

/** Whether every edge of triangles is passed once each way by two of them; what is wrong otherwise. */
export function skinFault({ triangles }: Welded): SkinFault | null {
  const seen = new Map<string, number>();
  for (let t = 0; t < triangles.length; t += 3)
    for (let k = 0; k < 3; k++) {
      const key = `${triangles[t + k]} ${triangles[t + ((k + 1) % 3)]}`;
      seen.set(key, (seen.get(key) ?? 0) + 1);
    }
  let touching = false;
  for (const [key, times] of seen) {
    if (seen.get(key.split(" ").reverse().join(" ")) !== times) return "open";
    touching ||= times > 1;
  }
  return touching ? "touching" : null;
}
