import { defineConfig } from "vitest/config";

/** The tests of one subject, as `scripts/mutate.ts` names them; long proofs by random numbers are left out. */
export default defineConfig({
  resolve: { alias: { "@": import.meta.dirname } },
  test: {
    setupFiles: ["scripts/propertySeed.ts", "scripts/listsAlike.ts"],
    include: (process.env.MUTATION_TESTS ?? "core/**/*.test.ts").split(","),
    exclude: ["**/*.coverage.test.ts"],
    // Workers of their own see which change is tried in their environment, which only a process of its own passes on.
    isolate: process.env.MUTATION_APART === "yes",
    testTimeout: 60_000,
    hookTimeout: 60_000,
  },
});
