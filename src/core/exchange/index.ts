export * from "./csv";
export type { DrawingFile } from "./drawing/curves";
export * from "./dxf";
export * from "./formats";
export * from "./inspect";
export * from "./step";
export * from "./svg";
