export * from "./declare";
export * from "./list";
export * from "./out-items";
export { writeItems } from "./writers";
