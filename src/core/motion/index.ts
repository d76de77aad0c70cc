export * from "./moves";
export * from "./pose";
export { type Swept, type SweptFault, sweptRoom } from "./swept";
