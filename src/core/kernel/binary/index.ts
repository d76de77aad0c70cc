export { conicTerms, furthestParameters, isConic } from "./conics";
export { pointsOf } from "./curve-at";
export type { Conic, Curve } from "./curves";
export {
  type EdgeStructure,
  type EdgeUse,
  type FaceStructure,
  type Structure,
  structureOf,
  structuresWithin,
} from "./structure";
export { PATCH_NUMBERS, type Patch, patchOf, patchOfAny } from "./surface-at";
export type { SurfaceFrame, SurfaceRecord } from "./surfaces";
