export * from "./registry";
export * from "./step";
export * from "./values";
