export type { MovedFace, OffsetFault } from "./moved";
export { type Offset, offsetFaces } from "./offset-faces";
export { originOf } from "./origin";
