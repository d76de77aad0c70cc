export * from "./lengths";
