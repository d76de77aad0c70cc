export * from "./declare";
export * from "./list";
export * from "./out-bodies";
export { writeBodies } from "./writers";
