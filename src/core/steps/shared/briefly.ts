import { fail } from "../../errors";
import type { StepContext } from "../evaluation";

/**
 * What does not fit is said at once where a number of it is in a hand that moves, or it is only tried: what would fit takes many
 * trials to find.
 * @throws SeamError there
 */
export function refuseBriefly(context: StepContext, code: string, field: string, body: string): void {
  if (!context.brisk) return;
  fail(code, `${context.nameOf(body)} cannot be made like that. At rest it is looked for what can.`, {
    step: context.step,
    field,
    bodies: [body],
  });
}
