import { defineConfig } from "@playwright/test";

const port = process.env.E2E_PORT ?? "3299";

export default defineConfig({
  testDir: "e2e",
  // The longest story takes a minute and a half on two idle cores.
  timeout: 400_000,
  expect: { timeout: 20_000 },
  // Two cores, and the geometry engine wants one of them.
  workers: 1,
  retries: 0,
  reporter: [["list"], ["json", { outputFile: "test-results/e2e.json" }]],
  use: {
    baseURL: `http://127.0.0.1:${port}`,
    viewport: { width: 1280, height: 800 },
    // A trace films every action, which takes a third of two cores: ask for it with --trace on.
    screenshot: "only-on-failure",
    launchOptions: {
      executablePath: process.env.CHROMIUM ?? "/usr/bin/chromium",
      args: [
        "--no-sandbox",
        "--disable-quic",
        "--no-first-run",
        "--disable-background-networking",
        "--disable-component-update",
        "--disable-sync",
        "--enable-unsafe-swiftshader",
      ],
    },
  },
});
