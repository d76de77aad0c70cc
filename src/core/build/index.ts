export * from "./cache";
export * from "./evaluate";
export * from "./result";
export * from "./warm-up";
