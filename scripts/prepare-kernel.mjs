// Puts the geometry kernel where the browser can import it: public/kernel/<version>/, beside a compressed copy.

import {
  copyFileSync,
  existsSync,
  mkdirSync,
  readdirSync,
  readFileSync,
  renameSync,
  rmSync,
  writeFileSync,
} from "node:fs";
import path from "node:path";
import { brotliCompressSync, constants } from "node:zlib";

const root = path.resolve(import.meta.dirname ?? path.dirname(new URL(import.meta.url).pathname), "..");
const source = path.join(root, "node_modules", "replicad-opencascadejs");
const { version } = JSON.parse(readFileSync(path.join(source, "package.json"), "utf8"));
const folder = path.join(root, "public", "kernel");
const target = path.join(folder, version);

if (!existsSync(path.join(target, "kernel.wasm.br"))) {
  rmSync(folder, { recursive: true, force: true });
  mkdirSync(target, { recursive: true });
  copyFileSync(path.join(source, "dist", "replicad_single.js"), path.join(target, "kernel.js"));
  copyFileSync(path.join(source, "dist", "replicad_single.wasm"), path.join(target, "kernel.wasm"));
  copyFileSync(path.join(source, "LICENSE"), path.join(target, "LICENSE"));
  const wasm = readFileSync(path.join(target, "kernel.wasm"));
  const packed = brotliCompressSync(wasm, {
    params: { [constants.BROTLI_PARAM_QUALITY]: 9, [constants.BROTLI_PARAM_SIZE_HINT]: wasm.length },
  });
  // Written under another name first: a half-written file must never be taken for a whole one.
  writeFileSync(path.join(target, "kernel.wasm.br.part"), packed);
  renameSync(path.join(target, "kernel.wasm.br.part"), path.join(target, "kernel.wasm.br"));
  console.log(
    `kernel ${version}: ${(wasm.length / 1e6).toFixed(1)} MB, ${(packed.length / 1e6).toFixed(1)} MB compressed (${readdirSync(target).join(", ")})`,
  );
}
