import { loadTriangles } from "./library";

/** Loads the library in Node: route handlers' workers and the tests. */
export async function loadNodeTriangles(): Promise<void> {
  const module = await import("manifold-3d");
  await loadTriangles(module.default);
}
