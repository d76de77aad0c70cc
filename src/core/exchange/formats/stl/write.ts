import type { Mesh } from "../../../kernel";
import type { OutWriter } from "../declare";
import { bodiesIn } from "../of-kind";
import { trianglesOf } from "../triangles";

/**
 * Writes bodies as one binary STL in millimetres: 80 bytes of header, a count, then 50 bytes a triangle
 * (a normal, three corners, a spare word), little-endian. Approximate: within `tolerance` mm of the exact body.
 */
export const writeStl: OutWriter = (items, { title, tolerance }) => {
  const bodies = bodiesIn(items);
  const meshes = trianglesOf(bodies, tolerance);
  const count = meshes.reduce((sum, mesh) => sum + mesh.indices.length / 3, 0);
  const bytes = new Uint8Array(84 + 50 * count);
  const view = new DataView(bytes.buffer);
  // The header must not begin with "solid", which readers take for the text form.
  bytes.set(
    new TextEncoder().encode(`STL mm, within ${tolerance} mm: ${title}`.replace(/[^\x20-\x7E]/g, "?").slice(0, 80)),
  );
  view.setUint32(80, count, true);
  let at = 84;
  for (const mesh of meshes) at = writeTriangles(view, at, mesh);
  return bytes;
};

function writeTriangles(view: DataView, start: number, { positions, indices }: Mesh): number {
  let at = start;
  const float = (value: number) => {
    view.setFloat32(at, value, true);
    at += 4;
  };
  for (let t = 0; t < indices.length; t += 3) {
    const [a, b, c] = [indices[t]! * 3, indices[t + 1]! * 3, indices[t + 2]! * 3];
    const u = [0, 1, 2].map((k) => positions[b + k]! - positions[a + k]!) as [number, number, number];
    const v = [0, 1, 2].map((k) => positions[c + k]! - positions[a + k]!) as [number, number, number];
    const n = [u[1] * v[2] - u[2] * v[1], u[2] * v[0] - u[0] * v[2], u[0] * v[1] - u[1] * v[0]] as const;
    const size = Math.hypot(...n) || 1;
    for (const value of n) float(value / size);
    for (const corner of [a, b, c]) for (let k = 0; k < 3; k++) float(positions[corner + k]!);
    view.setUint16(at, 0, true);
    at += 2;
  }
  return at;
}
