import { readFileSync } from "node:fs";
import type { NextConfig } from "next";
import { policy } from "./src/server/http/policy";

const { version } = JSON.parse(readFileSync("node_modules/replicad-opencascadejs/package.json", "utf8")) as {
  version: string;
};

const compressed = [{ type: "header" as const, key: "accept-encoding", value: ".*\\bbr\\b.*" }];

const config: NextConfig = {
  agentRules: false,
  poweredByHeader: false,
  reactStrictMode: true,
  // Types are checked by `npm run types`, once, with the tests and scripts too.
  typescript: { ignoreBuildErrors: true },
  env: { NEXT_PUBLIC_KERNEL_VERSION: version },
  serverExternalPackages: ["@libsql/client", "libsql", "comlink", "tsx"],
  async rewrites() {
    return {
      beforeFiles: [
        { source: "/kernel/:version/kernel.wasm", has: compressed, destination: "/kernel/:version/kernel.wasm.br" },
      ],
      afterFiles: [],
      fallback: [],
    };
  },
  async headers() {
    return [
      {
        source: "/:path*",
        headers: [
          { key: "Cross-Origin-Opener-Policy", value: "same-origin" },
          { key: "Cross-Origin-Embedder-Policy", value: "require-corp" },
          { key: "Cross-Origin-Resource-Policy", value: "same-origin" },
          { key: "X-Content-Type-Options", value: "nosniff" },
          { key: "X-Frame-Options", value: "DENY" },
          { key: "Referrer-Policy", value: "same-origin" },
          { key: "Permissions-Policy", value: "camera=(), microphone=(), geolocation=()" },
        ],
      },
      {
        // The kernel's bindings build functions from text, which only its worker may do.
        source: "/_next/static/:path*",
        headers: [{ key: "Content-Security-Policy", value: policy("'self' 'wasm-unsafe-eval' 'unsafe-eval'") }],
      },
      { source: "/kernel/:path*", headers: [{ key: "Cache-Control", value: "public, max-age=31536000, immutable" }] },
      {
        source: "/kernel/:version/kernel.wasm",
        headers: [
          { key: "Content-Type", value: "application/wasm" },
          { key: "Vary", value: "Accept-Encoding" },
        ],
      },
      { source: "/kernel/:version/kernel.wasm", has: compressed, headers: [{ key: "Content-Encoding", value: "br" }] },
    ];
  },
};

export default config;
