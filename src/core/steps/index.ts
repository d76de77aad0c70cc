export * from "./registry";
export * from "./step";
