// The layers of docs/architecture.md as a rule: app, ui, cli -> engine, server -> core -> nothing.
const LIBRARY = "replicad-opencascadejs";

/** The rooms of the kernel, from the ground up: each stands on those before it. */
const KERNEL_ROOMS = ["space", "binary", "library", "mesh", "facts", "make", "divide", "change", "files"];

module.exports = {
  forbidden: [
    ...KERNEL_ROOMS.slice(0, -1).map((room, i) => ({
      name: `kernel-${room}-stands-on-those-before`,
      severity: "error",
      from: { path: `^src/core/kernel/${room}/`, pathNot: "\\.test\\.ts$" },
      to: { path: `^src/core/kernel/(${KERNEL_ROOMS.slice(i + 1).join("|")})/` },
    })),
    {
      name: "core-stands-alone",
      severity: "error",
      from: { path: "^src/core" },
      to: { path: "^src/(engine|server|app|ui|cli)" },
    },
    {
      name: "core-has-no-interface-code",
      severity: "error",
      from: { path: "^src/core" },
      to: { path: "node_modules/(react|react-dom|next|three|drizzle-orm|@libsql|zustand|comlink|radix-ui)(/|$)" },
    },
    {
      name: "core-needs-no-node-modules",
      severity: "error",
      from: { path: "^src/core", pathNot: "\\.test\\.ts$" },
      to: { dependencyTypes: ["core"] },
    },
    {
      name: "engine-knows-only-core",
      severity: "error",
      from: { path: "^src/engine" },
      to: { path: "^src/(server|app|ui|cli)" },
    },
    {
      name: "server-knows-only-core",
      severity: "error",
      from: { path: "^src/server" },
      to: { path: "^src/(engine|app|ui|cli)" },
    },
    { name: "ui-knows-no-server", severity: "error", from: { path: "^src/ui" }, to: { path: "^src/(server|app|cli)" } },
    {
      // The page's own thread draws and asks; what works on bodies runs in the engine's.
      name: "the-page-loads-no-geometry",
      severity: "error",
      from: { path: "^src/(ui|app)", pathNot: "\\.test\\.tsx?$" },
      to: {
        path: "^src/core/(items|kernel|naming|seam|check|evaluate|exchange)/",
        pathNot:
          "^src/core/(check/(registry|declare|[^/]+/declare)|items/kinds|seam/(rules|seen)|kernel/space/(plane-frame|vectors)|evaluate/(dependants|pack|view-key)|exchange/(formats/list|csv/|drawings|dxf/|svg/))",
        dependencyTypesNot: ["type-only"],
      },
    },
    {
      // Checking a document loads no geometry either (a test bundles it and looks): steps are declared apart from what they do.
      name: "declared-apart",
      severity: "error",
      from: {
        path: "^src/core/(job/|steps/(index|declare|registry|values)|steps/.*/declare)",
        pathNot: "\\.test\\.ts$",
      },
      to: {
        path: "^src/core/items/(?!kinds)|^src/core/kernel/(?!space)|^src/core/(naming|check|evaluate|exchange)/|^src/core/steps/.*evaluat|^src/core/seam/(?!piece|presets|rules)",
        dependencyTypesNot: ["type-only"],
      },
    },
    {
      name: "cli-has-no-interface",
      severity: "error",
      from: { path: "^src/cli" },
      to: { path: "^src/(server|app|ui)" },
    },
    {
      name: "nothing-needs-the-cli",
      severity: "error",
      from: { path: "^src/(core|engine|server|app|ui)" },
      to: { path: "^src/cli" },
    },
    {
      name: "only-kernel-touches-the-geometry-library",
      severity: "error",
      from: { path: "^src", pathNot: "^src/core/kernel" },
      to: { path: `node_modules/${LIBRARY}` },
    },
    {
      name: "no-cycles",
      severity: "error",
      from: {},
      to: { circular: true, viaOnly: { dependencyTypesNot: ["type-only"] } },
    },
    { name: "no-unresolved", severity: "error", from: {}, to: { couldNotResolve: true } },
  ],
  options: {
    tsConfig: { fileName: "tsconfig.json" },
    tsPreCompilationDeps: true,
    doNotFollow: { path: "node_modules" },
    enhancedResolveOptions: {
      exportsFields: ["exports"],
      conditionNames: ["import", "require", "node", "default", "types"],
    },
  },
};
