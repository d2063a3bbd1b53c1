import { execFileSync, spawn } from "node:child_process";
import { existsSync, rmSync, writeFileSync } from "node:fs";
import { cpus } from "node:os";
import path from "node:path";
import { chromium } from "@playwright/test";
import Papa from "papaparse";
import { SheetReader } from "../core/formats/sheet.ts";
import { powerOfTwo, squaredSpectrum } from "../core/method/averaging/fourier.ts";
import { averageRecord } from "../core/method/averaging/record.ts";
import { randomFrom } from "../core/numeric/random.ts";
import { liddedBox, liddedBoxPhysics } from "../core/problems/build/liddedBox.ts";
import { presetParameters } from "../core/problems/describe/catalogue.ts";
import { DEFAULT_STEADY_OPTIONS, SteadyFlow } from "../core/solver/incompressible/steadyFlow.ts";
import { fieldStudy } from "../core/study/fieldStudy.ts";
import { launchOptions } from "../e2e/browser.ts";
import { cpuSeconds } from "./cpu.ts";
import { cycleHere, cycles } from "./cycles.ts";
import { fluid } from "./fluid.ts";
import { out, say } from "./say.ts";
import { space } from "./space.ts";
import { tables } from "./tables.ts";
import { truth } from "./truth.ts";

/** Measures the solver, its cycles and loops against C, and the pages on the demo data; writes docs/benchmarks.md. */
const presets = presetParameters(liddedBox);
/** finer towards both ends */
const graded = { kind: "both-ends", strength: 1.5 } as const;
const boxMesh = (n: number) => liddedBox.mesh(presets, { nx: n, ny: n, gradingX: graded, gradingY: graded });

function solve(n: number, options: object = {}) {
  const mesh = boxMesh(n);
  const cpu = process.cpuUsage();
  const flow = new SteadyFlow(mesh, liddedBoxPhysics(presets), { ...DEFAULT_STEADY_OPTIONS, dropOrders: 6, ...options });
  while (flow.state === "running" || flow.state === "climbing") flow.advance();
  const used = process.cpuUsage(cpu);
  return {
    n,
    cells: n * n,
    iterations: flow.history.length,
    coarse: flow.coarseIterations,
    seconds: (used.user + used.system) / 1e6,
    state: flow.state,
  };
}

function solver(): void {
  say("## Solver: lidded box, Re 1000, graded, to a drop of six orders");
  say("");
  say("| cells | iterations | on coarser meshes first | CPU s | cells × iterations / s |");
  say("|---|---|---|---|---|");
  solve(32);
  const rows = [32, 64, 128, 256].map((n) => solve(n));
  for (const r of rows)
    say(`| ${r.n} × ${r.n} | ${r.iterations} | ${r.coarse} | ${r.seconds.toFixed(2)} | ${Math.round((r.cells * r.iterations) / r.seconds)} |`);
  const x = rows.map((r) => Math.log(r.cells));
  const y = rows.map((r) => Math.log(r.seconds));
  const mx = x.reduce((a, b) => a + b) / x.length;
  const my = y.reduce((a, b) => a + b) / x.length;
  const exponent = x.reduce((s, v, i) => s + (v - mx) * (y[i] - my), 0) / x.reduce((s, v) => s + (v - mx) ** 2, 0);
  say("");
  say(`Fitted exponent of time against cells: ${exponent.toFixed(2)} (aim: at most 1.05).`);
  const plain = solve(64, { multigrid: false, coarseToFine: false, window: 0, maxIterations: 1500 });
  say(
    `Without coarse meshes and acceleration, 64 × 64 takes ${plain.iterations} iterations of four SIMPLEC steps (${plain.state}), ${(plain.seconds / rows[1].seconds).toFixed(1)} times the time.`,
  );
}

function memory(): void {
  const flow = new SteadyFlow(boxMesh(128), liddedBoxPhysics(presets), DEFAULT_STEADY_OPTIONS);
  while (flow.state === "climbing") flow.advance();
  for (let k = 0; k < 12; k++) flow.advance();
  say(
    `Memory taken for arrays after ${flow.history.length} iterations on 128 × 128, coarse levels and acceleration included: ${Math.round(flow.memoryBytes / 128 ** 2)} bytes a cell.`,
  );
}

/** Averaging a long record against one transform of the same length, and reading a file against splitting its text. */
const PIECE = 2 ** 20;

