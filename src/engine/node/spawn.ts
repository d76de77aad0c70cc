import path from "node:path";
import { Worker } from "node:worker_threads";
import { proxy, wrap } from "comlink";
import nodeEndpoint from "comlink/dist/esm/node-adapter.mjs";
import type { EngineApi } from "../contract";
import { EngineHost, type EngineWorker } from "../host";

/** Starts a worker thread with an engine in it. It runs the sources as they are, so no bundler has a hand in it. */
export function spawnNodeEngine(): EngineWorker {
  const file = path.join(/* turbopackIgnore: true */ process.cwd(), "src/engine/node/start.mjs");
  const worker = new Worker(/* turbopackIgnore: true */ file);
  worker.unref();
  const remote = wrap<EngineApi>(nodeEndpoint(worker as never));
  const died = new Promise<void>((resolve) => {
    worker.once("exit", () => resolve());
  });
  worker.on("error", () => {});
  const ready = remote.start({});
  ready.catch(() => {});
  const api: EngineApi = {
    start: (config) => remote.start(config),
    warm: () => remote.warm(),
    run: (operation, request, progress) => remote.run(operation, request, progress ? proxy(progress) : undefined),
  };
  return { api, ready, died, kill: () => void worker.terminate() };
}

const kept = globalThis as { boldSeamEngines?: EngineHost };

/** The server process's engine, started at its first use. */
export function nodeEngines(): EngineHost {
  kept.boldSeamEngines ??= new EngineHost(spawnNodeEngine, {
    warm: false,
    heapLimit: 900 * 1024 * 1024,
    spare: false,
  });
  return kept.boldSeamEngines;
}
