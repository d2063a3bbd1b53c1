import { build } from "esbuild";

await build({
  entryPoints: { solver: "server/jobs/solverWorker.ts", node: "server/node/benchNode.ts" },
  outdir: "dist/workers",
  bundle: true,
  format: "esm",
  platform: "node",
  target: "node20",
  outExtension: { ".js": ".mjs" },
  logLevel: "warning",
});

// The demo's seed reads the database's packages from where they are installed.
await build({
  entryPoints: { seed: "demo/seed.ts" },
  outdir: "dist/workers",
  bundle: true,
  packages: "external",
  format: "esm",
  platform: "node",
  target: "node20",
  outExtension: { ".js": ".mjs" },
  logLevel: "warning",
});
