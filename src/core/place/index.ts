export * from "./place";
export * from "./put";
export * from "./taken";
export * from "./transform";
