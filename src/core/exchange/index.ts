export * from "./csv";
export type { DrawingFile } from "./drawing/curves";
export * from "./dxf";
export * from "./inspect";
export * from "./step";
export * from "./stl";
export * from "./svg";
