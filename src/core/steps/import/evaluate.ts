import { readStep, type StepBody } from "../../exchange/step";
import { adjacency, allFaceFacts } from "../../kernel";
import { namesFromFacts } from "../../naming";
import { evaluates } from "../evaluation";
import { importStep } from "./declare";

export const evaluateImportStep = evaluates(importStep, {
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
