import type { Mesh } from "./tessellate";

/** Volume within a skin of triangles: the sum of tetrahedra with their sign (divergence theorem). */
export function volumeUnder({ positions, indices }: Pick<Mesh, "positions" | "indices">): number {
  let six = 0;
  for (let i = 0; i < indices.length; i += 3) {
    const [a, b, c] = [3 * indices[i]!, 3 * indices[i + 1]!, 3 * indices[i + 2]!];
    const at = (corner: number, k: number) => positions[corner + k]!;
    six +=
      at(a, 0) * (at(b, 1) * at(c, 2) - at(b, 2) * at(c, 1)) +
      at(a, 1) * (at(b, 2) * at(c, 0) - at(b, 0) * at(c, 2)) +
      at(a, 2) * (at(b, 0) * at(c, 1) - at(b, 1) * at(c, 0));
  }
  return six / 6;
}
