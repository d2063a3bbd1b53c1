import { build } from "esbuild";
import { methodHash } from "./method-hash.mjs";

const define = { "process.env.TIN_RULER_METHOD": JSON.stringify(methodHash(process.cwd())) };

await build({
  entryPoints: { solver: "server/jobs/solverWorker.ts", node: "server/node/benchNode.ts" },
  outdir: "dist/workers",
  bundle: true,
  format: "esm",
  platform: "node",
  target: "node20",
  outExtension: { ".js": ".mjs" },
  logLevel: "warning",
  define,
});

// These take their packages from where they are installed.
await build({
  entryPoints: { seed: "demo/seed.ts", reader: "server/jobs/readerWorker.ts", "log-writer": "demo/logWriter.ts" },
  outdir: "dist/workers",
  bundle: true,
  packages: "external",
  format: "esm",
  platform: "node",
  target: "node20",
  outExtension: { ".js": ".mjs" },
  logLevel: "warning",
  define,
});
