import { chromium, type Page, request } from "@playwright/test";
import { writeVtkGrid } from "../core/formats/vtkGrid.ts";
import { shapedRectangle } from "../core/mesh/shaped.ts";
import { launchOptions } from "../e2e/browser.ts";
import { endServer, startServer } from "../e2e/server.ts";
import { foreignRun } from "../e2e/strip.ts";
import { say } from "./say.ts";

const PORT = 4315;
const BASE = `http://127.0.0.1:${PORT}`;
/** halved squares along a side: 100,352 triangles */
const SIDE = 224;

/** What a field is looked at with besides its colours. */
const LAYERS = ["", "mesh", "contours", "smoothed"] as const;

/** Long tasks of a page while a plane field of 100,352 triangles is dragged, zoomed and moved by keys, in headless Chromium without a graphics card. */
export async function fluid(folder: string): Promise<void> {
  const server = await startServer(folder, PORT);
  const browser = await chromium.launch(launchOptions);
  try {
    const id = await caseWithField();
    const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
    await page.goto(`${BASE}/cases/${id}/runs`);
    await page.getByTestId("run").first().getByRole("button").first().click();
    const canvas = page.getByTestId("field-view").locator("canvas");
    await canvas.waitFor();
    await page.waitForTimeout(3000);
    say("");
    say("## A plane field of 100,352 triangles, moved about");
    say("");
    say("Dragged, zoomed by the wheel and moved by keys in headless Chromium without a graphics card; no task of the page is to take over 50 ms.");
    say("");
    say("| with | tasks over 50 ms | the longest, ms |");
    say("|---|---|---|");
    for (const layer of LAYERS) {
      if (layer) await page.getByTestId("field-view").getByLabel(layer, { exact: false }).first().check();
      await page.waitForTimeout(1500);
      const tasks = await movedAbout(page);
      say(`| ${layer || "colours alone"} | ${tasks.length} | ${tasks.length ? Math.max(...tasks).toFixed(0) : "–"} |`);
      if (layer) await page.getByTestId("field-view").getByLabel(layer, { exact: false }).first().uncheck();
    }
  } finally {
    await browser.close();
    await endServer(server, "SIGTERM");
  }
}

/** Drags, wheels and presses; lengths of the tasks that took over 50 ms meanwhile, ms. */
async function movedAbout(page: Page): Promise<number[]> {
  const canvas = page.getByTestId("field-view").locator("canvas");
  await canvas.scrollIntoViewIfNeeded();
  const box = await canvas.boundingBox();
  if (!box) throw new Error("There is no field to be moved.");
  const [x, y] = [box.x + box.width / 2, box.y + box.height / 2];
  // As text: what the bundler adds to functions does not exist in the page.
  await page.evaluate(
    "window.longTasks = []; window.watching = new PerformanceObserver((list) => { for (const e of list.getEntries()) window.longTasks.push(e.duration); }); window.watching.observe({ type: 'longtask' });",
  );
  await page.mouse.move(x, y);
  await page.mouse.wheel(0, -300);
  await page.waitForTimeout(400);
  await page.mouse.down();
  for (let k = 0; k < 120; k++) await page.mouse.move(x + 60 * Math.sin(k / 20), y + 40 * Math.cos(k / 15));
  await page.mouse.up();
  await page.waitForTimeout(400);
  await canvas.focus();
  for (const key of ["ArrowLeft", "ArrowUp", "+", "+", "-", "0"]) {
    await canvas.press(key);
    await page.waitForTimeout(200);
  }
  await page.waitForTimeout(600);
  return page.evaluate<number[]>("(window.watching.disconnect(), window.longTasks)");
}

/** A case of another code with one run, and its field on the triangles. @returns its id */
async function caseWithField(): Promise<string> {
  const uniform = { kind: "uniform" } as const;
  const spec = { lengthM: 3, heightM: 2, nx: SIDE, ny: SIDE, gradingX: uniform, gradingY: uniform, periodicX: false };
  const mesh = shapedRectangle(spec, "triangles");
  const of = (f: (x: number, y: number) => number) => Float64Array.from(mesh.volumeM2, (_, c) => f(mesh.centroidM[2 * c], mesh.centroidM[2 * c + 1]));
  const arrays = ["u", "v", "p"].map((name, k) => ({ name, values: of((x, y) => Math.sin((3 + k) * x) * Math.cos((4 - k) * y)) }));
  const http = await request.newContext({ baseURL: BASE });
  const headers = { origin: BASE };
  const { caseId, runId } = await foreignRun(http, headers, {
    title: "Triangles",
    quantity: "drag",
    unit: "N",
    value: 1,
    label: "triangles",
    cells: mesh.cellCount,
    volume: "6 m^2",
    dimension: 2,
  });
  const sent = await http.post("/api/uploads", {
    headers: { ...headers, "content-type": "application/octet-stream" },
    data: Buffer.from(writeVtkGrid(mesh, arrays)),
  });
  const { hash } = (await sent.json()) as { hash: string };
  const said = (name: string, role: string, unit: string) => ({ name, on: "cells", role, unit });
  const data = {
    hash,
    name: "triangles.vtu",
    length: "m",
    arrays: [said("u", "velocity-x", "m/s"), said("v", "velocity-y", "m/s"), said("p", "pressure", "Pa")],
  };
  const taken = await http.post(`/api/runs/${runId}/grid`, { headers, data });
  if (!taken.ok()) throw new Error(await taken.text());
  await http.dispose();
  return caseId;
}
