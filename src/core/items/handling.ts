import type { Measures } from "../check";
import type { MeshStore, Placement, Vec3 } from "../kernel";
import type { ItemKindId } from "./kinds";
import type { ViewMesh } from "./view-mesh";

/** Where an item's displayed name comes from; resolved late, so that renaming rebuilds nothing. */
export type NameHint =
  | { text: string; given?: true }
  | { from: string; suffix: string }
  | { part: string; item: string };

/** What every item is known by. */
export interface Known {
  /** `step:role`, stable while the step makes the same thing. */
  id: string;
  hint: NameHint;
}

/** What the page is told of every item. */
export interface Told {
  id: string;
  /** The ids that it had before it was changed. */
  was: string[];
  /** Steps that should have changed it, or what it was made of, and were not done: by id. */
  lacks: string[];
  name: string;
  /** The step that made it. */
  step: string;
}

/** What is worked out of an item on demand, and kept with the result that made it. */
export interface Extras {
  measures?: Measures;
  mesh?: ViewMesh;
}

/** For whom an item is shown. */
export interface Seer {
  told: Told;
  /** The key of the result that holds the item. */
  key: string;
  extras: Extras;
  /** Meshes that the page has, by mesh id. */
  known: ReadonlySet<string>;
  meshes: MeshStore;
}

/** All that is done with items of a kind beside what steps do. */
export interface Handling<T extends Known & { kind: ItemKindId }, V extends Told & { kind: ItemKindId }> {
  /** Roughly what it takes in memory, bytes. */
  bytes(item: T): number;
  /** Lets go of its exact form. */
  free(item: T): void;
  /** As plain values, to be kept; and back. */
  store(item: T, extras: Extras | undefined): object;
  restore(stored: object): { item: T; extras?: Extras };
  /** The same, turned and moved. Its exact form is a new one. */
  placed(item: T, placement: Placement): T;
  /** Its image in a plane through the origin. Its exact form is a new one. @param normal of the plane, of length 1 */
  mirrored(item: T, normal: Vec3): T;
  /** The same, with an exact form of its own that is let go of apart. */
  again(item: T): T;
  /** As a step's own: what its parts are called says so. @param mark what it is of them, as `copy`. */
  copied(item: T, step: string, mark: string): T;
  /** What the page is told of it. */
  view(item: T, seer: Seer): V;
}

/** For kinds that are plain values. */
export const PLAIN = {
  bytes: () => 0,
  free: () => {},
  store: (item: object) => item,
  again: <T>(item: T): T => item,
  copied: <T>(item: T): T => item,
};
