export * from "./furthest";
