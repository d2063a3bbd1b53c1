import { execFileSync, spawn } from "node:child_process";
import { existsSync, mkdirSync, writeFileSync } from "node:fs";
import { cpus, tmpdir } from "node:os";
import path from "node:path";
import { setFlagsFromString } from "node:v8";
import { runInNewContext } from "node:vm";
import { rectangleMesh } from "../core/mesh/rectangle.ts";
import { presetParameters } from "../core/problems/catalogue.ts";
import { liddedBox, liddedBoxPhysics } from "../core/problems/liddedBox.ts";
import { travellingVortex, vortexMesh, vortexPhysics } from "../core/problems/vortex.ts";
import { gasFaces } from "../core/solver/compressible/gasKernels.ts";
import { gasLoops } from "../core/solver/compressible/gasLoops.ts";
import { flowGeometry, leastSquaresFactors } from "../core/solver/flowGeometry.ts";
import { multiply, sweepPair } from "../core/solver/sparse.ts";
import { DEFAULT_STEADY_OPTIONS, SteadyFlow } from "../core/solver/steadyFlow.ts";

/** Measures the solver, its kernels against C, and the pages on the demo data; writes docs/benchmarks.md. */
const out: string[] = [];
const say = (line = "") => {
  out.push(line);
  console.log(line);
};

const presets = Object.fromEntries(liddedBox.parameters.map((p) => [p.key, p.preset]));
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
  const rows = [32, 64, 128].map((n) => solve(n));
  for (const r of rows)
    say(`| ${r.n} × ${r.n} | ${r.iterations} | ${r.coarse} | ${r.seconds.toFixed(2)} | ${Math.round((r.cells * r.iterations) / r.seconds)} |`);
  const x = rows.map((r) => Math.log(r.cells));
  const y = rows.map((r) => Math.log(r.seconds));
  const mx = x.reduce((a, b) => a + b) / 3;
  const my = y.reduce((a, b) => a + b) / 3;
  const exponent = x.reduce((s, v, i) => s + (v - mx) * (y[i] - my), 0) / x.reduce((s, v) => s + (v - mx) ** 2, 0);
  say("");
  say(`Fitted exponent of time against cells: ${exponent.toFixed(2)} (aim: at most 1.3).`);
  const plain = solve(64, { multigrid: false, coarseToFine: false, window: 0, maxIterations: 1500 });
  say(
    `Without coarse meshes and acceleration, 64 × 64 takes ${plain.iterations} iterations of four SIMPLEC steps (${plain.state}), ${(plain.seconds / rows[1].seconds).toFixed(1)} times the time.`,
  );
}

function memory(): void {
  setFlagsFromString("--expose_gc");
  const collect = runInNewContext("gc") as () => void;
  collect();
  const before = process.memoryUsage().arrayBuffers;
  const flow = new SteadyFlow(boxMesh(128), liddedBoxPhysics(presets), DEFAULT_STEADY_OPTIONS);
  while (flow.state === "climbing") flow.advance();
  for (let k = 0; k < 12; k++) flow.advance();
  collect();
  say(
    `Memory in typed arrays after ${flow.history.length} iterations on 128 × 128, coarse levels and acceleration included: ${Math.round((process.memoryUsage().arrayBuffers - before) / 128 ** 2)} bytes a cell.`,
  );
}

const KERNEL_CELLS = 500;

function kernels(): void {
  say("");
  say(`## Hot kernels against C, ${KERNEL_CELLS} × ${KERNEL_CELLS} cells, least CPU ms of 40 repeats`);
  say("");
  const mesh = rectangleMesh({ lengthM: 1, heightM: 1, nx: KERNEL_CELLS, ny: KERNEL_CELLS, gradingX: graded, gradingY: graded, periodicX: false });
  const g = flowGeometry(mesh);
  const factors = leastSquaresFactors(g, () => true);
  const p = g.pattern;
  const a = new Float64Array(p.column.length);
  for (let f = 0; f < g.joins; f++) {
    a[p.ownerEntry[f]] -= g.conductance[f];
    a[p.neighbourEntry[f]] -= g.conductance[f];
    a[p.diagonal[g.owner[f]]] += 1.02 * g.conductance[f];
    a[p.diagonal[g.neighbour[f]]] += 1.02 * g.conductance[f];
  }
  const x = Float64Array.from({ length: g.cells }, (_, i) => Math.sin(i * 0.001));
  const y = new Float64Array(g.cells);
  const z = new Float64Array(g.cells);
  const gx = new Float64Array(g.cells);
  const gy = new Float64Array(g.cells);
  const time = (work: () => void) => {
    let least = Number.POSITIVE_INFINITY;
    for (let r = 0; r < 45; r++) {
      const t = process.cpuUsage();
      work();
      const d = process.cpuUsage(t);
      if (r >= 5) least = Math.min(least, (d.user + d.system) / 1000);
    }
    return least;
  };
  const own: Record<string, number> = {
    multiply: time(() => multiply(p, a, x, y)),
    sweep: time(() => {
      y.fill(0);
      z.fill(0);
      sweepPair(p, a, x, x, y, z);
    }),
    gradient: time(() => {
      gx.fill(0);
      gy.fill(0);
      for (let f = 0; f < g.joins; f++) {
        const o = g.owner[f];
        const n = g.neighbour[f];
        const d = x[n] - x[o];
        const l = 4 * f;
        gx[o] += factors[l] * d;
        gy[o] += factors[l + 1] * d;
        gx[n] += factors[l + 2] * d;
        gy[n] += factors[l + 3] * d;
      }
    }),
  };
  const gas = gasOnMemory();
  own["gas-gradients"] = time(gas.loops.gradients);
  own["gas-limiter"] = time(() => gas.loops.limit("smooth"));
  own["gas-fluxes"] = time(() => gas.loops.fluxes("contact", 1.4));
  const c = inC([
    Int32Array.of(g.cells, g.joins, p.column.length),
    p.rowStart,
    p.column,
    p.diagonal,
    g.owner.subarray(0, g.joins),
    g.neighbour.subarray(0, g.joins),
    a,
    factors.subarray(0, 4 * g.joins),
    x,
    ...gas.data,
  ]);
  say("| kernel (those of the gas are AssemblyScript, the others typed arrays) | here | C, gcc -O3 -march=native | ratio |");
  say("|---|---|---|---|");
  for (const [name, ms] of Object.entries(own))
    say(`| ${name} | ${ms.toFixed(2)} | ${c ? c[name].toFixed(2) : "no gcc here"} | ${c ? (ms / c[name]).toFixed(2) : "–"} |`);
  if (c) {
    const worst = Object.entries(own).sort((l, r) => r[1] / c[r[0]] - l[1] / c[l[0]])[0][0];
    say("");
    say(`Worst: ${worst}.`);
  }
}

