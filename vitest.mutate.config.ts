import { defineConfig } from "vitest/config";

/** The tests of one subject, as `scripts/mutate.ts` names them; long proofs by random numbers are left out. */
export default defineConfig({
  resolve: { alias: { "@": import.meta.dirname } },
  test: {
    setupFiles: ["scripts/propertySeed.ts", "scripts/listsAlike.ts"],
    include: (process.env.MUTATION_TESTS ?? "core/**/*.test.ts").split(","),
    exclude: ["**/*.coverage.test.ts"],
    isolate: false,
    testTimeout: 60_000,
    hookTimeout: 60_000,
  },
});
