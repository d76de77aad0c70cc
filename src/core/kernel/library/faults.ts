import type { Vec3 } from "../space/vectors";

/**
 * The geometry library failed. `fatal` means that its memory can no longer be trusted
 * (an out-of-bounds access, memory used up): the worker that holds it has to be replaced.
 */
export class KernelFault extends Error {
  constructor(
    message: string,
    readonly fatal: boolean,
    /** Where it was seen, mm. */
    readonly at: Vec3 | null = null,
  ) {
    super(message);
    this.name = "KernelFault";
  }
}

/** Two conical faces lie nearly in each other, and lean: known beforehand not to be divided. */
export class LeaningCones extends KernelFault {
  constructor(
    at: Vec3,
    /** mm: how far they are from each other at most, where both are. */
    readonly apart: number,
    /** Between their axes, radians. */
    readonly lean: number,
  ) {
    super("Two conical faces lie nearly in each other, and lean.", false, at);
    this.name = "LeaningCones";
  }
}
