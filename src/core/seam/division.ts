import { hashText } from "../hash";
import {
  areaOf,
  contains,
  distanceToPoint,
  dot,
  type Fusion,
  freeShape,
  fuse,
  normalNear,
  pointOnFace,
  type Shape,
  shellOf,
  sub,
  surfaceCentre,
  type Vec3,
  verticesOf,
} from "../kernel";
import { type Body, comparePlaces, type Item } from "../naming";
import { keyOf, kindOf, type Piece, type Side } from "./piece";

/** Something that divides: a body, or a workplane cut as a face larger than all that it could cut. */
export interface Knife {
  item: Item;
  shape: Shape;
  faces: string[];
}

/** A cutter's faces that lie inside a piece without dividing it. */
export interface Dangling {
  cutter: string;
  stock: string;
  fusion: Fusion;
  faces: number[];
  /** Every face of that cutter in the arrangement, inside the stock or not. */
  all: number[];
}

export interface Division {
  pieces: Piece[];
  dangling: Dangling[];
  /** The cutters that divide something, by id. */
  touching: Set<string>;
  /** The name that each face of an arrangement has from the body it came from. */
  nameOf(fusion: Fusion, face: number): string;
  free(): void;
}

type Draft = Omit<Piece, "index" | "key">;

/**
 * Divides stock by cutters, each stock body by itself: stock does not divide stock.
 * The result belongs to the caller, who frees it.
 */
export function divideEach(stock: readonly Body[], cutters: readonly Knife[]): Division {
  return collect(stock.map((body) => () => divideTogether([body], cutters)));
}

/** Divides all operands by one another: every cell that they make is a piece. */
export function divideAll(operands: readonly Body[]): Division {
  return collect([() => divideTogether(operands, [])]);
}

interface Part {
  drafts: Draft[];
  dangling: Dangling[];
  touching: Set<string>;
  fusion: Fusion;
  names: Map<number, string>;
  freeShapes(): void;
}

function collect(makers: (() => Part)[]): Division {
  const parts: Part[] = [];
  const free = () => {
    for (const part of parts) {
      part.freeShapes();
      part.fusion.free();
    }
    parts.length = 0;
  };
  try {
    for (const make of makers) parts.push(make());
    const names = new Map(parts.map((part) => [part.fusion, part.names] as const));
    return {
      pieces: ordered(parts.flatMap((part) => part.drafts)),
      dangling: parts.flatMap((part) => part.dangling),
      touching: new Set(parts.flatMap((part) => [...part.touching])),
      nameOf: (fusion, face) => names.get(fusion)?.get(face) ?? "unnamed",
      free,
    };
  } catch (cause) {
    free();
    throw cause;
  }
}

function divideTogether(stock: readonly Body[], cutters: readonly Knife[]): Part {
  const args: Knife[] = [
    ...stock.map((body) => ({ item: body as Item, shape: body.shape, faces: body.faces })),
    ...cutters,
  ];
  // Only sheets that are divided ask where something crosses them.
  const fusion = fuse(
    args.map((arg) => arg.shape),
    stock.some((body) => body.kind === "sheet"),
  );
  const owned: Shape[] = [];
  try {
    // A face that two bodies share keeps the name it has from the first: stock before cutters, as the step lists them.
    const names = new Map<number, string>();
    args.forEach((arg, a) => {
      fusion.images[a]!.forEach((images, f) => {
        for (const { face } of images) if (!names.has(face)) names.set(face, arg.faces[f]!);
      });
    });
    const divider = new Divider(stock, cutters, fusion, names);
    const drafts = [...divider.solidPieces(), ...divider.sheetPieces(owned)];
    return {
      drafts,
      dangling: divider.dangling,
      touching: dividing(cutters, drafts),
      fusion,
      names,
      freeShapes: () => {
        for (const shape of owned) freeShape(shape);
      },
    };
  } catch (cause) {
    for (const shape of owned) freeShape(shape);
    fusion.free();
    throw cause;
  }
}

/** The cutters that tell pieces apart: some lie before and some behind, or some inside. */
function dividing(cutters: readonly Knife[], drafts: readonly Draft[]): Set<string> {
  const result = new Set<string>();
  for (const { item } of cutters) {
    const sides = new Set(drafts.map((draft) => draft.sides[item.id]));
    if (sides.size > 1 || sides.has("in") || sides.has("both")) result.add(item.id);
  }
  return result;
}

class Divider {
  readonly dangling: Dangling[] = [];
  /** For each arrangement face: the sheets and workplanes it is part of, and the sense it has there. */
  private readonly sheetUses = new Map<number, { cutter: number; sign: number }[]>();

