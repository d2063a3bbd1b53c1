import { defineConfig } from "vitest/config";

export default defineConfig({
  resolve: { alias: { "@": import.meta.dirname } },
  test: {
    setupFiles: ["scripts/propertySeed.ts", "scripts/listsAlike.ts"],
    include: ["core/**/*.test.ts", "server/**/*.test.ts", "demo/**/*.test.ts", "ui/**/*.test.ts"],
    testTimeout: 120_000,
    hookTimeout: 120_000,
    maxWorkers: 2,
  },
});
