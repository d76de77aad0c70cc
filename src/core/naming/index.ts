export * from "./edge-ref";
export * from "./faces";
export * from "./faces-with";
export * from "./reference";
export * from "./topology-names";
