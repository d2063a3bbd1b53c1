/**
 * Sizes of the scripts each page loads, plain and compressed: npm run bundle-sizes
 * TIN_RULER_URL names a running application, preset http://127.0.0.1:4310.
 */

import { chromium } from "@playwright/test";
import { gzipSync } from "fflate";
import { launchOptions } from "../e2e/browser.ts";

const address = (process.env.TIN_RULER_URL ?? "http://127.0.0.1:4310").replace(/\/$/, "");
const browser = await chromium.launch(launchOptions);
const page = await browser.newPage();
const home = await page.goto(address);
if (!home?.ok()) throw new Error(`${address} does not answer.`);
const href = (await page.locator('a[href^="/cases/"]').first().getAttribute("href")) ?? "";
const id = href.split("/")[2];
console.log("| page | scripts, kB | compressed, kB | of them workers, kB |\n|---|---|---|---|");
for (const path of ["/", "/new", ...["question", "meshes", "runs", "settling", "refinement", "verdict"].map((s) => `/cases/${id}/${s}`)]) {
  const fresh = await browser.newPage();
  const all = new Map<string, Uint8Array>();
  fresh.on("response", async (r) => {
    if (/\.js(\?|$)/.test(r.url())) all.set(r.url(), new Uint8Array(await r.body().catch(() => Buffer.alloc(0))));
  });
  await fresh.goto(`${address}${path}`, { waitUntil: "load" });
  await fresh.waitForTimeout(2500);
  // What the page itself loaded stands in its own list; the rest came to its workers.
  const listed = new Set(await fresh.evaluate(() => performance.getEntriesByType("resource").map((e) => e.name)));
  const part = (page: boolean) => new Map([...all].filter(([url]) => listed.has(url) === page));
  const [own, worker] = [part(true), part(false)];
  const size = (m: Map<string, Uint8Array>, f = (b: Uint8Array) => b.length) => ([...m.values()].reduce((s, b) => s + f(b), 0) / 1000).toFixed(0);
  console.log(`| ${path.replace(id, "...")} | ${size(own)} | ${size(own, (b) => gzipSync(b).length)} | ${size(worker)} |`);
  await fresh.close();
}
await browser.close();
