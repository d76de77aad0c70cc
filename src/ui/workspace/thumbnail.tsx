"use client";
import { memo, useEffect, useRef } from "react";
import type { ViewMesh } from "@/engine/contract";

/** A small picture of a mesh, drawn flat-shaded from the same corner for every card, so that shapes can be compared. */
export const Thumbnail = memo(function Thumbnail({
  mesh,
  colour,
  size = 44,
}: {
  mesh: ViewMesh | undefined;
  colour: string;
  size?: number;
}) {
  const canvas = useRef<HTMLCanvasElement>(null);
  useEffect(() => {
    const context = canvas.current?.getContext("2d");
    if (!context || !mesh) return;
    const scale = Math.min(window.devicePixelRatio || 1, 2);
    canvas.current!.width = size * scale;
    canvas.current!.height = size * scale;
    paint(context, mesh, size * scale, colour);
  }, [mesh, colour, size]);
  return (
    <canvas ref={canvas} style={{ width: size, height: size }} className="shrink-0 rounded-sm bg-well" aria-hidden />
  );
});

/** Looking from the front right, above: two axes of the picture and the depth. */
const RIGHT = [0.8, 0.6, 0];
const UP = [-0.3, 0.4, 0.866];
const TOWARDS = [0.52, -0.69, 0.5];

const along = (v: ArrayLike<number>, at: number, axis: number[]) =>
  v[at]! * axis[0]! + v[at + 1]! * axis[1]! + v[at + 2]! * axis[2]!;

function paint(
  context: CanvasRenderingContext2D,
  { positions, normals, indices }: ViewMesh,
  size: number,
  colour: string,
): void {
  context.clearRect(0, 0, size, size);
  let [left, right, low, high] = [Infinity, -Infinity, Infinity, -Infinity];
  for (let i = 0; i < positions.length; i += 3) {
    const x = along(positions, i, RIGHT);
    const y = along(positions, i, UP);
    left = Math.min(left, x);
    right = Math.max(right, x);
    low = Math.min(low, y);
    high = Math.max(high, y);
  }
  const scale = (size * 0.86) / Math.max(right - left, high - low, 1e-6);
  const px = (at: number, v: ArrayLike<number>) => size / 2 + (along(v, at, RIGHT) - (left + right) / 2) * scale;
  const py = (at: number, v: ArrayLike<number>) => size / 2 - (along(v, at, UP) - (low + high) / 2) * scale;
  const step = Math.max(1, Math.floor(indices.length / 3 / 4000));
  const triangles: { depth: number; shade: number; at: number }[] = [];
  for (let t = 0; t < indices.length; t += 3 * step) {
    const [a, b, c] = [indices[t]! * 3, indices[t + 1]! * 3, indices[t + 2]! * 3];
    const facing = along(normals, a, TOWARDS) + along(normals, b, TOWARDS) + along(normals, c, TOWARDS);
    triangles.push({
      depth: along(positions, a, TOWARDS) + along(positions, b, TOWARDS) + along(positions, c, TOWARDS),
      shade: Math.abs(facing) / 3,
      at: t,
    });
  }
  triangles.sort((p, q) => p.depth - q.depth);
  const [r, g, b] = [1, 3, 5].map((i) => Number.parseInt(colour.slice(i, i + 2), 16));
  for (const { shade, at } of triangles) {
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
