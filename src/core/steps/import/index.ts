import { z } from "zod";
import { readStep, type StepBody } from "../../exchange/step";
import { adjacency, allFaceFacts } from "../../kernel";
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
  weighed: () => true,
  evaluate(values, context) {
    const { step } = context;
    const file = context.file(values.file);
    const contents = readStep(file.bytes, file.name);
    const ids = new Map<string, number>();
    const idOf = new Map<StepBody, string>();
    const made = contents.bodies.map((body) => {
      const { kind, shape, name } = body;
      const facts = allFaceFacts(shape);
      const faces = namesFromFacts(step, facts, () => adjacency(shape).neighbours);
      const base = `${step}:${name}`;
      const count = (ids.get(base) ?? 0) + 1;
      ids.set(base, count);
      const id = count === 1 ? base : `${base}.${count}`;
      idOf.set(body, id);
      return { id, kind, shape, faces, hint: { text: count === 1 ? name : `${name} ${count}` } };
    });
    for (const { code, message, body, at } of contents.warnings) {
      const id = body && idOf.get(body);
      context.warn({
        code,
        message,
        step,
        ...(id ? { bodies: [id] } : {}),
        ...(at ? { at: [at[0], at[1], at[2]] } : {}),
      });
    }
    return { made, used: [] };
  },
});
