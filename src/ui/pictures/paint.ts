import type { ViewMesh } from "@/engine/contract";

/** Looking from the front right, above: two axes of the picture and the depth. */
const RIGHT = [0.8, 0.6, 0];
const UP = [-0.3, 0.4, 0.866];
const TOWARDS = [0.52, -0.69, 0.5];

const along = (v: ArrayLike<number>, at: number, axis: number[]) =>
  v[at]! * axis[0]! + v[at + 1]! * axis[1]! + v[at + 2]! * axis[2]!;

/** A mesh with its colour, #rrggbb. */
export interface Painted {
  mesh: Pick<ViewMesh, "positions" | "normals" | "indices">;
  colour: string;
}

/** Dots each way in a pixel: what they show is averaged, so that rims are smooth. */
const DOTS = 2;

/** The picture keeps this much of its width for the bodies. */
const FILLED = 0.86;

/** Paints meshes flat-shaded into a square of so many pixels. */
export function paint(context: CanvasRenderingContext2D, bodies: readonly Painted[], size: number): void {
  context.putImageData(new ImageData(pictureOf(bodies, size), size, size), 0, 0);
}

/**
 * Meshes flat-shaded, the nearest in front, as pixels: four values each, row by row. By dots and their depths rather than by the
 * canvas' own paths: a page of cards and rows has tens of thousands of triangles in its small pictures.
 */
export function pictureOf(bodies: readonly Painted[], size: number): Uint8ClampedArray<ArrayBuffer> {
  const width = size * DOTS;
  const seen = bodies.map(({ mesh }) => asSeen(mesh.positions));
  const [left, right] = spanOf(seen.map(({ x }) => x));
  const [low, high] = spanOf(seen.map(({ y }) => y));
  const scale = (width * FILLED) / Math.max(right - left, high - low, 1e-6);
  const dots = new Dots(width);
  for (const [at, corners] of seen.entries()) {
    const { x, y } = corners;
    for (let i = 0; i < x.length; i++) {
      x[i] = width / 2 + (x[i]! - (left + right) / 2) * scale;
      y[i] = width / 2 - (y[i]! - (low + high) / 2) * scale;
    }
    const { mesh, colour } = bodies[at]!;
    const rgb = [1, 3, 5].map((i) => Number.parseInt(colour.slice(i, i + 2), 16));
    const { indices, normals } = mesh;
    for (let t = 0; t + 2 < indices.length; t += 3) {
      const [a, b, c] = [indices[t]!, indices[t + 1]!, indices[t + 2]!];
      const facing = along(normals, 3 * a, TOWARDS) + along(normals, 3 * b, TOWARDS) + along(normals, 3 * c, TOWARDS);
      const shade = 0.5 + Math.abs(facing) / 6;
      const tone = ((rgb[0]! * shade) << 16) | ((rgb[1]! * shade) << 8) | (rgb[2]! * shade);
      dots.triangle(corners, a, b, c, tone);
    }
  }
  return dots.pixels(size);
}

/** Where the corners of a mesh lie in the picture, and how near they are. */
type Corners = Record<"x" | "y" | "depth", Float64Array>;

function asSeen(positions: Float32Array): Corners {
  const count = positions.length / 3;
  const [x, y, depth] = [new Float64Array(count), new Float64Array(count), new Float64Array(count)];
  for (let i = 0; i < count; i++) {
    x[i] = along(positions, 3 * i, RIGHT);
    y[i] = along(positions, 3 * i, UP);
    depth[i] = along(positions, 3 * i, TOWARDS);
  }
  return { x, y, depth };
}

function spanOf(lists: readonly Float64Array[]): [number, number] {
  let [least, most] = [Infinity, -Infinity];
  for (const list of lists)
    for (const value of list) {
      if (value < least) least = value;
      if (value > most) most = value;
    }
  return [least, most];
}

/** Nothing is seen at a dot. */
const NOTHING = -1;

/** A square of dots, each with the nearest tone that was put on it. */
class Dots {
  private readonly depths: Float64Array;
  private readonly tones: Int32Array;

  constructor(private readonly width: number) {
    this.depths = new Float64Array(width * width).fill(-Infinity);
    this.tones = new Int32Array(width * width).fill(NOTHING);
  }

  private put(column: number, row: number, depth: number, tone: number): void {
    const at = row * this.width + column;
    if (depth < this.depths[at]!) return;
    this.depths[at] = depth;
    this.tones[at] = tone;
  }

  /** A triangle by its corners, in dots. */
  triangle({ x, y, depth }: Corners, a: number, b: number, c: number, tone: number): void {
    const [ax, ay, bx, by, cx, cy] = [x[a]!, y[a]!, x[b]!, y[b]!, x[c]!, y[c]!];
    // What is too thin to have a dot's middle in it is seen by its corner all the same.
    this.put(Math.floor(ax), Math.floor(ay), depth[a]!, tone);
    const area = (bx - ax) * (cy - ay) - (by - ay) * (cx - ax);
    if (Math.abs(area) < 1e-9) return;
    const [from, to] = [Math.ceil(Math.min(ax, bx, cx) - 0.5), Math.floor(Math.max(ax, bx, cx) - 0.5)];
    const [top, bottom] = [Math.ceil(Math.min(ay, by, cy) - 0.5), Math.floor(Math.max(ay, by, cy) - 0.5)];
    for (let row = top; row <= bottom; row++)
      for (let column = from; column <= to; column++) {
        const [px, py] = [column + 0.5, row + 0.5];
        const u = ((bx - px) * (cy - py) - (by - py) * (cx - px)) / area;
        const v = ((cx - px) * (ay - py) - (cy - py) * (ax - px)) / area;
        const w = 1 - u - v;
        if (u >= 0 && v >= 0 && w >= 0) this.put(column, row, u * depth[a]! + v * depth[b]! + w * depth[c]!, tone);
      }
  }

  /** The picture: each pixel the mean of its dots, as opaque as many of them show something. */
  pixels(size: number): Uint8ClampedArray<ArrayBuffer> {
    const pixels = new Uint8ClampedArray(4 * size * size);
    for (let row = 0; row < size; row++)
      for (let column = 0; column < size; column++) {
        let [red, green, blue, count] = [0, 0, 0, 0];
        for (let i = 0; i < DOTS * DOTS; i++) {
          const across = column * DOTS + (i % DOTS);
          const tone = this.tones[(row * DOTS + Math.floor(i / DOTS)) * this.width + across]!;
          if (tone === NOTHING) continue;
          red += tone >> 16;
          green += (tone >> 8) & 255;
          blue += tone & 255;
          count++;
        }
        if (count > 0)
          pixels.set(
            [red / count, green / count, blue / count, (255 * count) / (DOTS * DOTS)],
            4 * (row * size + column),
          );
      }
    return pixels;
  }
}
