import { type ChildProcess, spawn } from "node:child_process";
import { rm } from "node:fs/promises";
import path from "node:path";
import { expect, type Page, test } from "@playwright/test";
import { endServer, startServer } from "./server.ts";

const FOLDER = path.resolve(".data-killed");
const PORT = 4312;
const BASE = `http://127.0.0.1:${PORT}`;

async function makeBox(page: Page): Promise<string> {
  await page.goto(`${BASE}/new`);
  await page.getByRole("radio", { name: "Lidded box" }).check();
  await page.getByLabel("Name of the case").fill("Crate");
  await page.getByRole("button", { name: "Make the case" }).click();
  await page.waitForURL("**/question");
  return new URL(page.url()).pathname.split("/")[2];
}

function startNode(): ChildProcess {
  return spawn(process.execPath, ["dist/workers/node.mjs", BASE], {
    env: { ...process.env, TIN_RULER_DATA: FOLDER, BENCH_NODE: "annex" },
    stdio: "ignore",
  });
}

test("node and server killed in the middle of a sweep: after a restart every run finishes, none twice, none lost", async ({ page }) => {
  await rm(FOLDER, { recursive: true, force: true });
  let server = await startServer(FOLDER, PORT);
  let node: ChildProcess | undefined;
  try {
    const id = await makeBox(page);
    await page.goto(`${BASE}/cases/${id}/runs`);
    await page.getByRole("button", { name: "Sweep a parameter" }).click();
    const plan = page.getByRole("region", { name: "Plan a sweep" });
    await plan.getByLabel("Parameter", { exact: true }).selectOption({ label: "Reynolds number" });
    await plan.getByLabel("Values, parted by semicolons").fill("100; 400; 1000; 1500");
    await plan.getByLabel("Cells along x").fill("112");
    await plan.getByLabel("along y", { exact: true }).fill("112");
    await plan.getByRole("button", { name: "Run 4 cases" }).click();
    const sweep = page.getByTestId("sweep");
    await expect(sweep).toContainText("of 4 done");
    await expect(sweep).toContainText("running");

    // A second process on the same folder is refused in words.
    const second = spawn(process.execPath, ["node_modules/next/dist/bin/next", "start", "-H", "127.0.0.1", "-p", "4313"], {
      env: { ...process.env, NODE_ENV: "production", TIN_RULER_DATA: FOLDER },
      stdio: ["ignore", "pipe", "pipe"],
    });
    let said = "";
    for (const stream of [second.stdout, second.stderr]) {
      stream.on("data", (b) => {
        said += b;
      });
    }
    await new Promise((resolve) => second.once("exit", resolve));
    expect(said).toContain("is in use by another Tin Ruler");

    node = startNode();
    const bench = await page.context().newPage();
    await bench.goto(`${BASE}/bench`);
    await expect(bench.getByText("node annex")).toBeVisible();
    await endServer(node, "SIGKILL");
    await endServer(server, "SIGKILL");
    server = await startServer(FOLDER, PORT);
    await page.goto(`${BASE}/cases/${id}/runs`);
    await expect(sweep).toContainText("4 of 4 done", { timeout: 240_000 });
    await expect(sweep.locator("tbody tr")).toHaveCount(4);
    const answer = await page.request.get(`${BASE}/api/cases/${id}/assessment`);
    expect(answer.ok()).toBe(true);

    // Results of the sweep differ as the Reynolds numbers do: the crate's slowest velocity grows with them.
    const lows = await sweep.locator("tbody tr td:nth-child(2)").allTextContents();
    const values = lows.map((t) => Number(t.replace("−", "-")));
    expect([...values].sort((a, b) => b - a)).toEqual(values);
  } finally {
    if (node) await endServer(node, "SIGKILL");
    await endServer(server, "SIGTERM");
    await rm(FOLDER, { recursive: true, force: true });
  }
});

