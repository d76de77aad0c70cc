import { expose } from "comlink";
import { type LibraryFactory, loadKernel } from "@/core/kernel";
import { loadTriangles, type TrianglesFactory } from "@/core/triangles";
import { EngineSession } from "../session";

/** The core in a browser worker. The kernel's module is imported as it lies on the server, past the bundler. */
const session = new EngineSession({
  async load({ kernel }) {
    if (!kernel) throw new Error("The browser engine needs the kernel's address.");
    const module = await import(/* webpackIgnore: true */ /* turbopackIgnore: true */ kernel.module);
    await loadKernel(module.default as LibraryFactory, {
      locateFile: () => kernel.wasm,
      mainScriptUrlOrBlob: kernel.module,
    });
  },
  async loadTriangles({ triangles }) {
    if (!triangles) throw new Error("The browser engine needs the address of what divides triangles.");
    const module = await import(/* webpackIgnore: true */ /* turbopackIgnore: true */ triangles.module);
    await loadTriangles(module.default as TrianglesFactory, triangles.wasm);
  },
  async fetch(url) {
    const response = await fetch(url);
    return response.status === 200 ? new Uint8Array(await response.arrayBuffer()) : null;
  },
  async store(url, bytes) {
    await fetch(url, { method: "PUT", body: bytes as BodyInit });
  },
});

const api = {
  start: session.start.bind(session),
  warm: session.warm.bind(session),
  run: session.run.bind(session),
  /** Holds a lock for as long as this worker lives: whoever waits for it learns of its death at once. */
  holdLock(name: string): Promise<void> {
    return new Promise((held) => {
      navigator.locks.request(name, () => {
        held();
        return new Promise(() => {});
      });
    });
  },
};
export type WorkerApi = typeof api;

expose(api);
