import path from "node:path";
import { defineConfig } from "vitest/config";

/** What weighs the memory of an engine, puts something else in the place of a module, or rests on what a process keeps once: by itself. */
const ALONE = [
  "src/core/evaluate/held.test.ts",
  "src/core/evaluate/memory.test.ts",
  "src/core/testing/trust/memory.test.ts",
  "src/core/kernel/library/destructors.test.ts",
  "src/core/kernel/facts/volume-within.test.ts",
  "src/app/api/requests.test.ts",
];

export default defineConfig({
  resolve: { alias: { "@": path.resolve(import.meta.dirname ?? ".", "src") } },
  test: {
    pool: "threads",
    maxWorkers: 2,
    // Every method of the geometry library is held against what it is given; the browser's tests run without, as it is delivered.
    env: { KERNEL_CHECKED: "1" },
    // Guards against a hang, not a measure: a shared machine may be several times slower.
    testTimeout: 600_000,
    hookTimeout: 600_000,
    projects: [
      // The geometry library is loaded once for all of a thread, not anew for each file: a tenth of the whole run.
      {
        extends: true,
        test: { name: "together", isolate: false, include: ["src/**/*.test.ts", "src/**/*.test.tsx"], exclude: ALONE },
      },
      { extends: true, test: { name: "alone", include: ALONE } },
    ],
  },
});
