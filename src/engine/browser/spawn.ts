import { proxy, wrap } from "comlink";
import type { EngineApi, EngineConfig } from "../contract";
import { EngineHost, type EngineWorker } from "../host";
import type { WorkerApi } from "./kernel.worker";

let count = 0;

/** Starts a worker with an engine in it. */
function spawnBrowserEngine(config: EngineConfig): EngineWorker {
  const worker = new Worker(new URL("./kernel.worker.ts", import.meta.url), {
    type: "module",
    name: `engine-${++count}`,
  });
  const remote = wrap<WorkerApi>(worker);
  const lock = `bold-seam-engine-${count}-${Math.random().toString(36).slice(2)}`;
  let tellDeath = () => {};
  const died = new Promise<void>((resolve) => {
    tellDeath = resolve;
  });
  worker.addEventListener("error", () => {
    worker.terminate();
    tellDeath();
  });
  const ready = remote.holdLock(lock).then(() => {
    // Granted only when the worker is gone, however it went.
    navigator.locks.request(lock, () => tellDeath());
    return remote.start(config);
  });
  ready.catch(() => {});
  const api: EngineApi = {
    start: (c) => remote.start(c),
    warm: () => remote.warm(),
    run: (operation, request, progress) => remote.run(operation, request, progress ? proxy(progress) : undefined),
  };
  return {
    api,
    ready,
    died,
    kill: () => {
      worker.terminate();
      tellDeath();
    },
  };
}

/**
 * The page's engines: one at work, one in reserve, both practised before they are needed. @param lean only the one at work,
 * without practice: for machines where other things need the processor more.
 */
export function startBrowserEngines(config: EngineConfig, lean: boolean): EngineHost {
  return new EngineHost(() => spawnBrowserEngine(config), {
    warm: !lean,
    quiet: 400,
    heapLimit: 900 * 1024 * 1024,
    spare: !lean,
  });
}
