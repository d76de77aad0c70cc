// Worker threads start from plain JavaScript; this lets the TypeScript sources run as they are.
import { register } from "tsx/esm/api";

register();
await import("./engine.worker.ts");
