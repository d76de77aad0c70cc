import * as z from "zod";
import { fileRef } from "../../references";
import { declareStep } from "../declare";

const schema = z.object({
  file: fileRef,
});

/** Brings in solids and sheets from a STEP file. */
export const importStep = declareStep({
  type: "import",
  schema,
  words: { label: "Import STEP", line: "Solids and sheets from a STEP file, in the file's own unit", stage: "shape" },
  fields: [{ key: "file", kind: "file", label: "STEP file", accept: ".step,.stp,.p21" }],
});
