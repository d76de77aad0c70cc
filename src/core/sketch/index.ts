/** Drawings in a plane: what is drawn, what holds between it, and the regions that it encloses. */

export { pathOf } from "./chain";
export { type Curve, type CurveShape, curvesOf, distance2, pointAt, type Vec2 } from "./curves";
export { bringIn } from "./edit/bring-in";
export { type Clip, copyOf, paste } from "./edit/copy";
export { cutCorner, roundCorner } from "./edit/corner";
export { directionAtEnd } from "./edit/ends";
export { fittingConstraints, fittingDimensions } from "./edit/fits";
export { curveNear, inBox } from "./edit/lookup";
export { mirror } from "./edit/mirror";
export { offset } from "./edit/offset";
export {
  arcAround,
  arcOnwards,
  arcThrough,
  centredRectangle,
  circleThrough,
  ellipseAbout,
  polygon,
  rectangle,
  slot,
} from "./edit/shapes";
export { type Place, placeOf, SketchEdit } from "./edit/sketch-edit";
export { extend, trim } from "./edit/trim";
export { flatLine, withLineTurned } from "./edit/turn";
export * from "./entities";
export { type GivenCurve, type GivenShape, givenEntities } from "./given";
export { profileOf, stretchesOf } from "./item";
export { meet } from "./meet";
export { boxOf } from "./profile/crossings";
export { along, divide, type Graph, type Stretch } from "./profile/graph";
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
export { sensesOf } from "./profile/senses";
export { openWays, runOnProfile } from "./run-on";
export { type Conflict, Drag, SketchFault, type SketchState, sided, sizeNow, solveSketch } from "./solver";
export { endsOf } from "./solver/contacts";
export { pointsOf } from "./solver/geometry";
export { Poles, piecesOf } from "./spline";
export { textWidth } from "./text";
