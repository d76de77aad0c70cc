/** The geometry kernel: the only folder that touches the geometry library. Everything here is in millimetres and radians. */
export * from "./distance";
export * from "./faults";
export * from "./fuse";
export * from "./inner-point";
export { kernelHeapBytes, kernelLoaded, type LibraryFactory, loadKernel } from "./library";
export * from "./measure";
export {
  makeBox,
  makeCylinder,
  makePlaneFace,
  makeRevolved,
  makeSphere,
  makeTorus,
} from "./primitives";
export * from "./sheet";
export * from "./step-file";
export * from "./tessellate";
export * from "./text";
export {
  type Adjacency,
  adjacency,
  compound,
  freeShape,
  type Orientation,
  ownHandle,
  type Shape,
  shapeKind,
  shellOf,
} from "./topology";
export * from "./transform";
export * from "./vectors";
