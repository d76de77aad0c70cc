export * from "./edge-ref";
export * from "./faces";
export * from "./reference";
export * from "./topology-names";