test("a run is paused, goes on and ends; its field is watched meanwhile", async ({ page }) => {
  await rm(FOLDER, { recursive: true, force: true });
  const server = await startServer(FOLDER, PORT);
  try {
    const id = await makeBox(page);
    await page.goto(`${BASE}/cases/${id}/meshes`);
    await page.getByLabel("Coarsest: cells along x").fill("320");
    await page.getByLabel("along y", { exact: true }).fill("320");
    await page.getByLabel("Meshes", { exact: true }).selectOption("1");
    await page.getByRole("button", { name: "Run one mesh" }).click();
    await page.waitForURL("**/runs**");
    const run = page.getByTestId("run").first();
    await expect(run.getByRole("cell").nth(2)).toHaveText(/[1-9]/, { timeout: 120_000 });
    await expect(page.getByTestId("run-status")).toContainText("MB");
    await page.getByLabel("Field shown").selectOption("p");
    await run.getByRole("button", { name: "Pause" }).click();
    await expect(run).toContainText("paused");
    await run.getByRole("button", { name: "Resume" }).click();
    await expect(run).toContainText("done", { timeout: 240_000 });
    const view = page.getByTestId("field-view");
    await view.getByLabel("Field shown").selectOption({ label: "vorticity" });
    await view.getByLabel("contours").check();
    await view.getByRole("img").first().focus();
    await page.keyboard.press("+");
    const [file] = await Promise.all([page.waitForEvent("download"), view.getByRole("link", { name: "VTK" }).click()]);
    expect(file.suggestedFilename()).toBe("fields.vtu");
    await page.getByRole("button", { name: "Copy and change" }).click();
    await page.getByLabel("Cells along x").fill("24");
    await page.getByLabel("Cells along y").fill("24");
    await page.getByRole("button", { name: "Run the copy" }).click();
    await expect(page.getByTestId("run").nth(1)).toContainText("done", { timeout: 60_000 });
  } finally {
    await endServer(server, "SIGTERM");
    await rm(FOLDER, { recursive: true, force: true });
  }
});

test("killed in the middle of an autopilot: it goes on after a restart, through the same meshes to the same bits", async ({ page }) => {
  await rm(FOLDER, { recursive: true, force: true });
  let server = await startServer(FOLDER, PORT);
  const headers = { origin: BASE };
  const input = { quantityKey: "uMin", target: "6 %", mostCells: 40_000, minutes: 10 };
  const fly = async () => {
    const id = await makeBox(page);
    expect((await page.request.post(`${BASE}/api/cases/${id}/pilots`, { headers, data: input })).ok()).toBe(true);
    return id;
  };
  interface Pilot {
    readonly state: string;
    readonly steps: readonly { readonly label: string }[];
  }
  const pilotOf = async (id: string) => {
    const { pilots } = (await (await page.request.get(`${BASE}/api/cases/${id}/pilots`)).json()) as { pilots: Pilot[] };
    return pilots[0];
  };
  const reached = (id: string) => expect.poll(async () => (await pilotOf(id)).state, { timeout: 240_000 }).toBe("reached");
  const values = async (id: string) => {
    const told = (await (await page.request.get(`${BASE}/api/cases/${id}/assessment`)).json()) as {
      refinement: { rungs: { label: string; value: number }[] }[];
    };
    return told.refinement[0].rungs.map((g) => [g.label, g.value]);
  };
  try {
    const calm = await fly();
    await reached(calm);
    const hurt = await fly();
    await expect.poll(async () => (await pilotOf(hurt)).steps.length, { timeout: 120_000 }).toBeGreaterThan(1);
    await endServer(server, "SIGKILL");
    server = await startServer(FOLDER, PORT);
    await reached(hurt);
    expect((await pilotOf(hurt)).steps).toEqual((await pilotOf(calm)).steps.map((s) => ({ ...s, runId: expect.any(String) })));
    expect(await values(hurt)).toEqual(await values(calm));
  } finally {
    await endServer(server, "SIGTERM");
    await rm(FOLDER, { recursive: true, force: true });
  }
});
