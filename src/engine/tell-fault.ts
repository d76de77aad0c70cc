import { SeamError } from "@/core/errors";
import { KernelFault, kernelTrusted } from "@/core/kernel";
import type { EngineFault } from "./faults";

/** Comlink carries an Error's name, message and stack; the rest rides in the message as JSON. */
export function asEngineFault(cause: unknown): Error {
  const fault: EngineFault =
    cause instanceof SeamError
      ? { code: cause.trouble.code, message: cause.message, fatal: !kernelTrusted() }
      : cause instanceof KernelFault
        ? { code: "kernel", message: "The geometry could not be computed.", fatal: cause.fatal }
        : { code: "engine", message: cause instanceof Error ? cause.message : String(cause), fatal: true };
  const error = new Error(JSON.stringify(fault));
  error.name = "EngineFault";
  return error;
}
