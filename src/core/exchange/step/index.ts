import { fail } from "../../errors";
import { type Shape, writeStepShapes } from "../../kernel";
import { writeString } from "./part21";

export { NotStretchable, type Stretch } from "./affine";
export { checkPart21 } from "./part21";
export { readStep, type StepBody, type StepFile, type StepWarning } from "./read";
export { stretchedSolid } from "./stretched";

/** Writes named bodies as STEP (AP214, millimetres). Returns the file's text, ASCII only. */
export function writeStep(bodies: readonly { name: string; shape: Shape }[], title: string): string {
  if (bodies.length === 0) fail("nothing-to-write", "There is no body to write. Show or pick at least one.");
  const tags = bodies.map((_, i) => `BODY${i}TAG`);
  const text = writeStepShapes(bodies.map(({ shape }, i) => ({ tag: tags[i]!, shape })));
  return text
    .replace(/'BODY(\d+)TAG[ .\d]*'/g, (_all, i: string) => writeString(bodies[Number(i)]!.name))
    .replace(/FILE_NAME\('[^']*'/, `FILE_NAME(${writeString(title)}`)
    .replace(/\('Author'\)/, "('')");
}
