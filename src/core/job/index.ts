export * from "./changes";
export * from "./document";
export * from "./json-schema";
export * from "./parse";
export * from "./state";
