import type { ViewMesh } from "@/engine/contract";

/** Looking from the front right, above: two axes of the picture and the depth. */
const RIGHT = [0.8, 0.6, 0] as const;
const UP = [-0.3, 0.4, 0.866] as const;
const TOWARDS = [0.52, -0.69, 0.5] as const;

/** A mesh with its colour, #rrggbb. */
export interface Painted {
  mesh: Pick<ViewMesh, "positions" | "normals" | "indices">;
  colour: string;
}

/** Dots each way in a pixel: what they show is averaged, so that rims are smooth. */
const DOTS = 2;

/** The picture keeps this much of its width for the bodies. */
const FILLED = 0.86;

/** Paints meshes flat-shaded into a square so many of the page's pixels wide. @returns whether the canvas can be painted on. */
export function paint(canvas: HTMLCanvasElement | null, bodies: readonly Painted[], size: number): boolean {
  const context = canvas?.getContext("2d");
  if (!canvas || !context) return false;
  // A page that is zoomed, or a screen at 125 %, has no whole number of its own pixels to one of the page.
  const own = Math.round(size * Math.min(window.devicePixelRatio || 1, 2));
  canvas.width = own;
  canvas.height = own;
  context.putImageData(new ImageData(pictureOf(bodies, own), own, own), 0, 0);
  return true;
}

/**
 * Meshes flat-shaded, the nearest in front, as pixels: four values each, row by row. By dots and their depths rather than by the
 * canvas' own paths: a page of cards and rows has tens of thousands of triangles in its small pictures. Most pages draw a dozen and no
 * more, so it is written to be quick the first time: no lists are made on the way.
 */
export function pictureOf(bodies: readonly Painted[], size: number): Uint8ClampedArray<ArrayBuffer> {
  const width = size * DOTS;
  const seen = bodies.map(({ mesh }) => asSeen(mesh));
  let [left, right, low, high] = [Infinity, -Infinity, Infinity, -Infinity];
  for (const { x, y } of seen)
    for (let i = 0; i < x.length; i++) {
      if (x[i]! < left) left = x[i]!;
      if (x[i]! > right) right = x[i]!;
      if (y[i]! < low) low = y[i]!;
      if (y[i]! > high) high = y[i]!;
    }
  const scale = (width * FILLED) / Math.max(right - left, high - low, 1e-6);
  const dots: Dots = {
    width,
    depths: new Float64Array(width * width).fill(-Infinity),
    tones: new Int32Array(width * width).fill(NOTHING),
  };
  for (let at = 0; at < seen.length; at++) {
    const corners = seen[at]!;
    const { x, y, facing } = corners;
    for (let i = 0; i < x.length; i++) {
      x[i] = width / 2 + (x[i]! - (left + right) / 2) * scale;
      y[i] = width / 2 - (y[i]! - (low + high) / 2) * scale;
    }
    const { mesh, colour } = bodies[at]!;
    const rgb = Number.parseInt(colour.slice(1), 16);
    const { indices } = mesh;
    for (let t = 0; t + 2 < indices.length; t += 3) {
      const a = indices[t]!;
      const b = indices[t + 1]!;
      const c = indices[t + 2]!;
      const shade = 0.5 + Math.abs(facing[a]! + facing[b]! + facing[c]!) / 6;
      const tone = (((rgb >> 16) * shade) << 16) | ((((rgb >> 8) & 255) * shade) << 8) | ((rgb & 255) * shade);
      drawTriangle(dots, corners, a, b, c, tone);
    }
  }
  return pixelsOf(dots, size);
}

/** Where the corners of a mesh lie in the picture, how near they are, and how far they look towards who sees it. */
type Corners = Record<"x" | "y" | "depth" | "facing", Float64Array>;

