// Shared by the scripts that have to run on a clean clone: Node's own modules only.
import { spawnSync } from "node:child_process";
import { existsSync, readdirSync, readFileSync, statSync } from "node:fs";
import path from "node:path";

export const root = path.resolve(path.dirname(new URL(import.meta.url).pathname), "..");
process.chdir(root);
process.env.NEXT_TELEMETRY_DISABLED = "1";

/** Runs a command and stops everything if it fails. */
export function run(command, args, options = {}) {
  const result = spawnSync(command, args, { stdio: "inherit", cwd: root, ...options });
  if (result.status !== 0) process.exit(result.status ?? 1);
}

export function title(text) {
  console.log(`\n── ${text}`);
}

/** Installs the packages that the lock file names, unless they are there. */
export function install() {
  const stamp = path.join(root, "node_modules", ".package-lock.json");
  const fresh = existsSync(stamp) && statSync(stamp).mtimeMs >= statSync(path.join(root, "package-lock.json")).mtimeMs;
  if (fresh) return;
  title("Installing packages");
  run("npm", ["ci", "--no-audit", "--no-fund"]);
}

function newest(folder) {
  let latest = 0;
  for (const entry of readdirSync(folder, { withFileTypes: true })) {
    const full = path.join(folder, entry.name);
    latest = Math.max(latest, entry.isDirectory() ? newest(full) : statSync(full).mtimeMs);
  }
  return latest;
}

/** Builds the application, unless the build is newer than everything that it is made from. */
export function build() {
  run("node", ["scripts/prepare-kernel.mjs"]);
  const id = path.join(root, ".next", "BUILD_ID");
  const sources = Math.max(
    newest(path.join(root, "src")),
    ...["package-lock.json", "next.config.ts"].map((file) => statSync(path.join(root, file)).mtimeMs),
  );
  if (existsSync(id) && readFileSync(id, "utf8").length > 0 && statSync(id).mtimeMs > sources) return;
  title("Building");
  run("npx", ["--no-install", "next", "build"]);
}

/** Bundles a program for Node into one file under node_modules/.cache; packages stay outside. @returns where it is. */
export async function bundle(entry, name) {
  const { build } = await import("esbuild");
  const out = bundlePath(name);
  await build({
    entryPoints: [path.join(root, entry)],
    outfile: out,
    bundle: true,
    packages: "external",
    platform: "node",
    format: "esm",
    target: "node20",
    logLevel: "warning",
  });
  return out;
}

export const bundlePath = (name) => path.join(root, "node_modules", ".cache", name, "main.mjs");
