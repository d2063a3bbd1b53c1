import { readFileSync, rmSync } from "node:fs";
import { build } from "esbuild";
import { benchVersion, kernelBuild, methodHash } from "./method-hash.mjs";

const define = {
  "process.env.TIN_RULER_METHOD": JSON.stringify(methodHash(process.cwd())),
  "process.env.TIN_RULER_BENCH": JSON.stringify(benchVersion(process.cwd())),
  "process.env.TIN_RULER_KERNELS": JSON.stringify(JSON.stringify(kernelBuild(process.cwd()))),
};

const { dependencies } = JSON.parse(readFileSync("package.json", "utf8"));

/** Packages of very many files, of which a thread needs a few: read one by one they take seconds. */
const BUNDLED = new Set(["mathjs", "zod"]);

// Pieces of an earlier build have other names, and would stay.
rmSync("dist/workers", { recursive: true, force: true });

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

// These take most of their packages from where they are installed.
await build({
  entryPoints: {
    seed: "demo/seed.ts",
    reader: "server/jobs/readerWorker.ts",
    desk: "server/desk/deskWorker.ts",
    cli: "server/cli/main.ts",
    "log-writer": "demo/logWriter.ts",
  },
  outdir: "dist/workers",
  bundle: true,
  // A thread loads what it is asked for, not what another may be.
  splitting: true,
  external: Object.keys(dependencies).filter((name) => !BUNDLED.has(name)),
  format: "esm",
  platform: "node",
  target: "node20",
  outExtension: { ".js": ".mjs" },
  logLevel: "warning",
  define,
});
