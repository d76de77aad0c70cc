import type { ManifoldToplevel } from "manifold-3d";

/**
 * The loaded library of solids of triangles: one instance per JavaScript realm. It divides them in milliseconds, which is for the eye
 * alone: nothing exact is made with it.
 */
export type TrianglesFactory = (options?: { locateFile: () => string }) => Promise<ManifoldToplevel>;

let loading: Promise<ManifoldToplevel> | null = null;
let instance: ManifoldToplevel | null = null;

/**
 * Loads the library once; later calls return the same promise. @param factory the module's default export, imported by whoever knows
 * where the module lies. @param wasm where its WebAssembly file lies, where the module does not know.
 */
export function loadTriangles(factory: TrianglesFactory, wasm?: string): Promise<ManifoldToplevel> {
  loading ??= factory(wasm ? { locateFile: () => wasm } : undefined)
    .then((loaded) => {
      loaded.setup();
      instance = loaded;
      return loaded;
    })
    .catch((cause) => {
      loading = null;
      throw cause;
    });
  return loading;
}

/** The loaded library. Throws when `loadTriangles` has not finished: a programming error, not a user's. */
export function trianglesLibrary(): ManifoldToplevel {
  if (!instance) throw new Error("Triangles cannot be divided yet: await loadTriangles() first.");
  return instance;
}
