import type { PlaneFrame, Shape, Vec3 } from "../kernel";
import type { Entity } from "../sketch";

/** Where a body's displayed name comes from; resolved late, so that renaming rebuilds nothing. */
export type NameHint = { text: string } | { from: string; suffix: string };

export interface Body {
  /** `step:role`, stable while the step makes the same thing. */
  id: string;
  kind: "solid" | "sheet";
  shape: Shape;
  /** One name per face, in the kernel's order of faces. */
  faces: string[];
  hint: NameHint;
}

/** An endless plane with a side: + is where the normal points. */
export interface Workplane {
  id: string;
  kind: "workplane";
  origin: Vec3;
  normal: Vec3;
  hint: NameHint;
}

/** A drawing in a plane, solved. What it encloses is worked out where it is asked for. */
export interface SketchItem {
  id: string;
  kind: "sketch";
  frame: PlaneFrame;
  /** What is drawn, and what was given to draw by. */
  entities: Entity[];
  /** What bodies gave, of those. */
  given: Entity[];
  hint: NameHint;
}

export type Item = Body | Workplane | SketchItem;

export function isBody<T extends { kind: string }>(item: T): item is Extract<T, { kind: "solid" | "sheet" }> {
  return item.kind === "solid" || item.kind === "sheet";
}
