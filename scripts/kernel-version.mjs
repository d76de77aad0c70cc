import { readFileSync } from "node:fs";
import path from "node:path";

const root = path.resolve(import.meta.dirname ?? path.dirname(new URL(import.meta.url).pathname), "..");

/** Where the packages lie that are served to the browser as they are, past the bundler, and what their files are called there. */
export const SERVED = [
  {
    name: "kernel",
    folder: path.join(root, "node_modules", "replicad-opencascadejs"),
    module: "dist/replicad_single.js",
    wasm: "dist/replicad_single.wasm",
  },
  {
    name: "triangles",
    folder: path.join(root, "node_modules", "manifold-3d"),
    module: "manifold.js",
    wasm: "manifold.wasm",
  },
];

/** The versions of all of them: what their address begins with, so that a browser may keep them for good. */
export function kernelVersion() {
  return SERVED.map(({ folder }) => JSON.parse(readFileSync(path.join(folder, "package.json"), "utf8")).version).join(
    "-",
  );
}
