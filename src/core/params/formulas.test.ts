import { readFileSync } from "node:fs";
import path from "node:path";
import fc from "fast-check";
import { all, create } from "mathjs";
import { describe, expect, test } from "vitest";
import {
  EMPTY_SCOPE,
  evaluateFormula,
  FormulaError,
  FUNCTIONS,
  type Measured,
  type Parameter,
  ParameterScope,
  renameIn,
} from ".";

const values: Record<string, Measured> = {
  frontWidth: { value: 240, length: 1, angle: 0 },
  gap: { value: 0.254, length: 1, angle: 0 },
  wall: { value: 2, length: 1, angle: 0 },
  tilt: { value: Math.PI / 6, length: 0, angle: 1 },
  n: { value: 4, length: 0, angle: 0 },
  "plate.width": { value: 120, length: 1, angle: 0 },
};
const scope = {
  valueOf: (name: string) => (Object.hasOwn(values, name) ? values[name] : undefined),
  names: () => Object.keys(values),
};
const mm = (text: string) => evaluateFormula(text, scope);

function troubleOf(text: string): FormulaError {
  try {
    evaluateFormula(text, scope);
  } catch (cause) {
    if (cause instanceof FormulaError) return cause;
    throw cause;
  }
  throw new Error(`${text} raised no error`);
}

describe("lengths, angles and numbers", () => {
  test.each([
    ["frontWidth / 2", 120],
    ["gap + 1/8 in", 0.254 + 3.175],
    ["max(wall, 0.8 mm)", 2],
    ["3 1/8 in", 79.375],
    ["3 1/8 in + wall", 81.375],
    ["-3 1/8 in", -79.375],
    ["plate.width - 2 * wall", 116],
    ["(1/2 + 1/4) in", 19.05],
    ['1/2" + 1/4"', 19.05],
    ["frontWidth/3/2", 40],
    ["frontWidth - wall - wall", 236],
    ["2 + 3 * 4 ^ 2", 50],
    ["2 ^ 3 ^ 2", 512],
    ["-2 ^ 2", -4],
    ["2 ^ -1", 0.5],
    ["10 mm − 2 mm × 3", 4],
    ["wall·n", 8],
    ["max(gap, 0)", 0.254],
    ["0 + wall", 2],
    ["if(n >= 4 and wall < 3 mm, frontWidth, wall)", 240],
    ["if(not (n = 4), 1 mm, 2 mm)", 2],
    ["if(n > 4 or n < 2, 1, 0)", 0],
    ["if(n > 0, frontWidth / n, frontWidth / 0)", 60],
    ["sin(tilt) * 10 mm", 5],
    ["rad(tilt) / pi * 6", 1],
    ["sqrt(frontWidth * frontWidth)", 240],
    ["1e2 mm", 100],
    ["10/4 in", 63.5],
  ])("%s", (text, expected) => {
    expect(mm(text).value).toBeCloseTo(expected, 9);
  });

  test("what a result measures", () => {
    expect(mm("frontWidth * wall")).toMatchObject({ length: 2, angle: 0 });
    expect(mm("frontWidth / wall")).toMatchObject({ length: 0, angle: 0 });
    expect(mm("atan2(wall, gap)")).toMatchObject({ length: 0, angle: 1 });
    expect(mm("sqrt(frontWidth * wall)")).toMatchObject({ length: 1, angle: 0 });
  });

  test.each(Object.entries(FUNCTIONS))("%s does what its example says", (_name, { example, gives, line }) => {
    expect(line.length).toBeGreaterThan(5);
    const [is, says] = [evaluateFormula(example), evaluateFormula(gives)];
    expect(is.value).toBeCloseTo(says.value, 9);
    expect([is.length, is.angle]).toEqual([says.length, says.angle]);
  });
});

