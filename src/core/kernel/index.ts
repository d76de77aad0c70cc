/** The geometry kernel: the only folder that touches the geometry library. Everything here is in millimetres and radians. */

export type { SurfaceRecord } from "./binary";
export { type Covers, coversOf } from "./change/covers";
export * from "./change/draft";
export * from "./change/edge-work";
export { extendSheet } from "./change/extend-sheet";
export * from "./change/hollow";
export { moveFaces } from "./change/moved/move-faces";
export { offsetSolid } from "./change/offset-solid";
export { fuse } from "./divide/fuse";
export type { Cell, FaceUse, Fusion } from "./divide/general-fuse";
export { type Merged, mergeFaces, mergeFacesApart } from "./divide/merge";
export { partFace } from "./divide/part-face";
export { fuseWithinReach } from "./divide/within-reach";
export { edgeLengthAt } from "./facts/arc-length";
export { type Inwards, inwardsFrom } from "./facts/at-edge";
export { isBallWedge } from "./facts/ball-wedge";
export { boxOf, looseBoxOf } from "./facts/box";
export * from "./facts/counts";
export { curvingOf } from "./facts/curving";
export * from "./facts/distance";
export { edgeEnds, openEdgeAhead } from "./facts/edge-ahead";
export { bowsOf, meetingsOf, spread, withSmoothOn } from "./facts/edge-bend";
export * from "./facts/edges";
export { allFaceFacts, type FaceFacts, type FaceKind } from "./facts/face-facts";
export { notedGap, tightened, widestGap } from "./facts/gaps";
export * from "./facts/inner-point";
export { inFrame, type LocalFrame, localFrames, type NamedFrame } from "./facts/local-frame";
export { areaOf, faceCentre, formVolume, roughSkin, surfaceCentre, volumeOf } from "./facts/mass";
export { isValid, type OpenEdge, openEdges, openPlaces } from "./facts/measure";
export { type NearFlats, nearFlats, nearlyInPlane, nearlyMeetFlat } from "./facts/near-planes";
export * from "./facts/neighbourhoods";
export * from "./facts/on-face";
export { subshapePlanes } from "./facts/planes";
export { openRims, type Rim } from "./facts/rims";
export { meetsItself } from "./facts/self-contact";
export { soundSolid, trianglesClose, type Unsoundness, unsoundness } from "./facts/soundness";
export { spansWithin } from "./facts/spans-within";
export * from "./facts/surface-gap";
export {
  ballOf,
  freeFacesOf,
  isUsedUpBy,
  leastRadius,
  roundOf,
  type Surface,
  surfaceRecordsOf,
  surfacesOf,
} from "./facts/surfaces";
export { volumeWithin } from "./facts/volume-within";
export { broughtInStep } from "./files/in-step";
export * from "./files/step-file";
export * from "./library/faults";
export { identityOf, perShape } from "./library/identity";
export { edgeHandles, readTogether, vertexHandles } from "./library/incidence";
export { kernelHeapBytes, kernelLoaded, kernelTrusted, type LibraryFactory, loadKernel } from "./library/library";
export * from "./library/text";
export {
  compound,
  facesOf,
  freeShape,
  type Orientation,
  orientation,
  ownHandle,
  type Shape,
  shapeKind,
  shellOf,
} from "./library/topology";
export { conicOf, segment } from "./make/conic";
export { curveShape } from "./make/curve-shape";
export { courseOf, type GuideCourse, type GuidePiece, type GuideTrouble, type SkinGuide } from "./make/guides";
export * from "./make/loft";
export { movedFace } from "./make/moved-face";
export { naturalSheet } from "./make/natural-sheet";
export { type OrientedSkin, orientedSkin, solidOfSheet } from "./make/oriented-skin";
export {
  type BoundaryStep,
  type Drawn,
  drawOutSheet,
  drawOutSolid,
  type PlanarCurve,
  type PlanarStretch,
  sweepEdges,
} from "./make/outline";
export {
  makeBox,
  makeCylinder,
  makePlaneFace,
  makeRevolved,
  makeSphere,
  makeTorus,
  planeFaceFor,
} from "./make/primitives";
export * from "./make/project";
export * from "./make/revolve";
export { cornersOf, matchOutlines } from "./make/section-match";
export * from "./make/sheet";
export { type SkinEnds, skinThrough } from "./make/skin";
export { solidFromFaces } from "./make/solid-from-faces";
export {
  type Bend,
  bendsOf,
  type ChainLink,
  chainOf,
  type Spine,
  spotsAlong,
  startOf,
  turnBetween,
} from "./make/spine";
export * from "./make/sweep";
export * from "./make/swept-face";
export * from "./make/transform";
export { wholeFace } from "./make/whole-face";
export { MeshStore } from "./mesh/mesh-store";
export { type Deflection, type Mesh, tessellate, triangulate, viewDeflection } from "./mesh/tessellate";
export { volumeUnder } from "./mesh/volume-under";
export * from "./mesh/welded";
export { inSpace, type PlaneFrame } from "./space/plane-frame";
export * from "./space/vectors";
