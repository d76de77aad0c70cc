/** Drawing files by themselves: they need no geometry kernel, so that the interface can read them where it stands. */
export type { DrawingFile } from "./drawing/curves";
export { readDxf, writeDxf } from "./dxf";
export { readSvg, writeSvg } from "./svg";
