export * from "./chains";
export * from "./kept";
export * from "./link";
export * from "./settle";
export * from "./standing";
