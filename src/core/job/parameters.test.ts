import { describe, expect, test } from "vitest";
import { readParameters, writeParameters } from "../exchange/csv";
import { jobOf, messageOf } from "../testing/harness";
import { type Job, mergeParameters, removeParameter, renameParameter, scopeOf, upgradeJob, usesOf } from ".";

const parameter = (name: string, formula: number | string, unit = "mm") => ({ name, formula, unit, note: "" });

function sample(): Job {
  return jobOf(
    [
      { id: "a", type: "box", name: "Plate", size: ["width", "width / 2", "wall * 3"], at: [0, 0, "lift"] },
      { id: "b", type: "cylinder", diameter: "min(wall, 1/4 in)", height: "3 1/8 in" },
    ],
    {
      parameters: [parameter("width", 120), parameter("wall", 2), parameter("twice", "wall * 2")],
    },
  );
}
const withPart = (own: object[]): Job => {
  const job = sample();
  job.parts[0]!.parameters = own as Job["parameters"];
  return job;
};

describe("what uses a parameter", () => {
  test("fields by step and label, other parameters by name", () => {
    const job = sample();
    expect(usesOf(job, "job", "wall")).toEqual([
      { kind: "parameter", owner: "job", name: "twice" },
      { kind: "field", part: "part", step: "a", path: "size.2", label: "Size Z" },
      { kind: "field", part: "part", step: "b", path: "diameter", label: "Diameter" },
    ]);
    expect(usesOf(job, "job", "width").map((use) => (use.kind === "field" ? use.label : use.kind))).toEqual([
      "Size X",
      "Size Y",
    ]);
  });

  test("a part's parameter of the same name hides the job's, except from its own formula", () => {
    const job = withPart([parameter("wall", "wall + 1 mm")]);
    expect(usesOf(job, "job", "wall")).toEqual([
      { kind: "parameter", owner: "job", name: "twice" },
      { kind: "parameter", owner: { part: "part" }, name: "wall" },
    ]);
    expect(usesOf(job, { part: "part" }, "wall")).toHaveLength(2);
  });
});

describe("changing parameters", () => {
  test("renaming follows everywhere, and undoing the rename gives the job as it was", () => {
    const job = sample();
    renameParameter(job, "job", "wall", "skin");
    expect(job.parameters[2]!.formula).toBe("skin * 2");
    expect(job.parts[0]!.steps[0]!.size).toEqual(["width", "width / 2", "skin * 3"]);
    expect(job.parts[0]!.steps[1]!.diameter).toBe("min(skin, 1/4 in)");
    renameParameter(job, "job", "skin", "wall");
    expect(job).toEqual(sample());
  });

  test("a name that is taken, or that would come to mean another, is refused", () => {
    expect(messageOf(() => renameParameter(sample(), "job", "wall", "width"))).toBe(
      "There is a parameter “width” already.",
    );
    expect(messageOf(() => renameParameter(withPart([parameter("skin", 9)]), "job", "wall", "skin"))).toContain(
      "has its own “skin”",
    );
    expect(
      messageOf(() => renameParameter(withPart([parameter("deep", 9)]), { part: "part" }, "deep", "wall")),
    ).toContain("uses the job's “wall” already");
  });

  test("taking one out puts its value where it was used", () => {
    const job = sample();
    removeParameter(job, "job", "wall");
    expect(job.parameters.map(({ name }) => name)).toEqual(["width", "twice"]);
    expect(job.parts[0]!.steps[0]!.size).toEqual(["width", "width / 2", "(2 mm) * 3"]);
    const scope = scopeOf(job, job.parts[0]);
    expect(scope.valueOf("twice")!.value).toBe(4);
  });
});

describe("CSV", () => {
  test("out and in again is the same, with quotes, commas and line ends in notes", () => {
    const list = [
      { ...parameter("width", 120), note: 'says "wide", and\nmore' },
      { ...parameter("half", "max(width / 2, 3 mm)"), note: "" },
      { ...parameter("tilt", 30, "deg"), note: "" },
      { ...parameter("holes", "floor(width / (20 mm))", ""), note: "Anzahl, ½" },
    ] as Job["parameters"];
    const text = writeParameters(list, () => 1);
    expect(text.split("\r\n")[0]).toBe("name,formula,unit,value,note");
    expect(readParameters(text)).toEqual(list);
  });

  test("as other programs write it: byte order mark, semicolons, columns in another order, only values", () => {
    expect(readParameters("\uFEFFNote;Value;Name\r\nfrom the drawing;12.5;depth\r\n")).toEqual([
      { name: "depth", formula: 12.5, unit: "mm", note: "from the drawing" },
    ]);
  });

  test.each([
    ["", "The first line has to name the columns: name, formula, unit, note. Add it, or export a table to see how."],
    [
      "a,b\n1,2",
      "The first line has to name the columns: name, formula, unit, note. Add it, or export a table to see how.",
    ],
    ["name,formula\n", "The table holds no parameters under its first line."],
    ["name,formula,unit\nw,3,furlong", "Line 2: the unit “furlong” is none of mm, in, deg or empty. Correct it."],
    ["name,formula\nw,3\n2w,3", "Line 3: name has to be letters, digits and _, beginning with a letter. Correct it."],
    ["name,formula\nw,", "Line 2: “w” has no formula. Give it a number or a formula."],
    ["name,formula\nw,1\nw,2", "Line 3: “w” stands there twice. Take one out."],
  ])("%j", (text, message) => {
    expect(messageOf(() => readParameters(text))).toBe(message);
  });

  test("known names get the new values, others are added", () => {
    const job = sample();
    mergeParameters(job, "job", readParameters("name,formula\nwall,3\ndepth,40"));
    expect(job.parameters.map(({ name, formula }) => `${name}=${formula}`)).toEqual([
      "width=120",
      "wall=3",
      "twice=wall * 2",
      "depth=40",
    ]);
  });
});

test("a job that an earlier release stored has no parameters, and gets them", () => {
  const { parameters: _parameters, ...old } = sample();
  for (const part of old.parts) delete (part as Partial<typeof part>).parameters;
  const job = upgradeJob(old as Job);
  expect(job.parameters).toEqual([]);
  expect(job.parts[0]!.parameters).toEqual([]);
});
