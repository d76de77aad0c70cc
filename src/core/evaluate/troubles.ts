import { fail, SeamError, type Trouble } from "../errors";
import type { Step } from "../job";
import { KernelFault } from "../kernel";
import type { FieldProblems } from "../params";
import { fieldLabel } from "../steps";

/** The first number field that comes to nothing usable stops the step. */
export function refuseProblems(problems: FieldProblems, step: Step): void {
  const [first] = Object.entries(problems);
  if (!first) return;
  const [field, problem] = first;
  fail("value", `${fieldLabel(step, field)}: ${problem.replace(/([^.?])$/, "$1.")}`, { step: step.id, field });
}

/** What an error of a step says to a person. @throws what the program itself did wrong, or what leaves the kernel in doubt. */
export function asTrouble(cause: unknown, step: Step): Trouble {
  if (cause instanceof SeamError) return { step: step.id, ...cause.trouble };
  if (cause instanceof KernelFault) {
    if (cause.fatal) throw cause;
    return {
      code: "kernel",
      step: step.id,
      message: `The geometry could not be computed (${cause.message}). Change a value by a little, or check the bodies.`,
    };
  }
  throw cause;
}
