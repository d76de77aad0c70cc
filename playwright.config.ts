import { defineConfig } from "@playwright/test";
import { WHOLE } from "./src/core/testing/sample";

export default defineConfig({
  testDir: "e2e",
  // The longest story takes a minute and a half on two idle cores.
  timeout: 400_000,
  expect: { timeout: 20_000 },
  // Each with a server of its own: while one waits for a page, the other computes.
  workers: 2,
  retries: 0,
  // What others nearly show is tried by `npm run proof 1 screens`, with all sizes and kinds of the rest.
  ...(WHOLE ? {} : { grepInvert: /@whole/ }),
  reporter: [["list"], ["json", { outputFile: "test-results/e2e.json" }]],
  use: {
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
        "--webgl-antialiasing-mode=none",
        "--webgl-msaa-sample-count=0",
      ],
    },
  },
});
