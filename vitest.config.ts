import path from "node:path";
import { defineConfig } from "vitest/config";

export default defineConfig({
  resolve: { alias: { "@": path.resolve(import.meta.dirname ?? ".", "src") } },
  test: {
    include: ["src/**/*.test.ts", "src/**/*.test.tsx"],
    pool: "threads",
    maxWorkers: 2,
    // Every method of the geometry library is held against what it is given; the browser's tests run without, as it is delivered.
    env: { KERNEL_CHECKED: "1" },
    // Guards against a hang, not a measure: a shared machine may be several times slower.
    testTimeout: 600_000,
    hookTimeout: 600_000,
  },
});
