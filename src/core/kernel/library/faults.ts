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

/** What is known beforehand not to be divided: its message is for whoever drew it. */
export class Undividable extends KernelFault {
  constructor(message: string, at: Vec3) {
    super(message, false, at);
    this.name = "Undividable";
  }
}
