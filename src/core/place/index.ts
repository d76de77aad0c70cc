export * from "./place";
export * from "./taken";
export * from "./transform";
