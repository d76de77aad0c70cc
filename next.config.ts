import type { NextConfig } from "next";
import { kernelVersion } from "./scripts/kernel-version.mjs";
import { policy } from "./src/server/http/policy";

const compressed = [{ type: "header" as const, key: "accept-encoding", value: ".*\\bbr\\b.*" }];

const config: NextConfig = {
  agentRules: false,
  poweredByHeader: false,
  reactStrictMode: true,
  // Types are checked by `npm run types`, once, with the tests and scripts too.
  typescript: { ignoreBuildErrors: true },
  env: { NEXT_PUBLIC_KERNEL_VERSION: kernelVersion() },
  serverExternalPackages: ["@libsql/client", "libsql", "comlink", "tsx"],
  async rewrites() {
    return {
      beforeFiles: [
        { source: "/kernel/:version/:name.wasm", has: compressed, destination: "/kernel/:version/:name.wasm.br" },
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
        source: "/kernel/:version/:name.wasm",
        headers: [
          { key: "Content-Type", value: "application/wasm" },
          { key: "Vary", value: "Accept-Encoding" },
        ],
      },
      { source: "/kernel/:version/:name.wasm", has: compressed, headers: [{ key: "Content-Encoding", value: "br" }] },
    ];
  },
};

export default config;
