import * as z from "zod";
import { hashText } from "../hash";
import type { Fusion, Shape } from "../kernel";
import type { Ids } from "./ids";
import type { Spot } from "./mark";

/** Where a piece lies to a cutter: in front (+, where the normal points), behind (−), in or out of a solid, or round an end. */
export type Side = "front" | "back" | "in" | "out" | "both";

/** A part of space that stock and cutters divide off, before its fate is known. */
export interface Piece {
  /** Place in the tray; pieces are ordered by what they are and where, never by how they were made. */
  index: number;
  /** Names the piece within its step: what it lies in and beside, and what bounds it (`mark.ts`). */
  key(): string;
  /** The same at length, as a decision remembers it. */
  mark(): string;
  /** What it lies in and on which side: equal for pieces that only what bounds them tells apart. */
  kind: string;
  /** Every kind that it may have been said to be of while its stock and cutters had other ids; the present one first. */
  kinds: readonly string[];
  form: "solid" | "sheet";
  /** The stock bodies it is part of, by id. */
  stock: string[];
  /** Its side of each cutter and of each other operand, by id. */
  sides: Record<string, Side>;
  /** The names of its faces. */
  faces: string[];
  /** What bounds it, hashed: its faces, those of cutters with the side that it lies on; of a sheet, what ends it, too. */
  bounds: ReadonlySet<string>;
  /** The spans of drawn curves that it lies at, hashed: what tells lumps apart that the same faces bound. */
  spans(): ReadonlySet<string>;
  /** Its size and where its middle lies. */
  spot(): Spot | null;
  /** The cutters whose faces bound it, or that it ends at, by id; null among operands, which all divide each other. */
  cutBy(): ReadonlySet<string> | null;
  /** Faces of the arrangement that bound it, and their sense. */
  uses: { face: number; sign: 1 | -1 }[];
  /** The kernel's solid or sheet; belongs to the division. */
  shape: Shape;
  fusion: Fusion;
}

/** What a piece lies in and on which side of what: the same whatever the order of steps. */
export function kindOf(sides: Record<string, Side>, stock: readonly string[]): string {
  const list = Object.entries(sides).map(([id, side]) => `${id}=${side}`);
  return [...stock].sort().join("&") + (list.length ? ` ${list.sort().join(" ")}` : "");
}

/** A kind as `kindOf` writes it. */
export function readKind(kind: string): { stock: string; sides: ReadonlyMap<string, string> } {
  const [stock, ...sides] = kind.split(" ");
  const parts = sides.map(
    (part) => [part.slice(0, part.lastIndexOf("=")), part.slice(part.lastIndexOf("=") + 1)] as const,
  );
  return { stock: stock!, sides: new Map(parts) };
}

/** A kind as it was before some cutters came. */
export function kindWithout(kind: string, cutters: ReadonlySet<string>): string {
  const { stock, sides } = readKind(kind);
  return [stock, ...[...sides].flatMap(([id, side]) => (cutters.has(id) ? [] : [`${id}=${side}`]))].join(" ");
}

/** Every kind that a piece may have been said to be of, the present one first: what named it then means it now. */
export function kindsOf({ stock, sides }: Pick<Piece, "stock" | "sides">, ids: Ids): string[] {
  const mentioned = [...new Set([...stock, ...Object.keys(sides)])];
  if (mentioned.every((id) => ids.names(id).length === 1 && ids.names(id)[0] === id)) return [kindOf(sides, stock)];
  let thens: Record<string, string>[] = [{}];
  for (const id of mentioned)
    thens = thens.flatMap((then) => ids.names(id).map((name) => ({ ...then, [id]: name }))).slice(0, MOST_KINDS);
  return [
    ...new Set(
      thens.map((then) =>
        kindOf(
          Object.fromEntries(Object.entries(sides).map(([id, side]) => [then[id]!, side])),
          stock.map((id) => then[id]!),
        ),
      ),
    ),
  ];
}

/** As many kinds of a piece are remembered at most: each change of its stock and of each cutter may give another. */
const MOST_KINDS = 64;

/** The key of pieces of a kind, before what tells them apart. */
export const keyOf = (kind: string): string => hashText(kind).slice(0, 8);

export const sideSchema = z.enum(["front", "back", "in", "out", "both"]);

/** How a step remembers a piece: by its membership and sides, and by its faces and place should those not be enough. */
export const pieceRefSchema = z.object({
  kind: z.string().describe("Membership and sides, as the piece's `kind` says"),
  faces: z
    .array(z.string())
    .max(20_000)
    .default([])
    .describe("Names of the faces around the piece when its fate was set"),
  at: z
    .tuple([z.number(), z.number(), z.number()])
    .optional()
    .describe("A point in the piece when its fate was set, mm"),
  mark: z
    .string()
    .max(6000)
    .optional()
    .describe("What bounded the piece and its siblings when its fate was set, as the piece's `mark` says"),
});
export type PieceRef = z.infer<typeof pieceRefSchema>;

export const fateSchema = z.enum(["keep", "scrap", "group"]);
export type Fate = z.infer<typeof fateSchema>;

export const fateRuleSchema = z.object({
  piece: pieceRefSchema,
  fate: fateSchema,
  group: z
    .string()
    .trim()
    .min(1)
    .max(60)
    .optional()
    .describe("Name of the group; pieces of one group are joined into one body"),
});
export type FateRule = z.infer<typeof fateRuleSchema>;
