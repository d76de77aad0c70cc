import { type Deflection, triangulate } from "../mesh/tessellate";
import type { Triangles } from "../space/nearest-hit";
import type { Vec3 } from "../space/vectors";
import type { Cell, Fusion } from "./general-fuse";

/** Triangles of a cell, with the ranges of its faces. */
export type CellTriangles = ReturnType<typeof triangulate>;

/** A division as triangles, each part of it found once: of its cells, and of its faces, as a cell has them. */
export class Drawn {
  private readonly cells = new Map<Cell, CellTriangles>();
  private readonly faces = new Map<number, Triangles>();

  constructor(
    private readonly fusion: Fusion,
    private readonly deflection: Deflection,
  ) {}

  /** A cell's triangles; the ranges are of its faces, each once, in the order in which it has them. */
  cell(cell: Cell): CellTriangles {
    let mesh = this.cells.get(cell);
    if (!mesh) {
      const faces = [...new Set(cell.faces.map(({ face }) => face))];
      const handles = faces.map((face) => this.fusion.faceHandle(face));
      mesh = triangulate(cell.shape, handles, this.deflection);
      this.cells.set(cell, mesh);
      const { positions, indices, faceRanges } = mesh;
      faces.forEach((face, i) => {
        const [begin, count] = [faceRanges[2 * i]!, faceRanges[2 * i + 1]!];
        if (count > 0 && !this.faces.has(face))
          this.faces.set(face, { positions, indices: indices.subarray(begin, begin + count) });
      });
    }
    return mesh;
  }

  /** A face's triangles: those that a cell has where one was drawn, as neighbours share them. */
  face(face: number): Triangles {
    let mesh = this.faces.get(face);
    if (!mesh) {
      mesh = triangulate(this.fusion.faceHandle(face), [], this.deflection);
      this.faces.set(face, mesh);
    }
    return mesh;
  }
}

/** The corners of triangles, each once. */
export const cornersOf = ({ positions, indices }: Triangles): Vec3[] =>
  [...new Set(Array.from(indices))].map((i) => cornerOf(positions, i));

export const cornerOf = (positions: ArrayLike<number>, i: number): Vec3 => [
  positions[3 * i]!,
  positions[3 * i + 1]!,
  positions[3 * i + 2]!,
];
