import type { Shape, Vec3 } from "../kernel";

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

export type Item = Body | Workplane;

export function isBody(item: Item): item is Body {
  return item.kind !== "workplane";
}
