import type { CurveSpan } from "../../curve/span";
import { fail } from "../../errors";
import { curveShape, freeShape, type Shape, writeStepShapes } from "../../kernel";
import { writeString } from "./part21";

export { NotStretchable, type Stretch } from "./affine";
export { checkPart21 } from "./part21";
export { readStep, type StepBody, type StepFile, type StepWarning } from "./read";
export { stretchedSolid } from "./stretched";

/** What is written as STEP: a shape, or a curve in space. */
type Named = { name: string } & ({ shape: Shape } | { spans: readonly CurveSpan[] });

/** Writes named bodies and curves as STEP (AP214, millimetres). Returns the file's text, ASCII only. */
export function writeStep(items: readonly Named[], title: string): string {
  if (items.length === 0) fail("nothing-to-write", "There is no body to write. Show or pick at least one.");
  const curves = new Map(items.flatMap((item) => ("spans" in item ? [[item, curveShape(item.spans)] as const] : [])));
  try {
    const shapes = items.map((item, i) => ({
      tag: `BODY${i}TAG`,
      shape: "shape" in item ? item.shape : curves.get(item)!,
    }));
    return writeStepShapes(shapes)
      .replace(/'BODY(\d+)TAG[ .\d]*'/g, (_all, i: string) => writeString(items[Number(i)]!.name))
      .replace(/FILE_NAME\('[^']*'/, `FILE_NAME(${writeString(title)}`)
      .replace(/\('Author'\)/, "('')");
  } finally {
    for (const shape of curves.values()) freeShape(shape);
  }
}
