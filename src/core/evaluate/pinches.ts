import type { Measures } from "../check";
import type { Trouble } from "../errors";
import { formatLength } from "../units";
import type { StepReport } from "./types";

/**
 * Adds a warning to each step that made a body whose skin touches itself: such a body is closed and has a volume, but
 * at that place the material has no thickness, so it cannot be cut, printed or cast as drawn.
 */
export function warnOfPinches(
  steps: readonly StepReport[],
  bodies: readonly { id: string; name: string; measures: Pick<Measures, "pinches"> }[],
): StepReport[] {
  const pinched = bodies.filter(({ measures }) => measures.pinches.length > 0);
  if (pinched.length === 0) return [...steps];
  return steps.map((step) => {
    const own = pinched.filter(({ id }) => step.made.includes(id));
    if (own.length === 0) return step;
    const warnings = own.map(({ id, name, measures: { pinches } }): Trouble => {
      const longest = pinches.reduce((best, pinch) => (pinch.length > best.length ? pinch : best));
      const where =
        longest.length > 0
          ? `along a line of ${formatLength(longest.length)}`
          : pinches.length > 1
            ? "at points"
            : "at a point";
      return {
        code: "skin-touches-itself",
        message: `${name} touches itself ${where}: there is no thickness there. Move or resize what cut it.`,
        step: step.id,
        bodies: [id],
        at: [...longest.at],
      };
    });
    return { ...step, state: step.state === "good" ? "warned" : step.state, warnings: [...step.warnings, ...warnings] };
  });
}
