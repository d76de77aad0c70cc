// The built application on a database of its own, for what is measured from a browser.
import { spawn } from "node:child_process";

/** @param home where it is built. @param database the file of its database. */
export function serve(home, port, database) {
  const server = spawn(
    process.execPath,
    ["node_modules/next/dist/bin/next", "start", "-H", "127.0.0.1", "-p", String(port)],
    {
      cwd: home,
      stdio: "ignore",
      env: { ...process.env, DATABASE_URL: `file:${database}`, NEXT_TELEMETRY_DISABLED: "1" },
    },
  );
  return { server, address: `http://127.0.0.1:${port}` };
}

/** Waits until it answers. */
export async function answering(address) {
  for (let i = 0; i < 200; i++) {
    const answer = await fetch(`${address}/api/health`).catch(() => null);
    if (answer?.ok) return;
    await new Promise((resolve) => setTimeout(resolve, 100));
  }
  throw new Error("The server does not answer.");
}

export const median = (values) => [...values].sort((a, b) => a - b)[Math.floor(values.length / 2)];
