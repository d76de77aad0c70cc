/** The geometry kernel: the only folder that touches the geometry library. Everything here is in millimetres and radians. */

export { type Inwards, inwardsFrom } from "./at-edge";
export { boxOf, looseBoxOf } from "./box";
export { conicOf, segment } from "./conic";
export * from "./counts";
export { curveShape } from "./curve-shape";
export * from "./distance";
export * from "./draft";
export * from "./edge-work";
export * from "./edges";
export { extendSheet } from "./extend-sheet";
export { allFaceFacts, type FaceFacts, type FaceKind } from "./face-facts";
export * from "./faults";
export { fuse } from "./fuse";
export { notedGap, tightened, widestGap } from "./gaps";
export type { Cell, FaceUse, Fusion } from "./general-fuse";
export { courseOf, type GuideCourse, type GuidePiece, type GuideTrouble, type SkinGuide } from "./guides";
export * from "./hollow";
export { edgeHandles, vertexHandles } from "./incidence";
export * from "./inner-point";
export { kernelHeapBytes, kernelLoaded, kernelTrusted, type LibraryFactory, loadKernel } from "./library";
export { inFrame, type LocalFrame, localFrames, type NamedFrame } from "./local-frame";
export * from "./loft";
export { areaOf, faceCentre, formVolume, quickVolume, roughSkin, surfaceCentre, volumeOf } from "./mass";
export { isValid, type OpenEdge, openEdges, openPlaces } from "./measure";
export { type Merged, mergeFaces, mergeFacesApart } from "./merge";
export { MeshStore } from "./mesh-store";
export { naturalSheet } from "./natural-sheet";
export * from "./neighbourhoods";
export {
  type BoundaryStep,
  type Drawn,
  drawOutSheet,
  drawOutSolid,
  type PlanarCurve,
  type PlanarStretch,
  sweepEdges,
} from "./outline";
export { inSpace, type PlaneFrame } from "./plane-frame";
export { subshapePlanes } from "./planes";
export {
  makeBox,
  makeCylinder,
  makePlaneFace,
  makeRevolved,
  makeSphere,
  makeTorus,
  planeFaceFor,
} from "./primitives";
export * from "./project";
export * from "./revolve";
export { cornersOf, matchOutlines } from "./section-match";
export { meetsItself } from "./self-contact";
export * from "./sheet";
export { type SkinEnds, skinThrough } from "./skin";
export { solidFromFaces } from "./solid-from-faces";
export { soundSolid, type Unsoundness, unsoundness } from "./soundness";
export { spansWithin } from "./spans-within";
export { type Bend, bendsOf, type ChainLink, chainOf, type Spine, spotsAlong, startOf, turnBetween } from "./spine";
export * from "./step-file";
export * from "./surface-gap";
export { ballOf, type Surface, surfacesOf } from "./surfaces";
export * from "./sweep";
export { type Deflection, type Mesh, tessellate, viewDeflection } from "./tessellate";
export * from "./text";
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
} from "./topology";
export * from "./transform";
export * from "./vectors";
