import { build } from "esbuild";
import { expect, test } from "vitest";
import { STEP_TYPES } from "../steps/registry";

/** What somebody gets who imports one thing: the modules, and their size together when minified. */
async function bundleOf(contents: string) {
  const { metafile } = await build({
    stdin: { contents, resolveDir: process.cwd(), loader: "ts" },
    bundle: true,
    minify: true,
    write: false,
    metafile: true,
    format: "esm",
    platform: "neutral",
    mainFields: ["module", "main"],
    conditions: ["import"],
    logLevel: "silent",
  });
  const [output] = Object.values(metafile.outputs);
  const own = Object.entries(output!.inputs).flatMap(([name, { bytesInOutput }]) =>
    name.includes("node_modules") ? [] : [bytesInOutput],
  );
  return {
    modules: Object.keys(output!.inputs),
    /** Without what comes of libraries. */
    own: own.reduce((sum, bytes) => sum + bytes, 0),
  };
}

test("checking a job loads no geometry: 85 kB beside libraries, 2.8 for each kind of step", async () => {
  const { modules, own } = await bundleOf('import { checkJob } from "./src/core/job"; console.log(checkJob);');
  const geometry = /src\/core\/(kernel|naming|exchange|build|check)\/|\/evaluate\.ts$|seam\/division/;
  expect(modules.filter((name) => geometry.test(name))).toEqual([]);
  expect(modules.some((name) => name.endsWith("steps/seam/declare.ts"))).toBe(true);
  expect(own / STEP_TYPES.length).toBeLessThan(2800);
});
