export * from "./cache";
export * from "./dependants";
export * from "./evaluate";
export * from "./pack";
export * from "./pinches";
export * from "./result";
export * from "./view-key";
export * from "./warm-up";
