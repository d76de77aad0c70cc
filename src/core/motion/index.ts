export * from "./moves";
export { type Swept, type SweptFault, sweptRoom } from "./swept";
