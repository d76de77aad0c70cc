/** The geometry kernel: the only folder that touches the geometry library. Everything here is in millimetres and radians. */
export { conicOf, segment } from "./conic";
export * from "./counts";
export * from "./distance";
export * from "./draft";
export * from "./edge-work";
export * from "./edges";
export * from "./faults";
export { type Cell, type FaceUse, type Fusion, fuse, solidFromFaces } from "./fuse";
export * from "./hollow";
export { edgeHandles, vertexHandles } from "./incidence";
export * from "./inner-point";
export { kernelHeapBytes, kernelLoaded, type LibraryFactory, loadKernel } from "./library";
export * from "./loft";
export {
  allFaceFacts,
  areaOf,
  boxOf,
  type FaceFacts,
  type FaceKind,
  faceCentre,
  faceFacts,
  isValid,
  looseBoxOf,
  type OpenEdge,
  openEdges,
  subshapePlanes,
  surfaceCentre,
  volumeOf,
} from "./measure";
export { type Merged, mergeFaces } from "./merge";
export * from "./neighbourhoods";
export {
  type BoundaryStep,
  type Drawn,
  drawOutSheet,
  drawOutSolid,
  inSpace,
  type PlanarCurve,
  type PlanarStretch,
  type PlaneFrame,
  sweepEdges,
} from "./outline";
export {
  makeBox,
  makeCylinder,
  makePlaneFace,
  makeRevolved,
  makeSphere,
  makeTorus,
} from "./primitives";
export * from "./project";
export * from "./revolve";
export { cornersOf, matchOutlines } from "./section-match";
export { meetsItself } from "./self-contact";
export * from "./sheet";
export { type SkinEnds, type SkinGuide, skinThrough } from "./skin";
export { type Bend, bendsOf, type ChainLink, chainOf, type Spine, spotsAlong, startOf, turnBetween } from "./spine";
export * from "./step-file";
export type { Surface } from "./surfaces";
export * from "./sweep";
export * from "./tessellate";
export * from "./text";
export {
  compound,
  facesOf,
  freeShape,
  type Orientation,
  ownHandle,
  type Shape,
  shapeKind,
  shellOf,
} from "./topology";
export * from "./transform";
export * from "./vectors";
