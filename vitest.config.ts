import { defineConfig } from "vitest/config";

export default defineConfig({
  resolve: { alias: { "@": import.meta.dirname } },
  test: {
    setupFiles: ["scripts/propertySeed.ts", "scripts/listsAlike.ts"],
    testTimeout: 600_000,
    hookTimeout: 120_000,
    maxWorkers: 2,
    projects: [
      // Nothing in these holds a state of its own: the modules are read once for all their files, which halves the time.
      { extends: true, test: { name: "core", include: ["core/**/*.test.ts", "ui/**/*.test.ts", "bench/**/*.test.ts"], isolate: false } },
      { extends: true, test: { name: "server", include: ["server/**/*.test.ts", "demo/**/*.test.ts"], isolate: false } },
    ],
  },
});