function records(): void {
  const n = 1_000_000;
  const random = randomFrom(3);
  const [values, at] = [new Float64Array(n), new Float64Array(n)];
  let x = 0;
  for (let i = 0; i < n; i++) {
    x = 0.98 * x + random() - 0.5;
    values[i] = x + Math.sin(i * 0.01);
    at[i] = i * 1e-3;
  }
  const best = (work: () => void) => {
    let least = Number.POSITIVE_INFINITY;
    for (let k = 0; k < 4; k++) least = Math.min(least, cpuSeconds(work));
    return least;
  };
  const transform = best(() => squaredSpectrum(values, powerOfTwo(n)));
  const assessed = best(() => averageRecord(at, values, { abscissa: "s" }));
  const text = `it,${Array.from({ length: 7 }, (_, k) => `q${k}`).join()}\n${Array.from({ length: n }, (_, i) => `${i + 1},${Array.from({ length: 7 }, (__, k) => values[(7 * i + k) % n].toPrecision(8)).join()}`).join("\n")}\n`;
  const whole = Buffer.from(text);
  const bare = best(() => Papa.parse(whole.toString()));
  // As the reading worker does it: in pieces of a mebibyte, decoded one by one.
  const read = best(() => {
    const decoder = new TextDecoder();
    const reader = new SheetReader();
    for (let at = 0; at < whole.length; at += PIECE) reader.push(decoder.decode(whole.subarray(at, at + PIECE), { stream: true }));
    if (!reader.end().ok) throw new Error("The file was refused.");
  });
  say("");
  say("## Records");
  say("");
  say(
    `Everything said of a record of 1,000,000 samples takes ${assessed.toFixed(2)} s of CPU, ${(assessed / transform).toFixed(1)} times one Fourier transform of that length (aim: under a second).`,
  );
  say(`Reading 1,000,000 lines of 8 columns into numbers takes ${(read / bare).toFixed(1)} times what Papa Parse needs to split them (aim: 2).`);
}

/** Four meshes of 65,000 cells that share no line but the rim, brought to one of them and judged cell by cell. */
function fieldStudies(): void {
  const rungs = [256, 255, 254, 253].map((n) => {
    const mesh = boxMesh(n);
    const values = Float64Array.from(
      { length: mesh.cellCount },
      (_, c) => Math.sin(60 * mesh.centroidM[2 * c]) * Math.cos(40 * mesh.centroidM[2 * c + 1]),
    );
    return { label: `${n} × ${n}`, spacing: 1 / n, mesh, values };
  });
  const seconds = (onto: number) => {
    fieldStudy({ rungs, onto, way: "averages", formalOrder: 2 });
    return Math.min(...[1, 2, 3].map(() => cpuSeconds(() => fieldStudy({ rungs, onto, way: "averages", formalOrder: 2 }))));
  };
  const [fine, coarse] = [seconds(0), seconds(3)];
  say("");
  say("## Field study");
  say("");
  say(
    `A field on four meshes of about 256 × 256 cells takes ${fine.toFixed(2)} s of CPU brought to the finest, ${coarse.toFixed(2)} s to the coarsest (aim: two seconds, in a worker of the page).`,
  );
}

async function fluidOnFreshData(): Promise<void> {
  const folder = path.resolve(".data-fluid");
  rmSync(folder, { recursive: true, force: true });
  await fluid(folder);
  rmSync(folder, { recursive: true, force: true });
}

async function pages(): Promise<void> {
  say("");
  say("## Pages on the demo data, ms from request to last byte, median of seven");
  say("");
  if (!existsSync(".next/BUILD_ID")) {
    say("Not measured: build first (`sh bin/prepare`).");
    return;
  }
  const folder = path.resolve(".data-bench");
  const environment = { ...process.env, NODE_ENV: "production" as const, TIN_RULER_DATA: folder, NEXT_MANUAL_SIG_HANDLE: "true" };
  execFileSync(process.execPath, ["dist/workers/seed.mjs", "--solve"], { env: environment, stdio: "ignore" });
  const server = spawn(process.execPath, ["node_modules/next/dist/bin/next", "start", "-H", "127.0.0.1", "-p", "4314"], {
    env: environment,
    stdio: "ignore",
  });
  try {
    const base = "http://127.0.0.1:4314";
    for (let k = 0; k < 120 && !(await fetch(base).catch(() => undefined))?.ok; k++) await new Promise((r) => setTimeout(r, 500));
    // The board answers while its cases are being worked out: it is measured with all of them.
    const waiting = async () => ((await (await fetch(`${base}/api/board`)).json()) as { waiting: unknown[] }).waiting.length;
    for (let k = 0; k < 240 && (await waiting()) > 0; k++) await new Promise((r) => setTimeout(r, 500));
    const ids = ((await (await fetch(`${base}/api/cases`)).json()) as { id: string }[]).map((c) => c.id);
    const urls = [
      "/",
      "/new",
      ...["question", "yardsticks", "meshes", "runs", "settling", "balance", "refinement", "comparison", "verdict", "report"].map(
        (s) => `/cases/${ids[2]}/${s}`,
      ),
    ];
    say("| page | ms |");
    say("|---|---|");
    let slowest = 0;
    for (const url of urls) {
      const times: number[] = [];
      for (let k = 0; k < 8; k++) {
        const t = performance.now();
        await (await fetch(base + url)).text();
        if (k > 0) times.push(performance.now() - t);
      }
      const median = times.sort((l, r) => l - r)[3];
      slowest = Math.max(slowest, median);
      say(`| ${url.replace(/[0-9a-f-]{36}/, "…")} | ${median.toFixed(0)} |`);
    }
    say("");
    say(`Slowest: ${slowest.toFixed(0)} ms (aim: 200 ms).`);
    await fieldFrames(base, ids);
  } finally {
    server.kill("SIGTERM");
  }
}

