import { rayHit } from "./ray-hit";
import { sub, type Vec3 } from "./vectors";

type Triangle = readonly [Vec3, Vec3, Vec3];

/** Triangles to a cell of the grid, about: few enough to try each against each. */
const TO_A_CELL = 8;

/**
 * Whether two triangles of a mesh cross that have no corner in common. Flat contact does not count.
 * @param mesh xyz per vertex, mm, and three vertices to a triangle.
 */
export function trianglesCross({
  positions,
  indices,
}: {
  positions: ArrayLike<number>;
  indices: ArrayLike<number>;
}): boolean {
  const corner = (i: number): Vec3 => {
    const at = 3 * indices[i]!;
    return [positions[at]!, positions[at + 1]!, positions[at + 2]!];
  };
  const triangles = Array.from(
    { length: indices.length / 3 },
    (_, t): Triangle => [corner(3 * t), corner(3 * t + 1), corner(3 * t + 2)],
  );
  const tried = new Set<number>();
  for (const cell of cells(triangles))
    for (const [i, a] of cell.entries())
      for (const b of cell.slice(0, i)) {
        const pair = b * triangles.length + a;
        if (tried.has(pair)) continue;
        tried.add(pair);
        if (!touchCorners(triangles[a]!, triangles[b]!) && cut(triangles[a]!, triangles[b]!)) return true;
      }
  return false;
}

/** Puts triangles into the cells of a grid that their boxes reach into; each by its place. */
function cells(triangles: readonly Triangle[]): number[][] {
  const ends = (axis: number, pick: (...values: number[]) => number) =>
    triangles.reduce((end, triangle) => pick(end, ...triangle.map((at) => at[axis]!)), triangles[0]?.[0][axis] ?? 0);
  const low = [0, 1, 2].map((axis) => ends(axis, Math.min));
  const high = [0, 1, 2].map((axis) => ends(axis, Math.max));
  // Triangles lie on a surface: cells by the square root of their number along the longest side.
  const longest = Math.max(...[0, 1, 2].map((axis) => high[axis]! - low[axis]!));
  const size = longest / Math.max(1, Math.sqrt(triangles.length / TO_A_CELL)) || 1;
  const grid = new Map<string, number[]>();
  triangles.forEach((triangle, place) => {
    const [from, to] = [Math.min, Math.max].map((pick) =>
      [0, 1, 2].map((axis) => Math.floor((pick(...triangle.map((at) => at[axis]!)) - low[axis]!) / size)),
    ) as [number[], number[]];
    for (let x = from[0]!; x <= to[0]!; x++)
      for (let y = from[1]!; y <= to[1]!; y++)
        for (let z = from[2]!; z <= to[2]!; z++) {
          const key = `${x} ${y} ${z}`;
          const cell = grid.get(key);
          if (cell) cell.push(place);
          else grid.set(key, [place]);
        }
  });
  return [...grid.values()];
}

/** Nearer than this, mm, and corners are one: those of a seam are there twice. */
const SAME = 1e-4;

const touchCorners = (a: Triangle, b: Triangle): boolean =>
  a.some((p) => b.some((q) => Math.abs(p[0] - q[0]) + Math.abs(p[1] - q[1]) + Math.abs(p[2] - q[2]) < SAME));

const cut = (a: Triangle, b: Triangle): boolean =>
  sides(a).some((s) => pierces(s, b)) || sides(b).some((s) => pierces(s, a));

const sides = ([p, q, r]: Triangle): [Vec3, Vec3][] => [
  [p, q],
  [q, r],
  [r, p],
];

function pierces([from, to]: readonly [Vec3, Vec3], [a, b, c]: Triangle): boolean {
  const at = rayHit(from, sub(to, from), { a, ab: sub(b, a), ac: sub(c, a) });
  return at !== null && at >= 0 && at <= 1;
}
