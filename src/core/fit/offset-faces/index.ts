export type { MovedFace, OffsetFault } from "./moved";
export { type Offset, offsetFaces, originOf } from "./offset-faces";
