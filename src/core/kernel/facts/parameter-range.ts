import type { FaceStructure } from "../binary";

/** From where to where a face runs in its surface's parameters. */
export type ParameterRange = Record<"u" | "v", readonly [from: number, to: number]>;

/** The rectangle of parameters that a face fills; null for a face of another outline. */
export function parameterRange(face: FaceStructure): ParameterRange | null {
  const ends: [number, number][] = [];
  for (const use of face.wires.flat()) {
    const image = face.image(use);
    if (!use.bounds || image?.curve.kind !== "line") return null;
    const { at, way } = image.curve;
    if (Math.abs(way[0]! * way[1]!) > 1e-12) return null;
    for (const t of [image.from, image.to]) ends.push([at[0]! + t * way[0]!, at[1]! + t * way[1]!]);
  }
  if (face.wires.length !== 1) return null;
  const range = (i: 0 | 1): [number, number] => [
    Math.min(...ends.map((end) => end[i])),
    Math.max(...ends.map((end) => end[i])),
  ];
  const [u, v] = [range(0), range(1)];
  const onBorder = ends.every(([a, b]) => near(a, u[0]) || near(a, u[1]) || near(b, v[0]) || near(b, v[1]));
  return onBorder ? { u, v } : null;
}

const near = (a: number, b: number) => Math.abs(a - b) < 1e-9;
