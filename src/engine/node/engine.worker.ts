import { parentPort } from "node:worker_threads";
import { expose } from "comlink";
import nodeEndpoint from "comlink/dist/esm/node-adapter.mjs";
import { loadNodeKernel } from "@/core/kernel/library/node";
import { loadNodeTriangles } from "@/core/triangles/node";
import { EngineSession } from "../session";

/** The core in a Node worker thread: for route handlers. Files come as a folder of the server's would: by the caller. */
const session = new EngineSession({
  load: () => loadNodeKernel(),
  loadTriangles: () => loadNodeTriangles(),
  fetch: async () => null,
  store: async () => {},
});

if (parentPort)
  expose(
    {
      start: session.start.bind(session),
      warm: session.warm.bind(session),
      run: session.run.bind(session),
    },
    nodeEndpoint(parentPort as never),
  );
