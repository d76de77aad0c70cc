import { ANGLE, isPlain, type Measured, plain, powersInWords, samePowers } from "./quantity";

/** Raised by a function with a sentence; the evaluator adds the place. */
export class WrongArgument extends Error {}

export interface FormulaFunction {
  /** How many values it takes: at least and at most. */
  count: [number, number];
  /** One line on what it gives. */
  line: string;
  /** A use of it with its result, which the tests check. */
  example: string;
  gives: string;
  run(args: Measured[]): Measured;
}

const MANY = Number.POSITIVE_INFINITY;

/** A literal nought is nought of anything: `max(gap, 0)`. */
export const isNought = (q: Measured): boolean => q.value === 0 && isPlain(q);

/** All values of one kind (powers of length and angle), plain noughts going with the others. */
export function alike(args: Measured[], what: string): Measured {
  const lead = args.find((arg) => !isNought(arg)) ?? args[0]!;
  for (const arg of args)
    if (!isNought(arg) && !samePowers(arg, lead))
      throw new WrongArgument(
        `${what} needs values of one kind; here are ${powersInWords(lead)} and ${powersInWords(arg)}.`,
      );
  return lead;
}

const like = (lead: Measured, value: number): Measured => ({ value, length: lead.length, angle: lead.angle });

function plainArgument(arg: Measured, what: string): number {
  if (!isPlain(arg)) throw new WrongArgument(`${what} takes a plain number, not ${powersInWords(arg)}.`);
  return arg.value;
}

function angleArgument(arg: Measured, what: string): number {
  if (samePowers(arg, ANGLE) || isNought(arg)) return arg.value;
  throw new WrongArgument(`${what} takes an angle such as 30 deg, not ${powersInWords(arg)}.`);
}

const angle = (value: number): Measured => ({ ...ANGLE, value });

function stepwise(
  name: string,
  line: string,
  example: string,
  gives: string,
  round: (value: number) => number,
): FormulaFunction {
  return {
    count: [1, 2],
    line,
    example,
    gives,
    run: ([value, step]) => {
      if (!step) {
        if (!isPlain(value!))
          throw new WrongArgument(`${name} of ${powersInWords(value!)} needs a step, as in ${example}.`);
        return plain(round(value!.value));
      }
      const lead = alike([value!, step], name);
      if (step.value <= 0) throw new WrongArgument(`The step of ${name} has to be more than 0.`);
      return like(lead, round(value!.value / step.value) * step.value);
    },
  };
}

const half = (value: number) => Math.sign(value) * Math.round(Math.abs(value));

