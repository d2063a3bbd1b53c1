import { build } from "esbuild";

await build({
  entryPoints: { solver: "server/jobs/solverWorker.ts" },
  outdir: "dist/workers",
  bundle: true,
  format: "esm",
  platform: "node",
  target: "node20",
  outExtension: { ".js": ".mjs" },
  logLevel: "warning",
});
