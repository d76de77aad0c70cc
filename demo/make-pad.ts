import { writeFileSync } from "node:fs";
import path from "node:path";
import { writeStep } from "../src/core/exchange/step";
import { freeShape, makeRevolved } from "../src/core/kernel";
import { loadNodeKernel } from "../src/core/kernel/library/node";

/**
 * Makes the STEP file of the Star Pier's foot pad: a turned rubber foot with a blind socket for the leg's peg.
 * All sizes are invented. Radius and height, mm.
 */
const OUTLINE = [
  [0, 0],
  [22, 0],
  [24, 2],
  [24, 6],
  [16, 20],
  [16, 24],
  [7, 24],
  [7, 10],
  [0, 10],
] as const;

await loadNodeKernel();
const pad = makeRevolved(OUTLINE);
const file = path.join(import.meta.dirname ?? "demo", "foot-pad.step");
writeFileSync(file, writeStep([{ name: "Foot pad", shape: pad }], "Star Pier foot pad"));
freeShape(pad);
console.log(file);
