import { spawn } from "node:child_process";
import { rm } from "node:fs/promises";
import path from "node:path";
import { expect, test } from "@playwright/test";
import { endServer, startServer } from "./server.ts";

const FOLDER = path.resolve(".data-killed");
const PORT = 4312;
const BASE = `http://127.0.0.1:${PORT}`;

test("a server killed during a run loses nothing: the run is marked, its record kept, the queue goes on", async ({ page }) => {
  await rm(FOLDER, { recursive: true, force: true });
  let server = await startServer(FOLDER, PORT);
  try {
    await page.goto(`${BASE}/new`);
    await page.getByRole("radio", { name: "Lidded box" }).check();
    await page.getByLabel("Name of the case").fill("Crate");
    await page.getByRole("button", { name: "Make the case" }).click();
    await page.waitForURL("**/question");
    const id = new URL(page.url()).pathname.split("/")[2];
    await page.goto(`${BASE}/cases/${id}/meshes`);
    await page.getByLabel("Coarsest: cells along x").fill("160");
    await page.getByLabel("along y", { exact: true }).fill("160");
    await page.getByLabel("Meshes", { exact: true }).selectOption("2");
    await page.getByLabel("Ratio of spacings").fill("1.2");
    await page.getByRole("button", { name: "Run two meshes" }).click();
    await page.waitForURL("**/runs**");
    const first = page.getByTestId("run").first();
    // Live rows have come in: the record is under way.
    await expect(first.getByRole("cell").nth(2)).toHaveText(/[1-9]/, { timeout: 120_000 });

    // A second process on the same folder is refused in words.
    const second = spawn(process.execPath, ["node_modules/next/dist/bin/next", "start", "-H", "127.0.0.1", "-p", "4313"], {
      env: { ...process.env, NODE_ENV: "production", TIN_RULER_DATA: FOLDER },
      stdio: ["ignore", "pipe", "pipe"],
    });
    let said = "";
    second.stdout.on("data", (b) => {
      said += b;
    });
    second.stderr.on("data", (b) => {
      said += b;
    });
    await new Promise((resolve) => second.once("exit", resolve));
    expect(said).toContain("is in use by another Tin Ruler");

    await endServer(server, "SIGKILL");
    server = await startServer(FOLDER, PORT);
    await page.goto(`${BASE}/cases/${id}/runs`);
    await expect(page.getByTestId("run").first()).toContainText("interrupted");
    await expect(page.getByTestId("run").first().getByRole("cell").nth(2)).toHaveText(/[1-9]/);
    await page.getByTestId("run").first().getByRole("button", { name: "160 × 160 graded", exact: true }).click();
    await expect(page.getByText("Its record up to then is kept.")).toBeVisible();
    // The waiting run went on by itself; stopping keeps what it has.
    await expect(page.getByTestId("run").nth(1)).toContainText(/running|cells first/);
    await page.getByTestId("run").first().getByRole("button", { name: "Run again" }).click();
    await expect(page.getByTestId("run")).toHaveCount(3);
    await expect(page.getByTestId("run").nth(1).getByRole("cell").nth(2)).toHaveText(/[1-9]/, { timeout: 120_000 });
    await page.getByRole("button", { name: "Stop and keep" }).click();
    await expect(page.getByTestId("run").nth(1)).toContainText(/stopped, kept|done/, { timeout: 60_000 });
    await expect(page.getByTestId("run").nth(2)).toContainText(/interrupted|stopped/, { timeout: 60_000 });
  } finally {
    await endServer(server, "SIGTERM");
    await rm(FOLDER, { recursive: true, force: true });
  }
});