  constructor(
    private readonly stock: readonly Body[],
    private readonly cutters: readonly Knife[],
    private readonly fusion: Fusion,
    private readonly names: Map<number, string>,
  ) {
    cutters.forEach((cutter, c) => {
      if (cutter.item.kind === "solid") return;
      for (const images of fusion.images[stock.length + c]!)
        for (const { face, sign } of images) {
          const uses = this.sheetUses.get(face);
          if (uses) uses.push({ cutter: c, sign });
          else this.sheetUses.set(face, [{ cutter: c, sign }]);
        }
    });
  }

  /** The cells that lie in stock. */
  solidPieces(): Draft[] {
    const cells = this.fusion.cells.filter((cell) => cell.within.some((a) => a < this.stock.length));
    const known = cells.map((cell) => {
      const sides = new Map<number, Side>();
      for (const { face, sign } of cell.faces)
        for (const use of this.sheetUses.get(face) ?? []) {
          if (sign === 0) continue;
          // A cell whose outward normal runs with the cutter's lies behind the cutter.
          const side: Side = sign === use.sign ? "back" : "front";
          const before = sides.get(use.cutter);
          sides.set(use.cutter, before && before !== side ? "both" : side);
        }
      return sides;
    });
    cells.forEach((cell) => {
      const loose = new Map<number, Set<number>>();
      const twice = new Map<number, number>();
      for (const { face, sign } of cell.faces) twice.set(face, (twice.get(face) ?? 0) + (sign === 0 ? 2 : 1));
      for (const [face, uses] of twice)
        if (uses > 1)
          for (const use of this.sheetUses.get(face) ?? [])
            loose.set(use.cutter, (loose.get(use.cutter) ?? new Set()).add(face));
      for (const [cutter, faces] of loose) {
        const stock = this.stock[cell.within.find((a) => a < this.stock.length)!]!.id;
        const all = [...this.sheetUses]
          .filter(([, uses]) => uses.some((use) => use.cutter === cutter))
          .map(([face]) => face);
        this.dangling.push({
          cutter: this.cutters[cutter]!.item.id,
          stock,
          fusion: this.fusion,
          faces: [...faces],
          all,
        });
      }
    });
    this.spread(cells, known);
    return cells.map((cell, i) => {
      const sides: Record<string, Side> = {};
      this.cutters.forEach((cutter, c) => {
        const id = cutter.item.id;
        if (cutter.item.kind === "solid") {
          sides[id] = cell.within.includes(this.stock.length + c) ? "in" : "out";
        } else sides[id] = known[i]!.get(c) ?? sideByPlace(cutter, cell.shape);
      });
      if (this.stock.length > 1)
        this.stock.forEach((body, a) => {
          sides[body.id] = cell.within.includes(a) ? "in" : "out";
        });
      return {
        kind: kindOf(sides, this.stockIds(cell.within)),
        form: "solid",
        stock: this.stockIds(cell.within),
        sides,
        faces: cell.faces.map(({ face }) => this.names.get(face)!),
        uses: cell.faces.filter((use): use is { face: number; sign: 1 | -1 } => use.sign !== 0),
        shape: cell.shape,
        fusion: this.fusion,
      };
    });
  }

  private stockIds(within: readonly number[]): string[] {
    return within.filter((a) => a < this.stock.length).map((a) => this.stock[a]!.id);
  }

  /** Crossing a face that is not a cutter's does not change the side of it: neighbours tell each other. */
  private spread(cells: Fusion["cells"], known: Map<number, Side>[]): void {
    const byFace = new Map<number, number[]>();
    cells.forEach((cell, i) => {
      for (const { face } of cell.faces) {
        const list = byFace.get(face);
        if (list) list.push(i);
        else byFace.set(face, [i]);
      }
    });
    this.cutters.forEach((cutter, c) => {
      if (cutter.item.kind === "solid") return;
      const queue = cells.map((_, i) => i).filter((i) => known[i]!.has(c) && known[i]!.get(c) !== "both");
      while (queue.length > 0) {
        const i = queue.pop()!;
        for (const { face } of cells[i]!.faces) {
          if (this.sheetUses.get(face)?.some((use) => use.cutter === c)) continue;
          for (const other of byFace.get(face)!)
            if (!known[other]!.has(c)) {
              known[other]!.set(c, known[i]!.get(c)!);
              queue.push(other);
            }
        }
      }
    });
  }

