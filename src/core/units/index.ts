export * from "./fields";
export * from "./lengths";
