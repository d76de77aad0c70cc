import { rayHit } from "./ray-hit";
import { type Box, boxesMeet, sub, type Vec3 } from "./vectors";

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
  const boxes = triangles.map(boxOf);
  const tried = new Set<number>();
  for (const cell of cells(boxes))
    for (let i = 1; i < cell.length; i++)
      for (let j = 0; j < i; j++) {
        const [a, b] = [cell[i]!, cell[j]!];
        // Of those in a cell nearly all lie apart: that is seen first, and from their boxes.
        if (!boxesMeet(boxes[a]!, boxes[b]!, 0)) continue;
        const pair = b * triangles.length + a;
        if (tried.has(pair)) continue;
        tried.add(pair);
        if (!touchCorners(triangles[a]!, triangles[b]!) && cut(triangles[a]!, triangles[b]!)) return true;
      }
  return false;
}

const boxOf = ([p, q, r]: Triangle): Box => ({
  min: [Math.min(p[0], q[0], r[0]), Math.min(p[1], q[1], r[1]), Math.min(p[2], q[2], r[2])],
  max: [Math.max(p[0], q[0], r[0]), Math.max(p[1], q[1], r[1]), Math.max(p[2], q[2], r[2])],
});

/** Puts things by their boxes into the cells of a grid that these reach into; each by its place. */
function cells(boxes: readonly Box[]): number[][] {
  const ends = (axis: number) => ({
    from: boxes.reduce((least, { min }) => Math.min(least, min[axis]!), Number.POSITIVE_INFINITY),
    to: boxes.reduce((most, { max }) => Math.max(most, max[axis]!), Number.NEGATIVE_INFINITY),
  });
  const along = [ends(0), ends(1), ends(2)] as const;
  // Triangles lie on a surface: cells by the square root of their number along the longest side.
  const longest = Math.max(...along.map(({ from, to }) => to - from));
  const size = longest / Math.max(1, Math.sqrt(boxes.length / TO_A_CELL)) || 1;
  const place = (axis: 0 | 1 | 2, at: number) => Math.floor((at - along[axis].from) / size);
  const [wide, deep] = [place(0, along[0].to) + 1, place(1, along[1].to) + 1];
  const grid = new Map<number, number[]>();
  boxes.forEach(({ min, max }, i) => {
    for (let z = place(2, min[2]); z <= place(2, max[2]); z++)
      for (let y = place(1, min[1]); y <= place(1, max[1]); y++)
        for (let x = place(0, min[0]); x <= place(0, max[0]); x++) {
          const key = (z * deep + y) * wide + x;
          const cell = grid.get(key);
          if (cell) cell.push(i);
          else grid.set(key, [i]);
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
