/** Drawings in a plane: what is drawn, what holds between it, and the regions that it encloses. */
export { type Curve, type CurveShape, curvesOf, distance2, pointAt, type Vec2 } from "./curves";
export { fittingConstraints, fittingDimensions, freshId, type Place, placeOf, SketchEdit } from "./edit";
export * from "./entities";
export { profileOf, stretchesOf } from "./item";
export { divide, type Graph, type Stretch } from "./profile/graph";
export {
  type BoundaryPart,
  filledRegions,
  findProfile,
  mergeRegions,
  type Profile,
  polyline,
  type Region,
  regionHolds,
} from "./profile/regions";
export { type Conflict, Drag, SketchFault, type SketchState, sizeNow, solveSketch } from "./solver";
