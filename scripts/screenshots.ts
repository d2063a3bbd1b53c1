import { mkdirSync } from "node:fs";
import path from "node:path";
import { chromium } from "@playwright/test";
import { lintelRuns } from "../demo/lintel.ts";
import { PAPER_FIGURE, paperCurve, scanned } from "../demo/paperFigure.ts";
import { launchOptions } from "../e2e/browser.ts";

/** Pictures of the main views, from the demo data of a running Tin Ruler: npm run screenshots [folder] [name ...] */
const base = process.env.TIN_RULER_URL ?? "http://127.0.0.1:4310";
const [folder = "docs/screenshots", ...only] = process.argv.slice(2);
mkdirSync(folder, { recursive: true });

const browser = await chromium.launch(launchOptions);
const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
await page.goto(base);
const caseOf = async (title: string) => (await page.getByRole("link", { name: title, exact: true }).getAttribute("href"))?.split("/")[2] ?? "";
const box = await caseOf("Lidded box, Re 1000");
const still = await caseOf("Sliding strip over still air");
const louvre = await caseOf("Louvre step in the wind box");
const VIEWS: readonly (readonly [string, string])[] = [
  ["board", "/"],
  ["question", `/cases/${louvre}/question`],
  ["yardsticks", `/cases/${louvre}/yardsticks`],
  ["settling", `/cases/${louvre}/settling`],
  ["refinement", `/cases/${box}/refinement`],
  ["comparison", `/cases/${louvre}/comparison`],
  ["verdict", `/cases/${louvre}/verdict`],
  ["programme", "/programme"],
  ["matrix", "/matrix?what=sources"],
  ["versions", "/versions?code=Lintel"],
  ["issued-report", `/cases/${still}/reports/1`],
  ["library", `/library?s=plates&case=${still}`],
];
for (const [name, url] of VIEWS) {
  if (only.length && !only.includes(name)) continue;
  await page.goto(base + url);
  await page.waitForLoadState("networkidle").catch(() => undefined);
  await page.waitForTimeout(500);
  await page.screenshot({ path: path.join(folder, `${name}.png`) });
  console.log(name);
}
if (!only.length || only.includes("fields")) await fields();
if (!only.length || only.includes("balance")) await surface();
if (!only.length || only.includes("pack")) await pack();
if (!only.length || only.includes("look")) await look();
if (!only.length || only.includes("runs-live")) await liveRun();
if (!only.length || only.includes("bring-in")) await bringingIn();
if (!only.length || only.includes("figure")) await figure();
await browser.close();

/** The door's leaf in space, with the forces on it. */
async function surface(): Promise<void> {
  await page.goto(`${base}/cases/${await atBoard("Loading door leaf, ajar in the wind")}/balance`);
  const region = page.getByRole("region", { name: "Forces from the surface" });
  await region.getByRole("button", { name: "Look at the surface" }).click();
  await region.getByLabel("Painted by").selectOption({ label: "p (Pa)" });
  await region.locator("canvas").waitFor();
  await page.evaluate("document.querySelector('[aria-label=\"Forces from the surface\"]').scrollIntoView()");
  await page.waitForTimeout(1500);
  await page.screenshot({ path: path.join(folder, "balance.png") });
}

/** Speed of two codes in the wake of the strips, on the mesh of one. */
async function fields(): Promise<void> {
  await page.goto(`${base}/cases/${await atBoard("Strip wake, exact field")}/comparison`);
  const region = page.getByRole("region", { name: "Fields of two runs" });
  await region.getByRole("button", { name: "Compare them" }).click();
  await region.getByTestId("linked-views").waitFor();
  await page.evaluate("document.querySelector('[aria-label=\"Fields of two runs\"]').scrollIntoView()");
  await page.waitForTimeout(800);
  await page.screenshot({ path: path.join(folder, "fields.png") });
  console.log("fields");
}

/** The pack of the demo's report, checked by making it again. */
async function pack(): Promise<void> {
  const buffer = await (await page.request.get(`${base}/api/cases/${still}/reports/1/zip`)).body();
  await page.goto(`${base}/packs`);
  await page.getByLabel("Pack of a report (zip)").setInputFiles({ name: "report-1.zip", mimeType: "application/zip", buffer });
  await page.getByText("come out the same").waitFor();
  await page.screenshot({ path: path.join(folder, "pack.png") });
  console.log("pack");
}

