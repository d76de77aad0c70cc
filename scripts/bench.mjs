// Measures the program as it is delivered: built, not through the loader that development runs it with, which names every
// inner function anew each time it is made and so lays 2 to 4 per cent on all that is ours and nothing on the library.
import { bundle, run } from "./lib.mjs";

run("node", [await bundle("bench/main.ts", "bench"), ...process.argv.slice(2)]);
run("node", ["bench/page.mjs"]);
run("node", ["bench/drag.mjs"]);
