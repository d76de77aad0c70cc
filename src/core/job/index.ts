export * from "./changes";
export * from "./document";
export * from "./json-schema";
export * from "./looks";
export * from "./parameters";
export * from "./parse";
export * from "./state";
export * from "./upgrade";
