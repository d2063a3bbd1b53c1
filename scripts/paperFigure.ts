/** Draws the made-up paper figure of the demo as a scan: black print, turned a little, with a hand-made look of its age. Run: npx tsx scripts/paperFigure.ts */
import { chromium } from "@playwright/test";
import { PAPER_FIGURE, paperCurve } from "../demo/paperFigure.ts";

const { width, height, left, top, right, bottom, turnDegrees, xMm, uMS, curves } = PAPER_FIGURE;
const x = (mm: number) => left + ((right - left) * (mm - xMm[0])) / (xMm[1] - xMm[0]);
const y = (u: number) => bottom - ((bottom - top) * (u - uMS[0])) / (uMS[1] - uMS[0]);
const ticks = (from: number, to: number, by: number) => Array.from({ length: Math.round((to - from) / by) + 1 }, (_, k) => from + k * by);
const text = (px: number, py: number, words: string, more = "") => `<text x="${px}" y="${py}" ${more}>${words}</text>`;

const frame = `<rect x="${left}" y="${top}" width="${right - left}" height="${bottom - top}" fill="none" stroke="#222" stroke-width="2"/>`;
const xTicks = ticks(xMm[0], xMm[1], 25).map(
  (v) => `<path d="M${x(v)} ${bottom}v-12" stroke="#222" stroke-width="2"/>${text(x(v), bottom + 34, String(v), 'text-anchor="middle"')}`,
);
const yTicks = ticks(uMS[0], uMS[1], 0.5).map(
  (v) => `<path d="M${left} ${y(v)}h12" stroke="#222" stroke-width="2"/>${text(left - 12, y(v) + 8, v.toFixed(1), 'text-anchor="end"')}`,
);
const drawn = curves.map((c) => {
  const path = ticks(2, 148, 0.5)
    .map((mm, k) => `${k ? "L" : "M"}${x(mm).toFixed(2)} ${y(paperCurve(c.station, mm)).toFixed(2)}`)
    .join("");
  return `<path d="${path}" fill="none" stroke="${c.colour}" stroke-width="3.2" stroke-dasharray="${c.dash}"/>${text(x(122), y(c.labelMS), c.name, `fill="${c.colour}"`)}`;
});
const svg = `<svg xmlns="http://www.w3.org/2000/svg" width="${width}" height="${height}" font-family="'DejaVu Serif', serif" font-size="24"><rect width="100%" height="100%" fill="#f7f3e8"/><g transform="rotate(${turnDegrees} ${width / 2} ${height / 2})">${frame}${xTicks.join("")}${yTicks.join("")}${drawn.join("")}${text((left + right) / 2, bottom + 76, "height above the floor, mm", 'text-anchor="middle"')}${text(40, (top + bottom) / 2, "velocity, m/s", `text-anchor="middle" transform="rotate(-90 40 ${(top + bottom) / 2})"`)}${text(left, top - 24, "Fig. 4. Behind a louvre's step, box speed 2 m/s")}</g></svg>`;

const browser = await chromium.launch({ executablePath: "/usr/bin/chromium", args: ["--no-sandbox"] });
const page = await browser.newPage({ viewport: { width, height } });
await page.setContent(`<style>body{margin:0}</style>${svg}`);
await page.screenshot({ path: "demo/files/paper-figure.png" });
await browser.close();
