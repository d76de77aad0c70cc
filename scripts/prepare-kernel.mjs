// Puts the geometry kernel, and what divides triangles, where the browser can import them: public/kernel/<versions>/, each beside a
// compressed copy and its licence.

import {
  copyFileSync,
  existsSync,
  mkdirSync,
  readFileSync,
  renameSync,
  rmSync,
  statSync,
  writeFileSync,
} from "node:fs";
import path from "node:path";
import { brotliCompressSync, constants } from "node:zlib";
import { kernelVersion, SERVED } from "./kernel-version.mjs";

const root = path.resolve(import.meta.dirname ?? path.dirname(new URL(import.meta.url).pathname), "..");
const folder = path.join(root, "public", "kernel");
const version = kernelVersion();
const target = path.join(folder, version);

if (SERVED.some(({ name }) => !existsSync(path.join(target, `${name}.wasm.br`)))) {
  rmSync(folder, { recursive: true, force: true });
  mkdirSync(target, { recursive: true });
  for (const { name, folder: source, module, wasm } of SERVED) {
    const to = (end) => path.join(target, `${name}${end}`);
    copyFileSync(path.join(source, module), to(".js"));
    copyFileSync(path.join(source, wasm), to(".wasm"));
    copyFileSync(path.join(source, "LICENSE"), to(".LICENSE"));
    const bytes = readFileSync(to(".wasm"));
    const packed = brotliCompressSync(bytes, {
      params: { [constants.BROTLI_PARAM_QUALITY]: 9, [constants.BROTLI_PARAM_SIZE_HINT]: bytes.length },
    });
    // Written under another name first: a half-written file must never be taken for a whole one.
    writeFileSync(to(".wasm.br.part"), packed);
    renameSync(to(".wasm.br.part"), to(".wasm.br"));
    const mb = (size) => `${(size / 1e6).toFixed(1)} MB`;
    console.log(`${name} ${version}: ${mb(statSync(to(".wasm")).size)}, ${mb(packed.length)} compressed`);
  }
}