/** A gas on as many cells, with its loops as the product runs them, and the same data for C. */
function gasOnMemory() {
  const p = presetParameters(travellingVortex);
  const mesh = vortexMesh(p, KERNEL_CELLS, KERNEL_CELLS, "rows");
  const g = flowGeometry(mesh);
  const { arrays, loops } = gasLoops(
    g,
    leastSquaresFactors(g, () => false),
    gasFaces(g),
  );
  const { initial } = vortexPhysics(p);
  for (let c = 0; c < g.cells; c++) arrays.w.set(initial(mesh.centroidM[2 * c], mesh.centroidM[2 * c + 1]), 4 * c);
  arrays.floor.fill(1e-6);
  const pairs = Int32Array.from({ length: 2 * g.joins }, (_, k) => (k % 2 ? g.neighbour : g.owner)[k >> 1]);
  const data = [
    Int32Array.of(g.cells, g.joins),
    pairs,
    arrays.factors.subarray(0, 4 * g.joins),
    arrays.faces.normal.subarray(0, 3 * g.joins),
    arrays.faces.arm.subarray(0, 4 * g.joins),
    arrays.w,
    arrays.floor,
  ];
  return { loops, data };
}

/** Times of the C twins on the same data, or undefined where there is no gcc. */
function inC(arrays: (Int32Array | Float64Array)[]): Record<string, number> | undefined {
  const folder = path.join(tmpdir(), `tin-ruler-bench-${process.pid}`);
  mkdirSync(folder, { recursive: true });
  try {
    execFileSync("gcc", ["-O3", "-march=native", "-o", path.join(folder, "kernels"), "bench/kernels.c", "-lm"]);
  } catch {
    return undefined;
  }
  writeFileSync(path.join(folder, "data"), Buffer.concat(arrays.map((v) => Buffer.from(v.buffer, v.byteOffset, v.byteLength))));
  const text = execFileSync(path.join(folder, "kernels"), [path.join(folder, "data")], { encoding: "utf8" });
  return Object.fromEntries(
    text
      .trim()
      .split("\n")
      .map((l) => [l.split(" ")[0], Number(l.split(" ")[1])]),
  );
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
  execFileSync(process.execPath, ["dist/workers/seed.mjs"], { env: environment, stdio: "ignore" });
  const server = spawn(process.execPath, ["node_modules/next/dist/bin/next", "start", "-H", "127.0.0.1", "-p", "4314"], {
    env: environment,
    stdio: "ignore",
  });
  try {
    const base = "http://127.0.0.1:4314";
    for (let k = 0; k < 120 && !(await fetch(base).catch(() => undefined))?.ok; k++) await new Promise((r) => setTimeout(r, 500));
    const html = await (await fetch(base)).text();
    const ids = [...new Set([...html.matchAll(/\/cases\/([0-9a-f-]{36})\/question/g)].map((m) => m[1]))];
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
  } finally {
    server.kill("SIGTERM");
  }
}

say("# Benchmarks");
say("");
say(
  `Written by \`npm run bench\` on ${new Date().toISOString().slice(0, 10)}: Node ${process.version}, ${cpus()[0]?.model.trim() ?? "unknown processor"}, a shared machine. Ratios and exponents carry over; times do not.`,
);
say("");
solver();
memory();
kernels();
await pages();
writeFileSync("docs/benchmarks.md", `${out.join("\n")}\n`);
