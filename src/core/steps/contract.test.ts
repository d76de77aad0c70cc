import { readFileSync } from "node:fs";
import path from "node:path";
import { beforeAll, describe, expect, test } from "vitest";
import { evaluatePart, ResultCache } from "../evaluate";
import { type Job, type Part, parseJob, type Step } from "../job";
import { loadNodeKernel } from "../kernel/library/node";
import { jobOf } from "../testing/harness";
import { thirtySteps } from "../testing/thirty-steps";
import { evaluationOf } from "./evaluations";
import { activeValues, needsOf, refsOf, STEP_TYPES, type StepType, shownFields, stepType } from "./index";

beforeAll(loadNodeKernel);

const demo = path.join(process.cwd(), "demo");

/** Two sheets that between them have most kinds of step, and the demo. */
const jobs = (): Job[] => [
  parseJob(readFileSync(path.join(demo, "star-pier.json"), "utf8")),
  jobOf(thirtySteps() as Record<string, unknown>[]),
  jobOf(
    [
      { id: "ball", type: "sphere", diameter: 40 },
      { id: "cone", type: "cone", diameter: 30, top: 10, height: 30, at: [60, 0, 0] },
      { id: "ring", type: "torus", diameter: 60, section: 10, at: [0, 80, 0] },
      { id: "wedge", type: "wedge", at: [-80, 0, 0] },
      { id: "tall", type: "scale", bodies: ["cone"], factor: 1.1 },
      { id: "there", type: "move", bodies: ["wedge"], by: [0, 0, 30], copy: true },
      { id: "image", type: "mirror", bodies: ["wedge"] },
      { id: "split", type: "seam", preset: "split", stock: ["ball"], cutters: ["mid"] },
    ].toSpliced(7, 0, { id: "mid", type: "workplane", base: "xy", offset: 5 } as never),
  ),
];

const all = (): Step[] => jobs().flatMap(({ parts }) => parts.flatMap(({ steps }) => steps));

function evaluated(job: Job, part: Part, cache: ResultCache) {
  return evaluatePart(job, part, {
    cache,
    file: () => new Uint8Array(readFileSync(path.join(demo, "foot-pad.step"))),
  });
}

describe("every kind of step", () => {
  test("is declared once, and does something", () => {
    const types = STEP_TYPES.map(({ type }) => type);
    expect(new Set(types).size).toBe(types.length);
    for (const type of types) expect(evaluationOf(type), type).toBeDefined();
  });

  test("asks in its form for values that it has", () => {
    for (const { type, fields, schema } of STEP_TYPES as readonly StepType[])
      for (const { key, when } of fields) {
        const shape = (schema as unknown as { shape: object }).shape;
        expect(Object.keys(shape), `${type}: ${key}`).toContain(key);
        for (const condition of when ? [when].flat() : [])
          for (const other of "is" in condition ? [condition.key] : condition.any)
            expect(Object.keys(shape), `${type}: ${key} when ${other}`).toContain(other);
      }
  });

  test("is told apart by what it does alone: renaming, grouping and renumbering builds nothing again", () => {
    for (const job of jobs())
      for (const part of job.parts) {
        const cache = new ResultCache();
        const before = evaluated(job, part, cache);
        part.steps.forEach((step, i) => {
          step.name = `Called ${i}`;
          step.group = `Group ${i >> 2}`;
        });
        const after = evaluated(job, part, cache);
        expect(after.steps.map(({ id, key }) => [id, key])).toEqual(before.steps.map(({ id, key }) => [id, key]));
      }
  });

  test("does not hear what its form hides", () => {
    for (const step of all()) {
      const type = stepType(step.type)!;
      const shown = new Set(shownFields(step).map(({ key }) => key));
      const hidden = type.fields.filter(({ key }) => !shown.has(key));
      for (const { key } of hidden) {
        const changed = { ...step, [key]: otherThan(step[key]) };
        expect(needsOf(type, activeValues(changed)), `${step.type} ${step.id}: ${key}`).toEqual(
          needsOf(type, activeValues(step)),
        );
      }
    }
  });

  test("names all that it needs: with what it refers to taken away it can do nothing else than say so", () => {
    for (const job of jobs())
      for (const part of job.parts) {
        const cache = new ResultCache();
        const before = evaluated(job, part, cache);
        for (const [i, step] of part.steps.entries()) {
          const needs = refsOf(step);
          if (needs.length === 0) continue;
          const without = { ...part, hold: null, steps: [activeValues(step)] };
          const [report] = evaluated(job, without, cache).steps;
          expect(report!.state, `${step.type} ${step.id}`).toBe("failed");
          expect(report!.error!.message.length).toBeGreaterThan(10);
          expect(before.steps[i]!.id).toBe(step.id);
        }
      }
  });
});

/** A value of the same kind that is another. */
function otherThan(value: unknown): unknown {
  if (typeof value === "boolean") return !value;
  if (typeof value === "number") return value + 1;
  if (typeof value === "string") return `${value}x`;
  if (Array.isArray(value)) return [...value, ...(value.length > 0 ? [otherThan(value[0])] : ["elsewhere:body"])];
  return value;
}
