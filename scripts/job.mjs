// The command line, as it is delivered: built once into one file, and again when a source is newer. Starting the sources themselves
// has to translate some five hundred files first.
import { existsSync, readdirSync, statSync } from "node:fs";
import path from "node:path";
import { pathToFileURL } from "node:url";
import { bundle, bundlePath, root } from "./lib.mjs";

const sources = [path.join(root, "src"), path.join(root, "package.json")];
const out = bundlePath("job");

/** When anything in a folder, or a file, was last changed. */
function changed(place) {
  const facts = statSync(place);
  if (!facts.isDirectory()) return facts.mtimeMs;
  let latest = facts.mtimeMs;
  for (const entry of readdirSync(place, { withFileTypes: true }))
    if (entry.isDirectory() || /\.(ts|json)$/.test(entry.name))
      latest = Math.max(latest, changed(path.join(place, entry.name)));
  return latest;
}

if (!existsSync(out) || statSync(out).mtimeMs < Math.max(...sources.map(changed))) {
  await bundle("src/cli/index.ts", "job");
}
await import(pathToFileURL(out).href);
