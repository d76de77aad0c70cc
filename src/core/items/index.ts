export * from "./body";
export * from "./curve";
export type { Extras, NameHint, Seer, Told } from "./handling";
export * from "./handlings";
export * from "./kinds";
export * from "./sketch-item";
export * from "./view-mesh";
export * from "./workplane";
