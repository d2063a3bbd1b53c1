import { mkdirSync } from "node:fs";
import path from "node:path";
import { chromium } from "@playwright/test";
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
const strip = await caseOf("Sliding strip with a draught");
const still = await caseOf("Sliding strip over still air");
const louvre = await caseOf("Louvre step in the wind box");
const VIEWS: readonly (readonly [string, string])[] = [
  ["board", "/"],
  ["new-case", "/new"],
  ["question", `/cases/${louvre}/question`],
  ["yardsticks", `/cases/${box}/yardsticks`],
  ["meshes", `/cases/${box}/meshes`],
  ["runs", `/cases/${box}/runs`],
  ["settling", `/cases/${louvre}/settling`],
  ["balance", `/cases/${strip}/balance`],
  ["refinement", `/cases/${box}/refinement`],
  ["comparison", `/cases/${box}/comparison`],
  ["comparison-exact", `/cases/${strip}/comparison`],
  ["verdict", `/cases/${louvre}/verdict`],
  ["report", `/cases/${still}/report`],
  ["issued-report", `/cases/${still}/reports/1`],
  ["method", "/method"],
];
for (const [name, url] of VIEWS) {
  if (only.length && !only.includes(name)) continue;
  await page.goto(base + url);
  await page.waitForLoadState("networkidle").catch(() => undefined);
  await page.waitForTimeout(500);
  await page.screenshot({ path: path.join(folder, `${name}.png`) });
  console.log(name);
}
await browser.close();