/** The flow before the door's leaf in space: cut, followed along, with its pressure. */
async function look(): Promise<void> {
  await page.goto(`${base}/cases/${await atBoard("Loading door leaf, ajar in the wind")}/runs`);
  await page.getByRole("link", { name: /^Look at .*coarse.* in space$/ }).click();
  await page.locator("canvas").waitFor();
  await page.getByLabel("Coloured by").selectOption({ label: "p (cells)" });
  await page.getByRole("button", { name: "Cut with a plane" }).click();
  await page.getByLabel("Lines along").selectOption({ label: "U, size (cells)" });
  await page.getByLabel("They begin").selectOption({ label: "over the first cut" });
  await page.getByRole("button", { name: "askew, all of it" }).click();
  await page.waitForTimeout(1500);
  await page.screenshot({ path: path.join(folder, "look.png") });
  console.log("look");
}

/** A family under way, photographed in the middle and then taken away again. */
async function liveRun(): Promise<void> {
  const id = await atBoard("Lidded box, Re 400");
  await page.goto(`${base}/cases/${id}/meshes`);
  await page.getByLabel("Coarsest: cells along x").fill("96");
  await page.getByLabel("along y", { exact: true }).fill("96");
  await page.getByLabel("Ratio of spacings").fill("1.5");
  await page.getByRole("button", { name: "Run three meshes" }).click();
  await page.waitForURL("**/runs**");
  const second = page.getByTestId("run").nth(1);
  await second
    .getByRole("cell")
    .nth(2)
    .filter({ hasText: /^(9|1\d)$/ })
    .waitFor({ timeout: 180_000 });
  await page.screenshot({ path: path.join(folder, "runs-live.png") });
  await page.goto(`${base}/cases/${id}/runs`);
  await page.getByRole("button", { name: "Stop and keep" }).click();
  await page.getByText(/of 3 under way/).waitFor({ state: "detached", timeout: 60_000 });
  const runs = await page.getByTestId("run").count();
  for (let k = 0; k < runs; k++) {
    await page.getByRole("button", { name: "Delete run" }).first().click();
    await page.getByRole("button", { name: "Delete run", exact: true }).last().click();
    await page
      .getByTestId("run")
      .nth(runs - k - 1)
      .waitFor({ state: "detached" });
  }
  console.log("runs-live");
}

/** A scanned figure, calibrated, one of its curves traced; nothing is stored. */
async function figure(): Promise<void> {
  await page.goto(`${base}/cases/${louvre}/yardsticks`);
  await page.getByRole("button", { name: "Read a figure" }).click();
  await page.locator("#figure-file").setInputFiles("demo/files/paper-figure.png");
  const { left, right, top, bottom, width, xMm, uMS } = PAPER_FIGURE;
  const press = async (place: readonly [number, number]) => {
    const at = await page.getByRole("application").boundingBox();
    if (!at) throw new Error("no picture");
    const scale = at.width / width;
    await page.mouse.click(at.x + (place[0] + 0.5) * scale, at.y + (place[1] + 0.5) * scale);
  };
  for (const corner of [
    [left, bottom],
    [right, bottom],
    [left, bottom],
    [left, top],
  ] as const)
    await press(scanned(corner));
  const values = { "x at the first place": xMm[0], "x at the second place": xMm[1], "y at the first place": uMS[0], "y at the second place": uMS[1] };
  for (const [name, value] of Object.entries(values)) await page.getByLabel(name).fill(String(value));
  await page.getByRole("radio", { name: "trace the curve of this colour" }).check();
  const up = (bottom - top) / (uMS[1] - uMS[0]);
  await press(scanned([left + ((right - left) * 30) / xMm[1], bottom - up * (paperCurve(4, 30) - uMS[0])]));
  await page.waitForTimeout(1200);
  await page.screenshot({ path: path.join(folder, "figure.png") });
  console.log("figure");
}

/** The mapping of two files, before anything is stored. */
async function bringingIn(): Promise<void> {
  await page.goto(`${base}/cases/${louvre}/runs`);
  await page.getByRole("button", { name: "Bring in results" }).click();
  const cells = ["96k", "310k", "1.02M"];
  const file = (name: string, text: string) => ({ name, mimeType: "text/csv", buffer: Buffer.from(text) });
  await page
    .getByLabel("History: one line an iteration")
    .setInputFiles(
      lintelRuns().flatMap((r, k) => [
        file(`${r.label} ${cells[k]} history.csv`, r.history),
        file(`${r.label} ${cells[k]} values.csv`, r.quantities),
      ]),
    );
  await page.getByLabel("Name of run 3").waitFor();
  await page.getByLabel("Code", { exact: true }).fill("Lintel");
  await page.getByLabel("Volume meshed").fill("1.08 m^3");
  await page.waitForTimeout(400);
  await page.screenshot({ path: path.join(folder, "bring-in.png") });
  console.log("bring-in");
}

async function atBoard(title: string): Promise<string> {
  await page.goto(base);
  return caseOf(title);
}
