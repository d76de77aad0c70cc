import type { Shape } from "../library/topology";
import { triangulate } from "../mesh/tessellate";
import { rayHit } from "../space/ray-hit";
import { cross, dot, length, scale, squareTo, sub, unit, type Vec3 } from "../space/vectors";

/** A direction that no drawing has. */
const ASTRAY: Vec3 = [0.5390876, 0.3120871, 0.7823091];

interface Triangle {
  a: Vec3;
  ab: Vec3;
  ac: Vec3;
  normal: Vec3;
}

/** Cells along each side of the grid that triangles are sorted into. */
const GRID = 64;

/** A solid as triangles that can be asked whether they hold a place. They are sorted as seen along the ray that asks. */
export class Triangles {
  private readonly cells = new Map<number, Triangle[]>();
  private readonly slack: number;
  private readonly u: Vec3;
  private readonly v: Vec3;
  private low: [number, number] = [Number.POSITIVE_INFINITY, Number.POSITIVE_INFINITY];
  private high: [number, number] = [Number.NEGATIVE_INFINITY, Number.NEGATIVE_INFINITY];

  /** @param linear mm: how far triangles may lie from the skin; three times as near to it they do not tell. @param angular radians */
  constructor(solid: Shape, linear: number, angular: number) {
    this.slack = 3 * linear;
    this.u = squareTo(unit(ASTRAY));
    this.v = cross(unit(ASTRAY), this.u);
    const { positions, indices } = triangulate(solid, [], { linear, angular });
    const corner = (i: number): Vec3 => [positions[i * 3]!, positions[i * 3 + 1]!, positions[i * 3 + 2]!];
    const list: { triangle: Triangle; places: [number, number][] }[] = [];
    for (let t = 0; t < indices.length; t += 3) {
      const [a, b, c] = [corner(indices[t]!), corner(indices[t + 1]!), corner(indices[t + 2]!)];
      const [ab, ac] = [sub(b, a), sub(c, a)];
      const n = cross(ab, ac);
      const size = length(n);
      if (!(size > 0)) continue;
      const places = [a, b, c].map((at) => this.seen(at));
      for (const place of places)
        for (const i of [0, 1] as const) {
          this.low[i] = Math.min(this.low[i], place[i] - this.slack);
          this.high[i] = Math.max(this.high[i], place[i] + this.slack);
        }
      list.push({ triangle: { a, ab, ac, normal: scale(n, 1 / size) }, places });
    }
    for (const { triangle, places } of list) {
      const range = ([0, 1] as const).map((i) => {
        const values = places.map((place) => place[i]);
        return [
          this.cell(Math.min(...values) - this.slack, i),
          this.cell(Math.max(...values) + this.slack, i),
        ] as const;
      });
      for (let i = range[0]![0]; i <= range[0]![1]; i++)
        for (let j = range[1]![0]; j <= range[1]![1]; j++) {
          const key = i * GRID + j;
          const cell = this.cells.get(key);
          if (cell) cell.push(triangle);
          else this.cells.set(key, [triangle]);
        }
    }
  }

  private seen(at: Vec3): [number, number] {
    return [dot(at, this.u), dot(at, this.v)];
  }

  private cell(value: number, i: 0 | 1): number {
    const size = (this.high[i] - this.low[i]) / GRID;
    return Math.max(0, Math.min(GRID - 1, Math.floor((value - this.low[i]) / size)));
  }

  /** Whether a place is inside; null where it lies too near to the skin to tell. */
  holds(at: Vec3): boolean | null {
    const [x, y] = this.seen(at);
    if (x < this.low[0] || y < this.low[1] || x > this.high[0] || y > this.high[1]) return false;
    let crossings = 0;
    for (const triangle of this.cells.get(this.cell(x, 0) * GRID + this.cell(y, 1)) ?? []) {
      const t = rayHit(at, ASTRAY, triangle);
      if (t !== null && t > 0) crossings++;
      if (Math.abs(dot(sub(at, triangle.a), triangle.normal)) < this.slack && isOver(at, triangle, this.slack))
        return null;
    }
    return crossings % 2 === 1;
  }
}

/** Whether a place near a triangle's plane is over the triangle, or nearly. */
function isOver(at: Vec3, { a, ab, ac, normal }: Triangle, slack: number): boolean {
  const foot = sub(at, scale(normal, dot(sub(at, a), normal)));
  const away = sub(foot, a);
  const reach = Math.max(length(ab), length(ac), length(sub(ac, ab)));
  if (length(away) > reach + slack) return false;
  const [d00, d01, d11] = [dot(ab, ab), dot(ab, ac), dot(ac, ac)];
  const [d20, d21] = [dot(away, ab), dot(away, ac)];
  const det = d00 * d11 - d01 * d01;
  if (det <= 0) return length(away) < slack;
  const [v, w] = [(d11 * d20 - d01 * d21) / det, (d00 * d21 - d01 * d20) / det];
  const room = slack / Math.sqrt(Math.min(d00, d11));
  return v > -room && w > -room && v + w < 1 + room;
}
