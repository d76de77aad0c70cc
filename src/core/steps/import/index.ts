import { z } from "zod";
import { fail } from "../../errors";
import { readStep } from "../../exchange/step";
import { adjacency, allFaceFacts, openEdges } from "../../kernel";
import { namesFromFacts } from "../../naming";
import { defineStep } from "../step";

const schema = z.object({
  file: z.string().min(1).describe("Id of a file of the job"),
});

/** Brings in solids and sheets from a STEP file. */
export const importStep = defineStep({
  type: "import",
  schema,
  words: { label: "Import STEP", line: "Solids and sheets from a STEP file, in the file's own unit", stage: "shape" },
  fields: [{ key: "file", kind: "file", label: "STEP file", accept: ".step,.stp,.p21" }],
  refs: () => [],
  files: (values) => [values.file],
  resolved: () => ({}),
  evaluate(values, context) {
    const { step } = context;
    const file = context.file(values.file);
    const contents = readStep(file.bytes, file.name);
    for (const message of contents.warnings) context.warn({ code: "import-partial", message, step });
    const ids = new Map<string, number>();
    const made = contents.bodies.map(({ kind, shape, name }) => {
      const facts = allFaceFacts(shape);
      const faces = namesFromFacts(step, facts, () => adjacency(shape).neighbours);
      const base = `${step}:${name}`;
      const count = (ids.get(base) ?? 0) + 1;
      ids.set(base, count);
      const id = count === 1 ? base : `${base}.${count}`;
      if (kind === "solid" && openEdges(shape).length > 0)
        context.warn({
          code: "import-open",
          message: `“${name}” came in as a solid but its skin is not closed. Check it before cutting with it.`,
          step,
          bodies: [id],
        });
      return { id, kind, shape, faces, hint: { text: count === 1 ? name : `${name} ${count}` } };
    });
    if (made.length === 0) fail("no-geometry", `“${file.name}” holds no solids or sheets.`, { step });
    return { made, used: [] };
  },
});
