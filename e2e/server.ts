import { type ChildProcess, spawn } from "node:child_process";
import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import path from "node:path";
import { type BrowserContext, test as base } from "@playwright/test";

const FIRST_PORT = Number(process.env.E2E_PORT ?? 3299);

/** The built application on a database of its own. Tests may kill it and start it again. */
export class TestServer {
  private process: ChildProcess | null = null;
  readonly address: string;
  private readonly folder = mkdtempSync(path.join(tmpdir(), "bold-seam-e2e-"));

  /** @param worker which of those that run at a time it belongs to: each has a port of its own. @param lean whether
   * pages do without a practised engine and one in reserve, which take two cores for seconds after each is opened. */
  constructor(
    private readonly worker: number,
    private readonly lean = true,
  ) {
    this.address = `http://127.0.0.1:${FIRST_PORT + worker}`;
  }

  async start(): Promise<void> {
    this.process = spawn(
      process.execPath,
      ["node_modules/next/dist/bin/next", "start", "-H", "127.0.0.1", "-p", String(FIRST_PORT + this.worker)],
      {
        env: {
          ...process.env,
          DATABASE_URL: `file:${path.join(this.folder, "test.db")}`,
          NEXT_TELEMETRY_DISABLED: "1",
          ...(this.lean ? { ENGINE: "lean" } : {}),
        },
        stdio: ["ignore", "ignore", "inherit"],
        detached: true,
      },
    );
    for (let attempt = 0; attempt < 120; attempt++) {
      const response = await fetch(`${this.address}/api/health`).catch(() => null);
      if (response?.ok) return;
      await new Promise((resolve) => setTimeout(resolve, 250));
    }
    throw new Error("The server did not start: run the build first.");
  }

  /** Ends it at once, as a power cut would: no chance to tidy up. */
  async kill(): Promise<void> {
    const running = this.process;
    this.process = null;
    if (!running?.pid || running.exitCode !== null) return;
    const gone = new Promise((resolve) => running.once("exit", resolve));
    process.kill(-running.pid, "SIGKILL");
    await gone;
  }

  async close(): Promise<void> {
    await this.kill();
    rmSync(this.folder, { recursive: true, force: true });
  }
}

/**
 * Leaves a profile as a new one but for what the browser keeps of the program itself: its files, and what was compiled of
 * them. What an origin may store, by the names of the protocol.
 */
const STORED = "cookies,local_storage,indexeddb,cache_storage,service_workers,file_systems,websql";

async function emptied(profile: BrowserContext, origin: string): Promise<void> {
  const [blank, ...pages] = profile.pages();
  for (const page of pages) await page.close();
  await profile.unrouteAll();
  await profile.clearPermissions();
  const protocol = await profile.newCDPSession(blank!);
  await protocol.send("Storage.clearDataForOrigin", { origin, storageTypes: STORED });
  await protocol.detach();
}

export const test = base.extend<object, { server: TestServer; lean: boolean; profile: BrowserContext }>({
  lean: [true, { option: true, scope: "worker" }],
  baseURL: ({ server }, use) => use(server.address),
  server: [
    async ({ lean }, use, { parallelIndex }) => {
      const server = new TestServer(parallelIndex, lean);
      await server.start();
      await use(server);
      await server.close();
    },
    { scope: "worker", auto: true },
  ],
  // One for all tests of a worker, as one person's browser: to fetch, decode and compile 23 MB of kernel anew for each is
  // half of a short test. The first of each worker finds nothing kept, as a first visit does.
  profile: [
    async ({ playwright, launchOptions, server }, use, { project }) => {
      const folder = mkdtempSync(path.join(tmpdir(), "bold-seam-profile-"));
      const profile = await playwright.chromium.launchPersistentContext(folder, {
        ...launchOptions,
        viewport: project.use.viewport ?? null,
        baseURL: server.address,
      });
      await use(profile);
      await profile.close();
      rmSync(folder, { recursive: true, force: true });
    },
    { scope: "worker" },
  ],
  context: async ({ profile, server }, use) => {
    await emptied(profile, server.address);
    await use(profile);
    await emptied(profile, server.address);
  },
});

export { expect } from "@playwright/test";
