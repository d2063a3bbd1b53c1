import { defineConfig } from "@playwright/test";
import { launchOptions } from "./e2e/browser.ts";

const port = 4311;

export default defineConfig({
  testDir: "e2e",
  timeout: 600_000,
  expect: { timeout: 60_000 },
  workers: 1,
  fullyParallel: false,
  // A busy machine may let a second go by where none should: what passes only then is listed as flaky.
  retries: 1,
  reporter: [["list"]],
  use: { baseURL: `http://127.0.0.1:${port}`, viewport: { width: 1280, height: 800 }, launchOptions, acceptDownloads: true },
  globalSetup: "./e2e/server.ts",
});
