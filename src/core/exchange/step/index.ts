import { fail } from "../../errors";
import { KernelFault, readStepShapes, type Shape, writeStepShapes } from "../../kernel";
import { stepNames } from "./names";
import { checkPart21, parseRecords, writeString } from "./part21";

export { NotStretchable, type Stretch } from "./affine";
export { checkPart21 } from "./part21";
export { stretchedSolid } from "./stretched";

export interface StepBody {
  kind: "solid" | "sheet";
  name: string;
  /** Owned by the caller. */
  shape: Shape;
}

export interface StepFile {
  bodies: StepBody[];
  /** The unit that the file was written in; the bodies are in millimetres all the same. */
  unit: string | null;
  /** What was in the file and is not brought in. */
  warnings: string[];
}

/**
 * Reads a STEP file of any unit into millimetres, with the names that it gives its bodies.
 * @param name the file's name, for messages.
 * @throws SeamError with one sentence: empty, not STEP, cut off, unreadable, without geometry.
 */
export function readStep(bytes: Uint8Array, name: string): StepFile {
  checkPart21(bytes, name);
  const names = stepNames(parseRecords(bytes));
  let contents: ReturnType<typeof readStepShapes>;
  try {
    contents = readStepShapes(bytes);
  } catch (cause) {
    if (cause instanceof KernelFault && !cause.fatal)
      fail("file-unreadable", `“${name}” is damaged: its records cannot be read. Export it again.`);
    throw cause;
  }
  if (contents.shapes.length === 0 && names.otherFiles.length > 0) {
    const listed = names.otherFiles.slice(0, 4).map((file) => `“${file}”`);
    const rest = names.otherFiles.length - listed.length;
    fail(
      "geometry-elsewhere",
      `“${name}” only points at other files, where its bodies are. Bring in ${listed.join(", ")}${rest > 0 ? ` and ${rest} more` : ""} instead.`,
    );
  }
  if (contents.shapes.length === 0) {
    const instead =
      names.has("TESSELLATED_SOLID") || names.has("TESSELLATED_SHELL")
        ? " It holds triangles only; export exact solids."
        : "";
    fail(
      "no-geometry",
      `“${name}” holds no solids or sheets.${instead || " Export the solid model, not only its drawing or structure."}`,
    );
  }
  const fallback = name.replace(/\.[^.]*$/, "") || "Body";
  const warnings: string[] = [];
  if (contents.looseCurves > 0)
    warnings.push(`“${name}” also holds ${contents.looseCurves} loose curves, which are not brought in.`);
  return {
    bodies: contents.shapes.map(({ kind, shape, record }) => ({ kind, shape, name: names.nameOf(record) ?? fallback })),
    unit: names.unit,
    warnings,
  };
}

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
