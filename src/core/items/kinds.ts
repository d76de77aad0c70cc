/**
 * What an item of the bench can be asked for. Steps and forms ask for these, never for kinds: a kind that is new is taken
 * wherever it has what is asked for.
 */
export type Trait =
  /** Made of faces, which can be picked. */
  | "body"
  /** Has an inside. */
  | "closed"
  /** A skin that may end somewhere, and be run on from there. */
  | "skin"
  /** An endless plane with two sides. */
  | "plane"
  /** Holds curves drawn in a plane, which may enclose regions. */
  | "drawn"
  /** Curves in space, one after the other: something can go along it. */
  | "path"
  /** Cuts what it goes through. */
  | "divides"
  /** Has a place, which can be changed. */
  | "placed";

/** A kind of item, told without geometry. */
export interface ItemKind {
  /** As people call one of it. */
  word: string;
  traits: readonly Trait[];
}

/** The kinds of things that lie on the bench. A new one is a line here, and a file beside this one with a line in `handlings`. */
export const ITEM_KINDS = {
  solid: { word: "solid", traits: ["body", "closed", "divides", "placed"] },
  sheet: { word: "sheet", traits: ["body", "skin", "divides", "placed"] },
  workplane: { word: "workplane", traits: ["plane", "divides", "placed"] },
  sketch: { word: "sketch", traits: ["drawn", "divides", "placed"] },
  curve: { word: "curve", traits: ["path", "placed"] },
} as const satisfies Record<string, ItemKind>;

export type ItemKindId = keyof typeof ITEM_KINDS;

/** The kinds that have a trait. */
export type KindsWith<T extends Trait> = {
  [K in ItemKindId]: T extends (typeof ITEM_KINDS)[K]["traits"][number] ? K : never;
}[ItemKindId];

/** Whether an item, or what is shown of one, has a trait. */
export function has<T extends { kind: ItemKindId }, R extends Trait>(
  item: T,
  trait: R,
): item is T & { kind: KindsWith<R> } {
  const { traits }: ItemKind = ITEM_KINDS[item.kind];
  return traits.includes(trait);
}

/** Whether an item has one of the traits that are asked for. */
export const hasAny = (item: { kind: ItemKindId }, traits: readonly Trait[]): boolean =>
  traits.some((trait) => has(item, trait));

/** Whether it is made of faces: a solid or a sheet. */
export const isBody = <T extends { kind: ItemKindId }>(item: T): item is T & { kind: KindsWith<"body"> } =>
  has(item, "body");
