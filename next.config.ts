import type { NextConfig } from "next";

const config: NextConfig = {
  serverExternalPackages: ["@electric-sql/pglite", "pdfkit", "svg-to-pdfkit", "dejavu-fonts-ttf", "proper-lockfile", "pg", "pg-boss"],
  turbopack: { root: import.meta.dirname },
  poweredByHeader: false,
  devIndicators: false,
  experimental: { proxyClientMaxBodySize: "48mb" },
};

export default config;
