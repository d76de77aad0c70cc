import { type LibraryFactory, loadKernel } from "./library";

/** Loads the kernel in Node: the command line, route handlers' workers and the tests. */
export async function loadNodeKernel(): Promise<void> {
  const module = await import("replicad-opencascadejs");
  await loadKernel(module.default as LibraryFactory, {}, process.env.KERNEL_CHECKED === "1");
}
