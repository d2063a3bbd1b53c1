import type { NextConfig } from "next";
import { benchVersion, kernelBuild, methodHash } from "./scripts/method-hash.mjs";

const config: NextConfig = {
  serverExternalPackages: ["@electric-sql/pglite", "pdfkit", "docx", "@resvg/resvg-wasm", "svg-to-pdfkit", "dejavu-fonts-ttf", "pg", "pg-boss"],
  turbopack: { root: import.meta.dirname },
  // Types are checked by `npm run types`, for every file; a demo that starts need not wait for it.
  typescript: { ignoreBuildErrors: true },
  poweredByHeader: false,
  devIndicators: false,
  env: {
    TIN_RULER_METHOD: methodHash(import.meta.dirname),
    TIN_RULER_BENCH: benchVersion(import.meta.dirname),
    TIN_RULER_KERNELS: JSON.stringify(kernelBuild(import.meta.dirname)),
  },
  experimental: { proxyClientMaxBodySize: "48mb" },
};

export default config;
