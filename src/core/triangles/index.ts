/** Solids of triangles, divided for the eye: quick, and as near as the triangles are. */
export { type Contact, contactsOnWay } from "./contacts";
export * from "./divide";
export { hollowRoughly } from "./hollow";
export { loadTriangles, type TrianglesFactory } from "./library";
export type { RoughMesh } from "./mesh";
export { roughlyDivided } from "./parties";
export type { Skin } from "./skin";
