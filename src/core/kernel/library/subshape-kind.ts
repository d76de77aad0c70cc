import type { TopAbs_ShapeEnum } from "replicad-opencascadejs";

export type SubshapeKind = "solid" | "shell" | "face" | "wire" | "edge" | "vertex";

export const KINDS: Record<SubshapeKind, TopAbs_ShapeEnum> = {
  solid: "TopAbs_SOLID",
  shell: "TopAbs_SHELL",
  face: "TopAbs_FACE",
  wire: "TopAbs_WIRE",
  edge: "TopAbs_EDGE",
  vertex: "TopAbs_VERTEX",
} as Record<SubshapeKind, TopAbs_ShapeEnum>;
