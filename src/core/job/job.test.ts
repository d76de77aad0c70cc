import { describe, expect, test } from "vitest";
import { messageOf } from "../testing/harness";
import { checkJob, emptyJob, jobJsonSchema, jobSchema, parseJob } from ".";

const job = (steps: unknown[], more: object = {}) => ({
  format: "bold-seam-job",
  version: 1,
  name: "J",
  parts: [{ id: "p", name: "P", steps }],
  ...more,
});

describe("bad job files: one clear sentence each", () => {
  test.each([
    [
      "an unknown step",
      job([{ id: "a", type: "teapot" }]),
      /^Step 1 “a” is of the type “teapot”, which is not known. Use one of: .*box/,
    ],
    [
      "a negative size",
      job([{ id: "a", type: "box", size: [10, -5, 10] }]),
      "The job cannot be used. Step 1 “a”, Size Y: has to be more than 0 mm; it is -5 mm.",
    ],
    [
      "a negative size as text",
      job([{ id: "a", type: "sphere", diameter: "-1/2 in" }]),
      "The job cannot be used. Step 1 “a”, Diameter: has to be more than 0 mm; it is -12.7 mm.",
    ],
    [
      "a zero size",
      job([{ id: "a", type: "cylinder", diameter: 0 }]),
      "The job cannot be used. Step 1 “a”, Diameter: has to be more than 0 mm; it is 0 mm.",
    ],
    [
      "a misspelt field",
      job([{ id: "a", type: "box", sizes: [1, 2, 3] }]),
      "The job cannot be used. Step 1 “a”: holds “sizes”, which it does not have.",
    ],
    [
      "two steps of one id",
      job([
        { id: "a", type: "box" },
        { id: "a", type: "box" },
      ]),
      "The job cannot be used. The list of steps: two steps have the id “a”.",
    ],
    [
      "a hold point at no step",
      { ...job([]), parts: [{ id: "p", name: "P", steps: [], hold: "x" }] },
      "The job cannot be used. The hold point: there is no step “x”.",
    ],
    [
      "no parts",
      { ...job([]), parts: [] },
      "The job cannot be used. The list of parts: A job needs at least one part.",
    ],
    ["another format", { format: "x" }, /^The job cannot be used. The format: has to be “bold-seam-job”, not “x”/],
    ["not an object", 5, /^The job cannot be used. The job: has to be a group of named values, not a number/],
    [
      "an absurd number",
      job([{ id: "a", type: "box", size: [1e12, 1, 1] }]),
      "The job cannot be used. Step 1 “a”, Size X: has to be at most 100000 mm; it is 1000000000000 mm.",
    ],
    [
      "a length in a unknown unit",
      job([{ id: "a", type: "sphere", diameter: "12 parsecs" }]),
      /“parsecs” is not a unit known here; write a length such as/,
    ],
    [
      "a formula that cannot be read",
      job([{ id: "a", type: "sphere", diameter: "width / " }]),
      "The job cannot be used. Step 1 “a”, Diameter: The formula breaks off: something has to follow.",
    ],
    [
      "a parameter called like a unit",
      job([], { parameters: [{ name: "mm", formula: 3 }] }),
      /Parameter 1 “mm”, the name: is the name of a unit or a function; choose another/,
    ],
    [
      "two parameters of one name",
      job([], {
        parameters: [
          { name: "w", formula: 3 },
          { name: "w", formula: 4 },
        ],
      }),
      "The job cannot be used. The list of parameters: two parameters are called “w”.",
    ],
  ])("%s", (_name, value, message) => {
    const got = messageOf(() => checkJob(value));
    if (typeof message === "string") expect(got).toBe(message);
    else expect(got).toMatch(message);
  });

  test("a cycle names the steps", () => {
    const steps = [
      { id: "a", type: "move", bodies: ["b"] },
      { id: "b", type: "move", bodies: ["a"] },
    ];
    expect(messageOf(() => checkJob(job(steps)))).toBe(
      "These steps need each other in a circle: “a” → “b” → “a”. Let one of them refer to something earlier.",
    );
    expect(messageOf(() => checkJob(job([{ id: "a", type: "seam", stock: ["a:block"] }])))).toBe(
      "The step “a” needs itself. Let it refer to something earlier.",
    );
  });

  test("NaN, Infinity and broken JSON", () => {
    expect(messageOf(() => parseJob('{"name": NaN}'))).toBe(
      "The job file holds NaN, which is not a number. Give a finite number.",
    );
    expect(messageOf(() => parseJob('{"x": -Infinity}'))).toContain("-Infinity");
    expect(messageOf(() => parseJob('{"name": '))).toBe(
      "The job file is not valid JSON. Mend its syntax, or save the job again.",
    );
    expect(messageOf(() => checkJob(job([{ id: "a", type: "box", size: [Number.NaN, 1, 1] }])))).toContain(
      "Step 1 “a”, Size X: has to be a finite number",
    );
  });
});

describe("the document", () => {
  test("defaults are filled in and checking again changes nothing", () => {
    const once = checkJob(job([{ id: "a", type: "box" }]));
    expect(once.parts[0]!.steps[0]).toMatchObject({ size: [100, 100, 100], anchor: "base", suppressed: false });
    expect(checkJob(JSON.parse(JSON.stringify(once)))).toEqual(once);
  });

  test("an empty job is a valid job", () => {
    expect(jobSchema.safeParse(emptyJob("New")).success).toBe(true);
  });

  test("the JSON Schema names every type of step", () => {
    const text = JSON.stringify(jobJsonSchema());
    for (const type of ["import", "box", "cylinder", "sphere", "workplane", "offset-sheet", "move", "seam"])
      expect(text).toContain(`"const":"${type}"`);
  });
});