describe("what is wrong, where, and what to do", () => {
  test.each([
    ["gap + 1", "“gap” is a length and “1” is a plain number: write 1 mm or 1 in."],
    ["tilt + 5", "“tilt” is an angle and “5” is a plain number: write 5 deg or 5 rad."],
    ["gap + tilt", "“gap” is a length and “tilt” is an angle: they cannot be added."],
    ["frontWdth / 2", "There is no parameter “frontWdth”. Did you mean frontWidth?"],
    ["Gap", "There is no parameter “Gap”. Did you mean gap?"],
    ["height", "There is no parameter “height”. Add it to the parameters, or write a number."],
    ["frontWidth / (wall - 2 mm)", "This divides by zero: “(wall - 2 mm)” is 0."],
    ["0 ^ -1", "This divides by zero: 0 to a negative power."],
    ["(wall - 5 mm) ^ 0.5", "A negative value to a broken power is no number."],
    ["2 wall", "Put an operator such as * or + between “2” and “wall”."],
    [
      "wall (2)",
      "There is no function “wall”. There are abs, min, max, clamp, if, round, floor, ceil, mod, sqrt, hypot, sin, cos, tan, asin, acos, atan, atan2, rad, exp, ln.",
    ],
    ["2 (3)", "Put an operator such as * before “(”."],
    ["(wall", "A bracket is not closed: add “)”."],
    ["wall)", "A “)” has no “(” before it."],
    ["wall *", "The formula breaks off: something has to follow."],
    ["* wall", "“*” does not fit here."],
    ["()", "Something has to stand before “)”."],
    ["mm", "Put a number before mm."],
    ["wall mm", "Put an operator such as * or + between “wall” and “mm”."],
    ["(wall) mm", "This is a length already: leave the unit out."],
    ["sin(30)", "sin takes an angle such as 30 deg, not a plain number."],
    ["max(gap, 1)", "max needs values of one kind; here are a length and a plain number."],
    ["max()", "max takes 1 or more values, as in max(2 mm, 0.8 mm); here it has 0."],
    ["min", "min is a function: write min(2 mm, 1/8 in)."],
    ["round(wall)", "round of a length needs a step, as in round(7.3 mm, 0.5 mm)."],
    ["wall > gap", "A comparison has no value of its own. Use it as if(a > b, …, …)."],
    ["if(wall, 1, 2)", "if starts with a comparison, as in if(a > b, …, …)."],
    ["wall ^ gap", "A power has to be a plain number, not a length."],
    ["1/0 in", "1/0 divides by zero."],
    ["wall ; gap", "“;” means nothing in a formula."],
    ["9^9^9", "This grows past every number."],
    ["tan(90 deg)", "tan of a right angle is endless."],
    ["sqrt(0 - 4)", "sqrt of a negative value is no number."],
    ["asin(2)", "asin takes a number from −1 to 1; here it is 2."],
    ["", "Write a number or a formula."],
    ["constructor", "There is no parameter “constructor”. Add it to the parameters, or write a number."],
    ["toString(1)", /^There is no function “toString”/],
  ])("%s", (text, message) => {
    if (typeof message === "string") expect(troubleOf(text).message).toBe(message);
    else expect(troubleOf(text).message).toMatch(message);
  });

  test("the place in the text", () => {
    expect(troubleOf("wall + frontWdth")).toMatchObject({ at: 7, length: 9 });
    expect(troubleOf("wall / (1 - 1)")).toMatchObject({ at: 7, length: 7 });
  });

  test("10,000 characters, and brackets without end", () => {
    expect(troubleOf(`${"1+".repeat(5000)}1`).message).toMatch(/^This formula has 10001 characters; more than 2000/);
    expect(troubleOf(`${"(".repeat(900)}1${")".repeat(900)}`).message).toMatch(/nested too deeply/);
    expect(troubleOf(`${"-".repeat(1500)}1`).message).toMatch(/nested too deeply/);
    expect(evaluateFormula(`${"1+".repeat(990)}1`).value).toBe(991);
  });
});

/** An independent evaluation: mathjs, with its own units, of the same expression. */
describe("against mathjs", () => {
  const math = create(all!, {});
  const leaf = fc.oneof(
    fc.integer({ min: 1, max: 99 }).map((value) => ({ text: `${value} mm`, kind: "length" as const })),
    fc.integer({ min: 1, max: 99 }).map((value) => ({ text: `${value / 8} in`, kind: "length" as const })),
    fc.integer({ min: 1, max: 99 }).map((value) => ({ text: `${value / 4}`, kind: "plain" as const })),
  );
  type Expression = { text: string; kind: "length" | "plain" };
  const { expression } = fc.letrec<{ expression: Expression }>((tie) => ({
    expression: fc.oneof(
      { depthSize: "small", withCrossShrink: true },
      leaf,
      fc
        .tuple(tie("expression"), tie("expression"), fc.constantFrom("+", "-"))
        .map(([a, b, sign]) => (a.kind === b.kind ? { text: `${a.text} ${sign} (${b.text})`, kind: a.kind } : a)),
      fc.tuple(tie("expression"), tie("expression")).map(([a, b]) =>
        a.kind === "length" && b.kind === "length"
          ? a
          : {
              text: `(${a.text}) * (${b.text})`,
              kind: a.kind === "length" || b.kind === "length" ? ("length" as const) : ("plain" as const),
            },
      ),
      fc.tuple(tie("expression"), tie("expression")).map(([a, b]) =>
        b.kind === "length" && a.kind === "plain"
          ? b
          : {
              text: `(${a.text}) / (${b.text})`,
              kind: a.kind === "length" && b.kind === "plain" ? ("length" as const) : ("plain" as const),
            },
      ),
      fc
        .tuple(tie("expression"), tie("expression"))
        .map(([a, b]) => (a.kind === b.kind ? { text: `max(${a.text}, ${b.text})`, kind: a.kind } : a)),
      tie("expression").map((a) => ({ text: `abs(-(${a.text}))`, kind: a.kind })),
    ),
  }));

  test("the same value and the same kind", () => {
    let compared = 0;
    fc.assert(
      fc.property(expression, ({ text, kind }) => {
        let theirs: number;
        const result = math.evaluate(text.replace(/ in\b/g, " inch"));
        if (kind === "length") theirs = math.isUnit(result) ? result.toNumber("mm") : Number(result);
        else theirs = Number(result);
        if (!Number.isFinite(theirs)) return;
        const mine = evaluateFormula(text, EMPTY_SCOPE);
        expect(mine.length).toBe(kind === "length" ? 1 : 0);
        expect(Math.abs(mine.value - theirs)).toBeLessThanOrEqual(1e-9 * Math.max(1, Math.abs(theirs)));
        compared++;
      }),
      { numRuns: 2000, seed: 20261125 },
    );
    expect(compared).toBeGreaterThan(1900);
  });
});

