// Measures the program as it is delivered: built, not through the loader that development runs it with, which names every
// inner function anew each time it is made and so lays 2 to 4 per cent on all that is ours and nothing on the library.
import path from "node:path";
import { build } from "esbuild";
import { root, run } from "./lib.mjs";

const out = path.join(root, "node_modules", ".cache", "bench", "main.mjs");
await build({
  entryPoints: ["bench/main.ts"],
  outfile: out,
  bundle: true,
  packages: "external",
  platform: "node",
  format: "esm",
  target: "node20",
  logLevel: "warning",
});
run("node", [out, ...process.argv.slice(2)]);
