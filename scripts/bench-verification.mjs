import { build } from "esbuild";

// Bundled first: the solvers then run as they do in the product, and start at once.
await build({
  entryPoints: { "bench-verification": "bench/verification.ts" },
  outdir: "dist/workers",
  bundle: true,
  format: "esm",
  platform: "node",
  target: "node20",
  outExtension: { ".js": ".mjs" },
  logLevel: "warning",
});
await import("../dist/workers/bench-verification.mjs");
