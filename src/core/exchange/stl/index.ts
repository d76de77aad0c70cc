import { fail } from "../../errors";
import { type Mesh, type Shape, tessellate } from "../../kernel";

export interface StlOptions {
  /** How far a triangle may lie from the exact surface, mm. */
  tolerance: number;
}

/**
 * Writes bodies as one binary STL in millimetres: 80 bytes of header, a count, then 50 bytes a triangle
 * (a normal, three corners, a spare word), little-endian. Approximate: within `tolerance` mm of the exact body.
 */
export function writeStl(shapes: readonly Shape[], { tolerance }: StlOptions, title: string): Uint8Array {
  if (!(tolerance >= 0.0005 && tolerance <= 10))
    fail("tolerance", "The tolerance has to lie between 0.0005 mm and 10 mm.");
  const meshes = shapes.map((shape) => tessellate(shape, { linear: tolerance, angular: angleFor(tolerance) }));
  const count = meshes.reduce((sum, mesh) => sum + mesh.indices.length / 3, 0);
  if (count === 0) fail("nothing-to-write", "There is nothing to write: the bodies have no surface.");
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
}

/** A finer tolerance asks for smaller steps round curves too. */
function angleFor(tolerance: number): number {
  return Math.min(0.5, Math.max(0.05, Math.sqrt(tolerance)));
}

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
