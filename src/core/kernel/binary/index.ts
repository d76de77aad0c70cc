export type { Curve } from "./curves";
export { type EdgeStructure, type EdgeUse, type FaceStructure, type Structure, structureOf } from "./structure";
export type { SurfaceFrame, SurfaceRecord } from "./surfaces";
