// One command from a clean clone to the running demo: packages, database with the demo job, build, server.
import { spawn } from "node:child_process";
import { build, install, run, title } from "./lib.mjs";

const port = process.env.PORT ?? "3210";
install();
build();
title("Preparing the demo job");
run("npx", ["--no-install", "tsx", "scripts/seed-demo.ts"]);
title(`Bold Seam is at http://127.0.0.1:${port}  (stop with Ctrl C; PORT=… for another port)`);
const server = spawn(process.execPath, ["node_modules/next/dist/bin/next", "start", "-H", "127.0.0.1", "-p", port], {
  stdio: "inherit",
});
for (const signal of ["SIGINT", "SIGTERM"]) process.on(signal, () => server.kill(signal));
server.on("exit", (code) => process.exit(code ?? 0));
