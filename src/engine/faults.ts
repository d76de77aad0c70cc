/** An error as it crosses threads. `fatal`: the engine has to be replaced. */
export interface EngineFault {
  code: string;
  message: string;
  fatal: boolean;
}

/** What an engine's error says; what is none of an engine's own is fatal. Needs nothing of the core: the page reads faults, too. */
export function readEngineFault(cause: unknown): EngineFault {
  if (cause instanceof Error && cause.name === "EngineFault") {
    try {
      return JSON.parse(cause.message) as EngineFault;
    } catch {
      // Not one of ours after all.
    }
  }
  return { code: "engine", message: cause instanceof Error ? cause.message : String(cause), fatal: true };
}
