import type { Body } from "../items";
import { has } from "../items/kinds";
import {
  dot,
  type Fusion,
  inFrame,
  localFrames,
  type NamedFrame,
  roughSkin,
  type Shape,
  type Surface,
  scale,
  spansWithin,
  sub,
  type Vec3,
} from "../kernel";
import { SAME_WAY } from "../tolerance";
import type { Knife } from "./division";
import type { Ids } from "./ids";
import { boundOf, type Spot } from "./mark";
import { kindsOf, type Side } from "./piece";

/** A face of the arrangement as a cutter has it: which cutter, and the sense of the face with its front where it points. */
export interface CutterUse {
  cutter: number;
  /** ±1; 0 where the face tells no sides apart. */
  sense: number;
}

/** What is known of the things that are divided and divide, beside what they are. */
export interface Known {
  /** The ids that an item had before it was changed. */
  earlier?(id: string): readonly string[];
  /** The points, by id and in order, that the curve was drawn through which a face (by name) was drawn out from. */
  drawnThrough?(face: string): readonly string[] | null;
}

/** What is divided by what, with all that finding the pieces asks of it. */
export class Scene {
  /** For each arrangement face, the cutters that it is part of. */
  readonly uses = new Map<number, CutterUse[]>();
  private readonly stockFaces = new Set<number>();
  private readonly frames = new Map<string, NamedFrame[]>();
  private readonly ways = new Map<string, Vec3 | null>();

  constructor(
    readonly stock: readonly Body[],
    readonly cutters: readonly Knife[],
    readonly fusion: Fusion,
    readonly names: ReadonlyMap<number, string>,
    readonly ids: Ids,
    private readonly known: Known = {},
    /** Whether the one stock body is no stock at all but the room that everything lies in. */
    readonly empty = false,
  ) {
    stock.forEach((_, a) => {
      for (const { face } of fusion.images[a]!.flat()) this.stockFaces.add(face);
    });
    cutters.forEach(({ turns }, c) => {
      fusion.images[stock.length + c]!.forEach((images, f) => {
        for (const { face, sign } of images) {
          const use = { cutter: c, sense: sign * (turns?.[f] ?? 1) };
          const list = this.uses.get(face);
          if (list) list.push(use);
          else this.uses.set(face, [use]);
        }
      });
    });
  }

  /** The stock that a cell is of, by id. */
  ownersOf(within: readonly number[]): string[] {
    return this.empty ? [] : within.filter((a) => a < this.stock.length).map((a) => this.stock[a]!.id);
  }

  /** Whether a face of the arrangement is one of stock. */
  isStockFace(face: number): boolean {
    return this.stockFaces.has(face);
  }

  isSolidCutter(c: number): boolean {
    return has(this.cutters[c]!.item, "closed");
  }

  /** The bound that a face is to a piece on the side of it that `sign` says: the piece's outward sense of the face. */
  bound(face: number, sign: number): string {
    const name = this.names.get(face)!;
    if (this.stockFaces.has(face)) return boundOf(name);
    const use = this.uses.get(face)?.[0];
    return boundOf(`${name}${use && use.sense !== 0 ? (use.sense === sign ? "<" : ">") : ""}`, true);
  }

  /**
   * The spans of drawn curves that a piece lies at, each from one point of the curve to the next: a wave's one face bounds
   * many lumps, and each lies at spans of its own.
   */
  spansAt(uses: readonly { face: number; sign: number }[]): ReadonlySet<string> {
    const spans = new Set<string>();
    for (const { face, sign } of uses) {
      const points = this.known.drawnThrough?.(this.names.get(face)!);
      if (!points) continue;
      // Whichever way the curve is drawn.
      for (const i of spansWithin(this.fusion.faceHandle(face), points.length))
        spans.add(boundOf(`${this.bound(face, sign)} ${[points[i]!, points[i + 1]!].sort().join(" ")}`));
    }
    return spans;
  }

