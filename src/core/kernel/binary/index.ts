export { pointsOf } from "./curve-at";
export type { Curve } from "./curves";
export { type EdgeStructure, type EdgeUse, type FaceStructure, type Structure, structureOf } from "./structure";
export { PATCH_NUMBERS, type Patch, patchOf } from "./surface-at";
export type { SurfaceFrame, SurfaceRecord } from "./surfaces";