/** Every function that a formula can use. */
export const FUNCTIONS: Record<string, FormulaFunction> = {
  abs: {
    count: [1, 1],
    line: "The value without its sign",
    example: "abs(-3 mm)",
    gives: "3 mm",
    run: ([a]) => like(a!, Math.abs(a!.value)),
  },
  min: {
    count: [1, MANY],
    line: "The smallest of the values",
    example: "min(2 mm, 1/8 in)",
    gives: "2 mm",
    run: (args) => like(alike(args, "min"), Math.min(...args.map((arg) => arg.value))),
  },
  max: {
    count: [1, MANY],
    line: "The largest of the values",
    example: "max(2 mm, 0.8 mm)",
    gives: "2 mm",
    run: (args) => like(alike(args, "max"), Math.max(...args.map((arg) => arg.value))),
  },
  clamp: {
    count: [3, 3],
    line: "The value, held between a least and a most",
    example: "clamp(12 mm, 0, 10 mm)",
    gives: "10 mm",
    run: (args) => {
      const [value, least, most] = args.map((arg) => arg.value) as [number, number, number];
      if (least > most) throw new WrongArgument("The least value of clamp is above its most.");
      return like(alike(args, "clamp"), Math.min(most, Math.max(least, value)));
    },
  },
  if: {
    count: [3, 3],
    line: "The second value where the condition holds, else the third",
    example: "if(3 > 2, 10 mm, 6 mm)",
    gives: "10 mm",
    run: () => {
      throw new Error("if is evaluated by the evaluator, which leaves out the branch that is not taken");
    },
  },
  round: stepwise(
    "round",
    "To the nearest whole number, or the nearest step; halves away from 0",
    "round(7.3 mm, 0.5 mm)",
    "7.5 mm",
    half,
  ),
  floor: stepwise("floor", "Down to a whole number, or a step", "floor(7.9 mm, 1 mm)", "7 mm", Math.floor),
  ceil: stepwise("ceil", "Up to a whole number, or a step", "ceil(7.1 mm, 1/4 in)", "12.7 mm", Math.ceil),
  mod: {
    count: [2, 2],
    line: "What is left over after dividing; takes the sign of the divisor",
    example: "mod(17 mm, 5 mm)",
    gives: "2 mm",
    run: ([a, b]) => {
      const lead = alike([a!, b!], "mod");
      if (b!.value === 0) throw new WrongArgument("mod divides by zero.");
      return like(lead, a!.value - b!.value * Math.floor(a!.value / b!.value));
    },
  },
  sqrt: {
    count: [1, 1],
    line: "The square root; of an area, a length",
    example: "sqrt(3 mm * 12 mm)",
    gives: "6 mm",
    run: ([a]) => {
      if (a!.value < 0) throw new WrongArgument("sqrt of a negative value is no number.");
      return { value: Math.sqrt(a!.value), length: a!.length / 2, angle: a!.angle / 2 };
    },
  },
  hypot: {
    count: [2, MANY],
    line: "The diagonal over sides at right angles",
    example: "hypot(3 mm, 4 mm)",
    gives: "5 mm",
    run: (args) => like(alike(args, "hypot"), Math.hypot(...args.map((arg) => arg.value))),
  },
  sin: {
    count: [1, 1],
    line: "Sine of an angle",
    example: "sin(30 deg)",
    gives: "0.5",
    run: ([a]) => plain(Math.sin(angleArgument(a!, "sin"))),
  },
  cos: {
    count: [1, 1],
    line: "Cosine of an angle",
    example: "cos(60 deg)",
    gives: "0.5",
    run: ([a]) => plain(Math.cos(angleArgument(a!, "cos"))),
  },
  tan: {
    count: [1, 1],
    line: "Tangent of an angle",
    example: "tan(45 deg)",
    gives: "1",
    run: ([a]) => {
      const turn = angleArgument(a!, "tan");
      if (Math.abs(Math.cos(turn)) < 1e-12) throw new WrongArgument("tan of a right angle is endless.");
      return plain(Math.tan(turn));
    },
  },
  asin: {
    count: [1, 1],
    line: "The angle whose sine it is",
    example: "asin(0.5)",
    gives: "30 deg",
    run: ([a]) => angle(Math.asin(unitInterval(a!, "asin"))),
  },
  acos: {
    count: [1, 1],
    line: "The angle whose cosine it is",
    example: "acos(0.5)",
    gives: "60 deg",
    run: ([a]) => angle(Math.acos(unitInterval(a!, "acos"))),
  },
  atan: {
    count: [1, 1],
    line: "The angle whose tangent it is",
    example: "atan(1)",
    gives: "45 deg",
    run: ([a]) => angle(Math.atan(plainArgument(a!, "atan"))),
  },
  atan2: {
    count: [2, 2],
    line: "The angle of a slope, from its rise and its run",
    example: "atan2(3 mm, 3 mm)",
    gives: "45 deg",
    run: ([rise, run]) => {
      alike([rise!, run!], "atan2");
      if (rise!.value === 0 && run!.value === 0) throw new WrongArgument("atan2 of nought and nought has no angle.");
      return angle(Math.atan2(rise!.value, run!.value));
    },
  },
  rad: {
    count: [1, 1],
    line: "An angle as a plain number of radians: radius times rad(angle) is the length of an arc",
    example: "10 mm * rad(90 deg) / pi",
    gives: "5 mm",
    run: ([a]) => plain(angleArgument(a!, "rad")),
  },
  exp: {
    count: [1, 1],
    line: "e to the power of a plain number",
    example: "exp(0)",
    gives: "1",
    run: ([a]) => plain(Math.exp(plainArgument(a!, "exp"))),
  },
  ln: {
    count: [1, 1],
    line: "The natural logarithm of a plain number above 0",
    example: "ln(exp(2))",
    gives: "2",
    run: ([a]) => {
      const value = plainArgument(a!, "ln");
      if (value <= 0) throw new WrongArgument("ln takes a number above 0.");
      return plain(Math.log(value));
    },
  },
};

function unitInterval(arg: Measured, what: string): number {
  const value = plainArgument(arg, what);
  if (Math.abs(value) > 1 + 1e-12) throw new WrongArgument(`${what} takes a number from −1 to 1; here it is ${value}.`);
  return Math.max(-1, Math.min(1, value));
}
