import type { ViewMesh } from "@/engine/contract";

/** Looking from the front right, above: two axes of the picture and the depth. */
const RIGHT = [0.8, 0.6, 0];
const UP = [-0.3, 0.4, 0.866];
const TOWARDS = [0.52, -0.69, 0.5];

const along = (v: ArrayLike<number>, at: number, axis: number[]) =>
  v[at]! * axis[0]! + v[at + 1]! * axis[1]! + v[at + 2]! * axis[2]!;

/** A mesh with its colour. */
export interface Painted {
  mesh: Pick<ViewMesh, "positions" | "normals" | "indices">;
  colour: string;
}

/** So many triangles of a picture are drawn at most; of more, every second, third … */
const MOST = 4000;

/** Paints meshes flat-shaded, from behind to the front, into a square of so many pixels. */
export function paint(context: CanvasRenderingContext2D, bodies: readonly Painted[], size: number): void {
  context.clearRect(0, 0, size, size);
  let [left, right, low, high] = [Infinity, -Infinity, Infinity, -Infinity];
  let count = 0;
  for (const { mesh } of bodies) {
    count += mesh.indices.length / 3;
    for (let i = 0; i < mesh.positions.length; i += 3) {
      const x = along(mesh.positions, i, RIGHT);
      const y = along(mesh.positions, i, UP);
      left = Math.min(left, x);
      right = Math.max(right, x);
      low = Math.min(low, y);
      high = Math.max(high, y);
    }
  }
  const scale = (size * 0.86) / Math.max(right - left, high - low, 1e-6);
  const px = (at: number, v: ArrayLike<number>) => size / 2 + (along(v, at, RIGHT) - (left + right) / 2) * scale;
  const py = (at: number, v: ArrayLike<number>) => size / 2 - (along(v, at, UP) - (low + high) / 2) * scale;
  const step = Math.max(1, Math.floor(count / MOST));
  const triangles: { depth: number; shade: number; at: number; body: Painted; rgb: number[] }[] = [];
  for (const body of bodies) {
    const { positions, normals, indices } = body.mesh;
    const rgb = [1, 3, 5].map((i) => Number.parseInt(body.colour.slice(i, i + 2), 16));
    for (let t = 0; t < indices.length; t += 3 * step) {
      const [a, b, c] = [indices[t]! * 3, indices[t + 1]! * 3, indices[t + 2]! * 3];
      const facing = along(normals, a, TOWARDS) + along(normals, b, TOWARDS) + along(normals, c, TOWARDS);
      triangles.push({
        depth: along(positions, a, TOWARDS) + along(positions, b, TOWARDS) + along(positions, c, TOWARDS),
        shade: Math.abs(facing) / 3,
        at: t,
        body,
        rgb,
      });
    }
  }
  triangles.sort((p, q) => p.depth - q.depth);
  for (const { shade, at, body, rgb } of triangles) {
    const { positions, indices } = body.mesh;
    const [r, g, b] = rgb;
    const k = 0.5 + 0.5 * shade;
    context.fillStyle = `rgb(${r! * k} ${g! * k} ${b! * k})`;
    context.strokeStyle = context.fillStyle;
    context.beginPath();
    for (let i = 0; i < 3; i++)
      context.lineTo(px(indices[at + i]! * 3, positions), py(indices[at + i]! * 3, positions));
    context.closePath();
    context.fill();
    context.stroke();
  }
}
