import type { Cell } from "../kernel";
import type { Dangling, FoundPiece } from "./division";
import { once } from "./once";
import type { Side } from "./piece";
import { sideByPlace } from "./place-sides";
import type { Scene } from "./scene";

/** Finds the pieces of solids: cells of the arrangement, with the side of each cutter that they lie on. */
export class SolidDivider {
  readonly dangling: Dangling[] = [];
  /** The cutters, by place, that are no solids: those have no inside, but two sides. */
  private readonly open: readonly number[];

  constructor(private readonly scene: Scene) {
    this.open = scene.cutters.flatMap((_, c) => (scene.isSolidCutter(c) ? [] : [c]));
  }

  /** The cells that lie in stock. */
  pieces(): FoundPiece[] {
    const { stock, cutters, fusion } = this.scene;
    const cells = fusion.cells.filter((cell) => cell.within.some((a) => a < stock.length));
    const known = cells.map((cell) => this.sidesAtFaces(cell));
    if (this.open.length > 0) {
      for (const cell of cells) this.noteDangling(cell);
      this.spread(cells, known);
    }
    return cells.map((cell, i) => {
      const sides: Record<string, Side> = {};
      cutters.forEach((cutter, c) => {
        sides[cutter.item.id] = this.scene.isSolidCutter(c)
          ? cell.within.includes(stock.length + c)
            ? "in"
            : "out"
          : (known[i]!.get(c) ?? sideByPlace(cutter, cell.shape));
      });
      if (stock.length > 1)
        stock.forEach((body, a) => {
          sides[body.id] = cell.within.includes(a) ? "in" : "out";
        });
      return this.pieceOf(cell, sides);
    });
  }

  /** The cells that lie in no solid and are closed off from all that is around: of a room in which everything lies. */
  rooms(): FoundPiece[] {
    const { stock, cutters, fusion } = this.scene;
    return fusion.cells.flatMap((cell) => {
      if (cell.within.some((a) => a >= stock.length)) return [];
      if (cell.faces.some(({ face }) => this.scene.isStockFace(face))) return [];
      const known = this.sidesAtFaces(cell);
      const sides: Record<string, Side> = {};
      // Only what bounds it says where it lies.
      for (const c of new Set(this.cuttersAt(cell.faces)))
        if (!cutters[c]!.mute)
          sides[cutters[c]!.item.id] = known.get(c) ?? (this.scene.isSolidCutter(c) ? "out" : "both");
      return [this.pieceOf(cell, sides)];
    });
  }

  private pieceOf(cell: Cell, sides: Record<string, Side>): FoundPiece {
    const { fusion, names } = this.scene;
    const owners = this.scene.ownersOf(cell.within);
    const uses = cell.faces.filter((use): use is { face: number; sign: 1 | -1 } => use.sign !== 0);
    const { kind, kinds } = this.scene.kinds(owners, sides);
    return {
      kind,
      kinds,
      form: "solid",
      stock: owners,
      sides,
      faces: cell.faces.map(({ face }) => names.get(face)!),
      bounds: new Set(uses.map(({ face, sign }) => this.scene.bound(face, sign))),
      spans: once(() => this.scene.spansAt(uses)),
      spot: once(() => this.scene.spotOf(cell.shape, owners, this.cuttersAt(uses))),
      cutBy: once(() => this.scene.cutBy(this.cuttersAt(uses))),
      uses,
      shape: cell.shape,
      fusion,
    };
  }

  private cuttersAt(uses: readonly { face: number }[]): number[] {
    return uses.flatMap(({ face }) => this.scene.uses.get(face)?.map(({ cutter }) => cutter) ?? []);
  }

  /** A cell whose outward sense of a face runs with the cutter's lies behind the cutter. */
  private sidesAtFaces(cell: Cell): Map<number, Side> {
    const sides = new Map<number, Side>();
    if (this.open.length === 0) return sides;
    for (const { face, sign } of cell.faces)
      for (const { cutter, sense } of this.scene.uses.get(face) ?? []) {
        if (sign === 0 || sense === 0 || this.scene.isSolidCutter(cutter)) continue;
        const side: Side = sign === sense ? "back" : "front";
        const before = sides.get(cutter);
        sides.set(cutter, before && before !== side ? "both" : side);
      }
    return sides;
  }

  /** Notes faces of open cutters that end inside a cell. */
  private noteDangling(cell: Cell): void {
    if (
      new Set(cell.faces.map(({ face }) => face)).size === cell.faces.length &&
      cell.faces.every(({ sign }) => sign !== 0)
    )
      return;
    const { stock, cutters, fusion, uses } = this.scene;
    const twice = new Map<number, number>();
    for (const { face, sign } of cell.faces) twice.set(face, (twice.get(face) ?? 0) + (sign === 0 ? 2 : 1));
    const loose = new Map<number, Set<number>>();
    for (const [face, times] of twice)
      if (times > 1)
        for (const { cutter } of uses.get(face) ?? [])
          if (!this.scene.isSolidCutter(cutter)) loose.set(cutter, (loose.get(cutter) ?? new Set()).add(face));
    for (const [cutter, faces] of loose)
      this.dangling.push({
        cutter: cutters[cutter]!.item.id,
        stock: stock[cell.within.find((a) => a < stock.length)!]!.id,
        fusion,
        faces: [...faces],
        all: [...uses].flatMap(([face, list]) => (list.some((use) => use.cutter === cutter) ? [face] : [])),
      });
  }

  /** Crossing a face that is not a cutter's does not change the side of it: neighbours tell each other. */
  private spread(cells: readonly Cell[], known: Map<number, Side>[]): void {
    const unsure = this.open.filter((c) => known.some((sides) => !sides.has(c)));
    if (unsure.length === 0) return;
    const byFace = new Map<number, number[]>();
    cells.forEach((cell, i) => {
      for (const { face } of cell.faces) {
        const list = byFace.get(face);
        if (list) list.push(i);
        else byFace.set(face, [i]);
      }
    });
    for (const c of unsure) {
      const queue = cells.map((_cell, i) => i).filter((i) => known[i]!.has(c) && known[i]!.get(c) !== "both");
      while (queue.length > 0) {
        const i = queue.pop()!;
        for (const { face } of cells[i]!.faces) {
          if (this.scene.uses.get(face)?.some((use) => use.cutter === c)) continue;
          for (const other of byFace.get(face)!)
            if (!known[other]!.has(c)) {
              known[other]!.set(c, known[i]!.get(c)!);
              queue.push(other);
            }
        }
      }
    }
  }
}