/** Frames a second while a field of 65,536 cells is dragged about, in headless Chromium without a graphics card. */
async function fieldFrames(base: string, ids: readonly string[]): Promise<void> {
  const send = async (path: string, body: object) =>
    (
      await fetch(`${base}/api/${path}`, {
        method: "POST",
        headers: { "content-type": "application/json", origin: base },
        body: JSON.stringify(body),
      })
    ).json();
  const assessment = async (id: string) => (await fetch(`${base}/api/cases/${id}/assessment`)).json();
  let id = "";
  for (const one of ids) if (!(await assessment(one)).ladder.length) id ||= one;
  const uniform = { kind: "uniform" };
  await send(`cases/${id}/family`, { baseNx: 256, baseNy: 256, ratio: 2, count: 1, gradingX: uniform, gradingY: uniform });
  for (let k = 0; k < 240 && !(await assessment(id)).ladder.length; k++) await new Promise((r) => setTimeout(r, 500));
  const browser = await chromium.launch(launchOptions);
  try {
    const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
    await page.goto(`${base}/cases/${id}/runs`);
    const box = await page.getByTestId("field-view").locator("canvas").boundingBox();
    if (!box) throw new Error("no field to drag");
    await page.waitForTimeout(2000);
    const [x, y] = [box.x + box.width / 2, box.y + box.height / 2];
    await page.mouse.move(x, y);
    await page.mouse.wheel(0, -300);
    await page.waitForTimeout(1000);
    // As text: what the bundler adds to functions does not exist in the page.
    const counted = page.evaluate<number[]>(
      "new Promise((done) => { const times = []; const tick = (t) => (times.push(t) < 180 ? requestAnimationFrame(tick) : done(times)); requestAnimationFrame(tick); })",
    );
    await page.mouse.down();
    for (let k = 0; k < 400; k++) await page.mouse.move(x + 60 * Math.sin(k / 20), y + 40 * Math.cos(k / 15));
    await page.mouse.up();
    const times = await counted;
    const gaps = times.slice(1).map((t, k) => t - times[k]);
    const rate = (1000 * gaps.length) / (times[times.length - 1] - times[0]);
    say("");
    say(
      `Dragging a field of 65,536 cells: ${rate.toFixed(0)} frames a second (aim: 60), ${gaps.filter((g) => g > 34).length} of ${gaps.length} frames took longer than two.`,
    );
  } finally {
    await browser.close();
  }
}

say("# Benchmarks");
say("");
say(
  `Written by \`npm run bench\` on ${new Date().toISOString().slice(0, 10)}: Node ${process.version}, ${cpus()[0]?.model.trim() ?? "unknown processor"}, a shared machine. Ratios and exponents carry over; times do not.`,
);
say("");
/** Parts that can be asked for alone; they then only tell what they found. */
const PARTS: Readonly<Record<string, () => void | Promise<void>>> = {
  "cycle-here": () => cycleHere(process.argv[3]),
  pages,
  records,
  fields: fieldStudies,
  fluid: fluidOnFreshData,
  truth,
  space,
  cycles,
  tables: () => {
    out.length = 0;
    tables();
    writeFileSync("docs/tables.md", `${out.join("\n")}\n`);
  },
};
const only = process.argv[2];
if (only !== undefined) {
  if (!(only in PARTS)) {
    console.error(`There is no part ${only}: ${Object.keys(PARTS).join(", ")}.`);
    process.exit(2);
  }
  await PARTS[only]();
  process.exit();
}
solver();
memory();
cycles();
records();
fieldStudies();
truth();
space();
await pages();
await fluidOnFreshData();
writeFileSync("docs/benchmarks.md", `${out.join("\n")}\n`);