  /** The bound that a cutter's face is to a piece of a sheet which ends there, on the given side of it. */
  cutBound(face: number, side: Side | null): string {
    return boundOf(`${this.names.get(face)!}${side === "back" || side === "in" ? "<" : ">"}`, true);
  }

  /** The cutters by id; null where what is divided divides each other. */
  cutBy(cutters: Iterable<number>): ReadonlySet<string> | null {
    if (this.stock.length > 1 || this.cutters.length === 0) return null;
    return new Set([...cutters].map((c) => this.cutters[c]!.item.id));
  }

  /** Where a shape's middle is as seen from the stock that it is of and from the bodies (by place) that cut it. */
  spotOf(shape: Shape, stock: readonly string[], cutters: Iterable<number>): Spot {
    const { area, centre } = roughSkin(shape);
    const bodies = [
      ...this.stock.filter(({ id }) => stock.includes(id)),
      // A workplane has no place of its own in its plane.
      ...[...new Set(cutters)]
        .sort((a, b) => a - b)
        .flatMap((c) => {
          const { item, shape: knife, faces } = this.cutters[c]!;
          return has(item, "plane") ? [] : [{ id: item.id, shape: knife, faces }];
        }),
    ];
    return {
      size: area,
      seen: bodies.flatMap((body) => {
        const at = this.withoutSliding(body.id, centre);
        const names = this.ids.names(body.id);
        return this.framesOf(body).map((frame) => ({
          of: names[0]!,
          tags: names.map((name) => boundOf(`${name} ${frame.face}`)),
          at: inFrame(frame, at),
        }));
      }),
    };
  }

  /** What a piece is, by its owners and sides: in how it is spoken of now, and in how it may have been before. */
  kinds(stock: readonly string[], sides: Record<string, Side>): { kind: string; kinds: string[] } {
    const kinds = kindsOf({ stock: [...stock], sides }, this.ids);
    return { kind: kinds[0]!, kinds };
  }

  /** A place, but for how far along a cutter it is which may slide that way without cutting otherwise. */
  private withoutSliding(id: string, at: Vec3): Vec3 {
    const way = this.slidingWay(id);
    return way ? sub(at, scale(way, dot(at, way))) : at;
  }

  /** The one direction in which the faces that a cutter cuts with run on alike; null where there is none. */
  private slidingWay(id: string): Vec3 | null {
    const known = this.ways.get(id);
    if (known !== undefined) return known;
    const c = this.cutters.findIndex(({ item }) => item.id === id);
    const faces = c < 0 ? [] : [...this.uses].filter(([, uses]) => uses.some(({ cutter }) => cutter === c));
    const inside = faces.filter(([face]) =>
      this.fusion.cells.some((cell) =>
        cell.faces.some((use) => use.face === face && cell.within.some((a) => a < this.stock.length)),
      ),
    );
    const way = runningAlike(inside.map(([face]) => this.fusion.surface(face)));
    this.ways.set(id, way);
    return way;
  }

  private framesOf({ id, shape, faces }: { id: string; shape: Shape; faces: readonly string[] }): NamedFrame[] {
    let frames = this.frames.get(id);
    if (!frames) {
      frames = localFrames(shape, faces);
      this.frames.set(id, frames);
    }
    return frames;
  }
}

/** The direction along which round and flat faces all run on; null where they share none, or more than one. */
function runningAlike(surfaces: readonly Surface[]): Vec3 | null {
  const [first] = surfaces.filter(({ kind }) => kind === "cylinder");
  if (!first?.along) return null;
  const way = first.along;
  const alike = surfaces.every(({ kind, along }) => {
    if (!along || (kind !== "cylinder" && kind !== "plane")) return false;
    const lean = Math.abs(dot(along, way));
    return kind === "plane" ? lean < SAME_WAY : lean > 1 - SAME_WAY;
  });
  return alike ? way : null;
}
