import { KernelFault } from "./faults";
import { release } from "./kept";
import { distrustKernel, lib } from "./library";

interface CppObject {
  delete(): void;
}

/** Collects C++ objects and frees them, last made first. */
export class Scope {
  private readonly owned: CppObject[] = [];

  /** Registers an object to be freed when the scope ends. */
  use<T extends CppObject>(object: T): T {
    this.owned.push(object);
    return object;
  }

  free(): void {
    for (let i = this.owned.length - 1; i >= 0; i--) release(this.owned[i]!);
    this.owned.length = 0;
  }
}

/**
 * Runs `work` with a scope and frees all that was registered in it, whatever happens.
 * A C++ exception leaves as a `KernelFault` with the library's own message.
 */
export function scoped<T>(work: (scope: Scope) => T): T {
  const scope = new Scope();
  try {
    return work(scope);
  } catch (cause) {
    throw asFault(cause);
  } finally {
    scope.free();
  }
}

/** Turns whatever the library threw into a `KernelFault`; other errors pass unchanged. */
export function asFault(cause: unknown): unknown {
  const WasmException = (WebAssembly as unknown as { Exception?: new (...args: never[]) => object }).Exception;
  if (WasmException && cause instanceof WasmException) {
    const [type, message] = lib().getExceptionMessage(cause as never);
    return new KernelFault(message || type, false);
  }
  if (cause instanceof WebAssembly.RuntimeError) {
    distrustKernel();
    return new KernelFault(cause.message, true);
  }
  return cause;
}
