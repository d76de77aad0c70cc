import type { OpenCascadeInstance } from "replicad-opencascadejs";
import { giveDestructors } from "./destructors";
import { callDirectly } from "./direct-calls";

/**
 * The loaded geometry library: one instance per JavaScript realm (a worker, a Node process).
 * Everything in this folder reaches it through `lib()`; nothing outside this folder does.
 */
export type Library = OpenCascadeInstance;
export type LibraryFactory = (options?: Record<string, unknown>) => Promise<Library>;

let instance: Library | null = null;
let loading: Promise<void> | null = null;

/**
 * Loads the library once; later calls return the same promise.
 * @param factory the module's default export, imported by whoever knows where the module lives.
 * @param options where to find the WebAssembly file (`locateFile`) and such.
 * @param checked whether the library's binding goes on checking what each of its methods is given: slower, for tests.
 */
export function loadKernel(
  factory: LibraryFactory,
  options: Record<string, unknown> = {},
  checked = false,
): Promise<void> {
  loading ??= withTable(() => factory({ print: () => {}, printErr: () => {}, ...options }))
    .then(([loaded, table]) => {
      giveDestructors(loaded, table);
      if (!checked) callDirectly(loaded);
      instance = loaded;
    })
    .catch((cause) => {
      loading = null;
      throw cause;
    });
  return loading;
}

/**
 * Loads with an eye on the WebAssembly instance that is made: the table of its functions, which destructors are called through,
 * is not handed out by the library's loader.
 */
async function withTable(load: () => Promise<Library>): Promise<[Library, WebAssembly.Table]> {
  const seen: WebAssembly.Exports[] = [];
  const { instantiate, instantiateStreaming } = WebAssembly;
  const watching =
    <A extends unknown[]>(make: (...given: A) => Promise<unknown>) =>
    async (...given: A) => {
      const made = await make(...given);
      const { exports } = (made as { instance?: WebAssembly.Instance }).instance ?? (made as WebAssembly.Instance);
      seen.push(exports);
      return made;
    };
  WebAssembly.instantiate = watching(instantiate) as typeof instantiate;
  if (instantiateStreaming)
    WebAssembly.instantiateStreaming = watching(instantiateStreaming) as typeof instantiateStreaming;
  try {
    const loaded = await load();
    const own = seen.find((exports) => Object.values(exports).includes(loaded.wasmMemory as never));
    const table = Object.values(own ?? {}).find((value) => value instanceof WebAssembly.Table);
    if (!table)
      throw new Error("The geometry library was loaded in another way than was seen: look at kernel/library.");
    return [loaded, table as WebAssembly.Table];
  } finally {
    WebAssembly.instantiate = instantiate;
    if (instantiateStreaming) WebAssembly.instantiateStreaming = instantiateStreaming;
  }
}

export function kernelLoaded(): boolean {
  return instance !== null;
}

/** The loaded library. Throws when `loadKernel` has not finished: a programming error, not a user's. */
export function lib(): Library {
  if (!instance) throw new Error("The geometry kernel is not loaded: await loadKernel() first.");
  return instance;
}

let trusted = true;

/** Notes that the library ran astray in its own memory: what it says from now on may be wrong. */
export function distrustKernel(): void {
  trusted = false;
}

export const kernelTrusted = () => trusted;

/**
 * Bytes that the library's memory takes now; without end when it can no longer be trusted, which has the same remedy: a
 * fresh one. WebAssembly memory never shrinks, so growth is what to watch.
 */
export function kernelHeapBytes(): number {
  if (!trusted) return Number.POSITIVE_INFINITY;
  return instance ? instance.wasmMemory.buffer.byteLength : 0;
}