describe("parameters", () => {
  const parameter = (name: string, formula: number | string, unit: Parameter["unit"] = "mm"): Parameter => ({
    name,
    unit,
    formula,
    note: "",
  });

  test("use one another in any order; a bare number counts in the parameter's unit", () => {
    const scope = new ParameterScope([
      parameter("half", "width / 2"),
      parameter("width", 4, "in"),
      parameter("tilt", "15 + 15", "deg"),
      parameter("holes", "floor(width / (20 mm))", ""),
    ]);
    expect(scope.valueOf("half")!.value).toBeCloseTo(50.8, 12);
    expect(scope.valueOf("tilt")!.value).toBeCloseTo(Math.PI / 6, 12);
    expect(scope.valueOf("holes")!.value).toBe(5);
    expect(scope.valueOf("depth")).toBeUndefined();
  });

  test("a part's parameter stands before the job's, and may build on it", () => {
    const scope = new ParameterScope(
      [parameter("wall", 2), parameter("twice", "wall * 2")],
      [parameter("wall", "wall + 1 mm"), parameter("thrice", "wall * 3")],
    );
    expect(scope.valueOf("wall")!.value).toBe(3);
    expect(scope.valueOf("thrice")!.value).toBe(9);
    // The job's own formula means the job's own wall.
    expect(scope.valueOf("twice")!.value).toBe(4);
  });

  test("a circle is named, and what needs it says so", () => {
    const scope = new ParameterScope([
      parameter("a", "b + 1 mm"),
      parameter("b", "c"),
      parameter("c", "a"),
      parameter("d", "a * 2"),
      parameter("e", 5),
    ]);
    for (const name of ["a", "b", "c"]) {
      const outcome = scope.outcome(name)!;
      expect(outcome.ok).toBe(false);
      expect(outcome.ok ? "" : outcome.message).toMatch(
        /^. needs . needs . needs .: a formula cannot need its own result\. Give one of them a number\.$/,
      );
    }
    expect(scope.outcome("d")).toMatchObject({ ok: false });
    expect(scope.outcome("e")).toMatchObject({ ok: true });
    expect(new ParameterScope([parameter("x", "x + 1 mm")]).outcome("x")).toMatchObject({
      ok: false,
      message: "x needs x: a formula cannot need its own result. Give one of them a number.",
    });
  });

  test("what cannot be worked out says why to what needs it", () => {
    const scope = new ParameterScope([
      parameter("a", "1 mm / 0"),
      parameter("b", "a + 1 mm"),
      parameter("c", "30 deg"),
    ]);
    expect(scope.outcome("b")).toMatchObject({ ok: false, message: "a has no value: This divides by zero: “0” is 0." });
    expect(scope.outcome("c")).toMatchObject({ ok: false, message: "The result is an angle, and this is a length." });
  });

  test("a chain of 2,000", () => {
    const chain = Array.from({ length: 2000 }, (_, i) => parameter(`p${i}`, i === 1999 ? 7 : `p${i + 1} + 1 mm`));
    expect(new ParameterScope(chain).valueOf("p0")!.value).toBe(2006);
  });

  test("renaming changes the name alone", () => {
    expect(renameIn("wall + max(wallet, wall*2) - walls.wall", "wall", "skin")).toBe(
      "skin + max(wallet, skin*2) - walls.wall",
    );
    expect(renameIn("wall +* 2", "wall", "skin")).toBe("skin +* 2");
    expect(renameIn("12 parsecs;", "wall", "skin")).toBe("12 parsecs;");
  });
});

test("the table in docs/formulas.md is the table of functions", () => {
  const page = readFileSync(path.join(process.cwd(), "docs", "formulas.md"), "utf8");
  const rows = Object.entries(FUNCTIONS).map(
    ([name, { line, example, gives }]) => `| \`${name}\` | ${line} | \`${example}\` is \`${gives}\` |`,
  );
  expect(page).toContain(rows.join("\n"));
});
