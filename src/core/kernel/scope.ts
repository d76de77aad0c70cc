import { KernelFault } from "./faults";
import { release } from "./kept";
import { distrustKernel, lib } from "./library";

interface CppObject {
  delete(): void;
}

/** Which classes, by their prototypes, are algorithms: asked for every object that is freed. */
const algorithms = new Map<unknown, boolean>();

function isAlgorithm(object: object): boolean {
  const type = Object.getPrototypeOf(object);
  let is = algorithms.get(type);
  if (is === undefined) {
    is = "IsDone" in object || "SetArguments" in object;
    algorithms.set(type, is);
  }
  return is;
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
    for (let i = this.owned.length - 1; i >= 0; i--) {
      const object = this.owned[i] as CppObject & { Clear?: () => void };
      try {
        // An algorithm keeps most of what it made unless it is cleared before it is deleted.
        if (isAlgorithm(object)) object.Clear?.();
      } catch {
        // A failed algorithm may refuse to be cleared; deleting it is still right.
      }
      release(object);
    }
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
