export * from "./body";
export * from "./faces";
export * from "./reference";
export * from "./topology-names";