  /** The parts of stock sheets, divided along the curves where something crosses them. */
  sheetPieces(owned: Shape[]): Draft[] {
    const drafts: Draft[] = [];
    this.stock.forEach((body, a) => {
      if (body.kind !== "sheet") return;
      const uses = this.fusion.images[a]!.flat().filter((use): use is { face: number; sign: 1 | -1 } => use.sign !== 0);
      for (const group of this.acrossPlainEdges(uses)) {
        const handles = group.map(({ face }) => this.fusion.faceHandle(face));
        const shape = shellOf(handles);
        owned.push(shape);
        const largest = handles.reduce((best, handle) => (areaOf(handle) > areaOf(best) ? handle : best));
        const middle = pointOnFace(largest);
        const sides: Record<string, Side> = {};
        for (const cutter of this.cutters)
          sides[cutter.item.id] =
            cutter.item.kind === "solid"
              ? contains(cutter.shape, middle)
                ? "in"
                : "out"
              : sideOfPoint(cutter, middle);
        drafts.push({
          kind: kindOf(sides, [body.id]),
          form: "sheet",
          stock: [body.id],
          sides,
          faces: group.map(({ face }) => this.names.get(face)!),
          uses: group,
          shape,
          fusion: this.fusion,
        });
      }
    });
    return drafts;
  }

  private acrossPlainEdges(uses: { face: number; sign: 1 | -1 }[]): { face: number; sign: 1 | -1 }[][] {
    const crossed = new Set<number>();
    const byEdge = new Map<number, number[]>();
    uses.forEach(({ face }, i) => {
      for (const { edge, crossing } of this.fusion.faceEdges(face)) {
        if (crossing) crossed.add(edge);
        const list = byEdge.get(edge);
        if (list) list.push(i);
        else byEdge.set(edge, [i]);
      }
    });
    const group = uses.map(() => -1);
    let count = 0;
    uses.forEach((_, start) => {
      if (group[start] !== -1) return;
      const queue = [start];
      group[start] = count;
      while (queue.length > 0)
        for (const { edge } of this.fusion.faceEdges(uses[queue.pop()!]!.face))
          if (!crossed.has(edge))
            for (const other of byEdge.get(edge)!)
              if (group[other] === -1) {
                group[other] = count;
                queue.push(other);
              }
      count++;
    });
    return Array.from({ length: count }, (_, g) => uses.filter((_use, i) => group[i] === g));
  }
}

/** The side of a piece that does not touch a cutter: all of it lies on one, so its point farthest away tells. */
function sideByPlace(cutter: Knife, piece: Shape): Side {
  const points = verticesOf(piece);
  if (points.length === 0) points.push(surfaceCentre(piece));
  const { item } = cutter;
  if (item.kind === "workplane") {
    const heights = points.map((point) => dot(sub(point, item.origin), item.normal));
    const far = heights.reduce((best, height) => (Math.abs(height) > Math.abs(best) ? height : best));
    return far >= 0 ? "front" : "back";
  }
  return sideOfPoint(cutter, points[0]!);
}

function sideOfPoint(cutter: Knife, point: Vec3): Side {
  const { item } = cutter;
  if (item.kind === "workplane") return dot(sub(point, item.origin), item.normal) >= 0 ? "front" : "back";
  const near = distanceToPoint(cutter.shape, point);
  if (!near) return "front";
  return dot(sub(point, near.on2), normalNear(cutter.shape, near.on2)) >= 0 ? "front" : "back";
}

/** Orders pieces by what they are, then by place, and gives each its key. */
function ordered(drafts: Draft[]): Piece[] {
  const kinds = new Map<string, Draft[]>();
  for (const draft of drafts) {
    const list = kinds.get(draft.kind);
    if (list) list.push(draft);
    else kinds.set(draft.kind, [draft]);
  }
  const pieces: Piece[] = [];
  for (const kind of [...kinds.keys()].sort()) {
    const group = kinds.get(kind)!;
    const base = keyOf(kind);
    if (group.length === 1) {
      pieces.push({ ...group[0]!, index: pieces.length, key: base });
      continue;
    }
    const sets = group.map((draft) => [...new Set(draft.faces)].sort());
    const common = new Set(sets[0]!.filter((name) => sets.every((set) => set.includes(name))));
    const marks = sets.map((set) => hashText(set.filter((name) => !common.has(name)).join("|")).slice(0, 4));
    const centres = group.map((draft) => surfaceCentre(draft.shape));
    const order = group.map((_, i) => i).sort((a, b) => comparePlaces(centres[a]!, centres[b]!));
    for (const i of order) {
      const twins = order.filter((j) => marks[j] === marks[i]);
      const tie = twins.length > 1 ? `.${twins.indexOf(i) + 1}` : "";
      pieces.push({ ...group[i]!, index: pieces.length, key: `${base}~${marks[i]}${tie}` });
    }
  }
  return pieces;
}