function asSeen({ positions, normals }: Painted["mesh"]): Corners {
  const count = positions.length / 3;
  const x = new Float64Array(count);
  const y = new Float64Array(count);
  const depth = new Float64Array(count);
  const facing = new Float64Array(count);
  const [rx, ry] = RIGHT;
  const [ux, uy, uz] = UP;
  const [tx, ty, tz] = TOWARDS;
  for (let i = 0; i < count; i++) {
    const px = positions[3 * i]!;
    const py = positions[3 * i + 1]!;
    const pz = positions[3 * i + 2]!;
    x[i] = px * rx + py * ry;
    y[i] = px * ux + py * uy + pz * uz;
    depth[i] = px * tx + py * ty + pz * tz;
    facing[i] = normals[3 * i]! * tx + normals[3 * i + 1]! * ty + normals[3 * i + 2]! * tz;
  }
  return { x, y, depth, facing };
}

/** Nothing is seen at a dot. */
const NOTHING = -1;

/** A square of dots, each with the nearest tone that was put on it. */
interface Dots {
  width: number;
  depths: Float64Array;
  tones: Int32Array;
}

/** A triangle by its corners, in dots. */
function drawTriangle(
  { width, depths, tones }: Dots,
  { x, y, depth }: Corners,
  a: number,
  b: number,
  c: number,
  tone: number,
): void {
  const ax = x[a]!;
  const ay = y[a]!;
  // What is too thin to have a dot's middle in it is seen by its corner all the same.
  const corner = Math.floor(ay) * width + Math.floor(ax);
  if (depth[a]! >= depths[corner]!) {
    depths[corner] = depth[a]!;
    tones[corner] = tone;
  }
  const bx = x[b]!;
  const by = y[b]!;
  const cx = x[c]!;
  const cy = y[c]!;
  const area = (bx - ax) * (cy - ay) - (by - ay) * (cx - ax);
  if (area < 1e-9 && area > -1e-9) return;
  const from = Math.ceil(Math.min(ax, bx, cx) - 0.5);
  const to = Math.floor(Math.max(ax, bx, cx) - 0.5);
  const bottom = Math.floor(Math.max(ay, by, cy) - 0.5);
  for (let row = Math.ceil(Math.min(ay, by, cy) - 0.5); row <= bottom; row++)
    for (let column = from; column <= to; column++) {
      const px = column + 0.5;
      const py = row + 0.5;
      const u = ((bx - px) * (cy - py) - (by - py) * (cx - px)) / area;
      const v = ((cx - px) * (ay - py) - (cy - py) * (ax - px)) / area;
      const w = 1 - u - v;
      if (u < 0 || v < 0 || w < 0) continue;
      const near = u * depth[a]! + v * depth[b]! + w * depth[c]!;
      const at = row * width + column;
      if (near < depths[at]!) continue;
      depths[at] = near;
      tones[at] = tone;
    }
}

/** The picture: each pixel the mean of its dots, as opaque as many of them show something. */
function pixelsOf({ width, tones }: Dots, size: number): Uint8ClampedArray<ArrayBuffer> {
  const sums = new Uint16Array(4 * size * size);
  for (let at = 0; at < tones.length; at++) {
    const tone = tones[at]!;
    if (tone === NOTHING) continue;
    const row = Math.floor(at / width);
    const pixel = 4 * (Math.floor(row / DOTS) * size + Math.floor((at - row * width) / DOTS));
    sums[pixel]! += tone >> 16;
    sums[pixel + 1]! += (tone >> 8) & 255;
    sums[pixel + 2]! += tone & 255;
    sums[pixel + 3]!++;
  }
  const pixels = new Uint8ClampedArray(sums.length);
  for (let pixel = 0; pixel < sums.length; pixel += 4) {
    const count = sums[pixel + 3]!;
    if (count === 0) continue;
    pixels[pixel] = sums[pixel]! / count;
    pixels[pixel + 1] = sums[pixel + 1]! / count;
    pixels[pixel + 2] = sums[pixel + 2]! / count;
    pixels[pixel + 3] = (255 * count) / (DOTS * DOTS);
  }
  return pixels;
}
