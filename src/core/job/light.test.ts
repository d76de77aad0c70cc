import { build } from "esbuild";
import { expect, test } from "vitest";

/** What somebody gets who imports one thing: the modules, and their size together when minified. */
async function bundleOf(contents: string) {
  const { metafile, outputFiles } = await build({
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
  return { modules: Object.keys(output!.inputs), size: outputFiles[0]!.contents.length };
}

test("checking a job loads no geometry: 175 kB, a sixth of what it was when each kind of step brought its own", async () => {
  const { modules, size } = await bundleOf('import { checkJob } from "./src/core/job"; console.log(checkJob);');
  const geometry = /src\/core\/(kernel|naming|exchange|build|check)\/|\/evaluate\.ts$|seam\/division/;
  expect(modules.filter((name) => geometry.test(name))).toEqual([]);
  expect(modules.some((name) => name.endsWith("steps/seam/declare.ts"))).toBe(true);
  expect(size).toBeLessThan(200_000);
});
