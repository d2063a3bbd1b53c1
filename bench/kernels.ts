import { execFileSync } from "node:child_process";
import { mkdirSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import path from "node:path";
import { rectangleMesh } from "../core/mesh/rectangle.ts";
import { travellingVortex, vortexMesh, vortexPhysics } from "../core/problems/build/vortex.ts";
import { presetParameters } from "../core/problems/describe/catalogue.ts";
import { flowGeometry, leastSquaresFactors } from "../core/solver/discrete/flowGeometry.ts";
import { gasFaces } from "../core/solver/gas/gasKernels.ts";
import { gasLoops } from "../core/solver/gas/gasLoops.ts";
import { kernelArena } from "../core/solver/kernels/arena.ts";
import { say } from "./say.ts";

/** finer towards both ends */
export const graded = { kind: "both-ends", strength: 1.5 } as const;
const KERNEL_CELLS = 500;

/** Milliseconds of CPU a kernel took, least of all repeats, by its name. */
type Least = Readonly<Record<string, number>>;

/**
 * The loops the solvers spend their time in, against the same loops in C where there is a compiler.
 * @param secondsPerCell of an iteration of the flow solver on its finest mesh
 */
export function kernels(secondsPerCell: number): void {
  say("");
  say(`## Hot kernels against C, ${KERNEL_CELLS} × ${KERNEL_CELLS} cells, least CPU ms of 60 repeats, by turns`);
  say("");
  const flow = flowOnMemory();
  const gas = gasOnMemory();
  const works = {
    ...flow.works,
    "gas-gradients": gas.loops.gradients,
    "gas-limiter": () => gas.loops.limit("smooth"),
    "gas-fluxes": () => gas.loops.fluxes("contact", 1.4),
  };
  const { own, c } = byTurns(works, [...flow.data, ...gas.data]);
  const bandwidth = c ? 2 ** 26 / (c["copy-32MB"] / 1000) : undefined;
  tellKernels(own, c, bytesOf(flow.faces, flow.entries), bandwidth);
  if (bandwidth) {
    say("");
    say(
      `Copying moves ${(bandwidth / 1e9).toFixed(1)} GB/s here (32 MB, read and written). An iteration on 256 × 256 takes as long as copying ${Math.round(secondsPerCell * bandwidth)} bytes a cell; it passes over the finest mesh in five smoothing steps and two evaluations.`,
    );
  }
  if (c) {
    const worst = Object.entries(own).sort((l, r) => r[1] / c[r[0]] - l[1] / c[l[0]])[0][0];
    say("");
    say(`Worst: ${worst} (aim: within 1.35).`);
  }
}

/** An incompressible flow with its loops as the product runs them, and the same data for C. */
function flowOnMemory() {
  const mesh = rectangleMesh({ lengthM: 1, heightM: 1, nx: KERNEL_CELLS, ny: KERNEL_CELLS, gradingX: graded, gradingY: graded, periodicX: false });
  const arena = kernelArena(2 ** 29);
  const g = flowGeometry(mesh, false, arena);
  const { kernels } = arena;
  const p = g.pattern;
  const a = arena.float64(p.column.length);
  kernels.assembleSymmetric(g, g.conductance, a);
  for (let i = 0; i < g.cells; i++) a[p.diagonal[i]] *= 1.02;
  const [x, y, z, gx, gy] = Array.from({ length: 5 }, () => arena.float64(g.cells));
  for (let i = 0; i < g.cells; i++) x[i] = Math.sin(i * 0.001);
  const flux = arena.float64(g.faces);
  for (let f = 0; f < g.faces; f++) flux[f] = Math.cos(f * 0.01);
  const untouched = a.slice();
  const works: Record<string, () => void> = {
    multiply: () => kernels.multiply(p, a, x, y),
    sweep: () => {
      y.fill(0);
      z.fill(0);
      kernels.sweepPair(p, a, [x, x], [y, z]);
    },
    gradient: () => {
      gx.fill(0);
      gy.fill(0);
      kernels.gradientOverJoins(g, g.gradientAll, x, [gx, gy]);
    },
    deferred: () => {
      z.fill(0);
      kernels.subtractDeferred(g, "linear-upwind", flux, 0.01, x, [gx, gy], z);
    },
    upwind: () => kernels.assembleUpwind(g, flux, 0.01, a.fill(0)),
  };
  const ofJoins = [flux, g.weight, g.conductance, g.ox, g.oy, g.nx, g.ny, g.tx, g.ty].map((q) => q.subarray(0, g.joins));
  const data = [
    Int32Array.of(g.cells, g.joins, p.column.length),
    p.rowStart,
    p.column,
    p.diagonal,
    g.owner.subarray(0, g.joins),
    g.neighbour.subarray(0, g.joins),
    untouched,
    g.gradientAll.subarray(0, 4 * g.joins),
    x,
    p.ownerEntry,
    p.neighbourEntry,
    ...ofJoins,
  ];
  return { works, data, faces: g.joins / g.cells, entries: p.column.length / g.cells };
}

/** Least CPU ms of a dozen and a half repeats, the first three to warm up. */
function leastOf(work: () => void): number {
  let least = Number.POSITIVE_INFINITY;
  for (let r = 0; r < 18; r++) {
    const t = process.cpuUsage();
    work();
    const d = process.cpuUsage(t);
    if (r >= 3) least = Math.min(least, (d.user + d.system) / 1000);
  }
  return least;
}

/** Both by turns, so that what else the machine does weighs on both; C only where there is a compiler. */
function byTurns(works: Readonly<Record<string, () => void>>, data: Parameters<typeof inC>[0]): { own: Least; c: Least | undefined } {
  const own: Record<string, number> = {};
  let c: Record<string, number> | undefined;
  for (let round = 0; round < 4; round++) {
    for (const [name, work] of Object.entries(works)) own[name] = Math.min(own[name] ?? Number.POSITIVE_INFINITY, leastOf(work));
    const there = inC(data);
    const before = c;
    c = there && Object.fromEntries(Object.entries(there).map(([name, ms]) => [name, Math.min(before?.[name] ?? Number.POSITIVE_INFINITY, ms)]));
  }
  return { own, c };
}

/** Bytes a cell that must pass between memory and processor at least: each array counted once, written ones twice. */
const bytesOf = (faces: number, entries: number): Least => ({
  multiply: 12 * entries + 4 + 24,
  sweep: 2 * (12 * entries + 8 + 48),
  gradient: 40 * faces + 40,
  deferred: 80 * faces + 40,
  upwind: 32 * faces + 16 * entries + 4,
  "gas-gradients": 40 * faces + 32 + 128 + 128,
  "gas-limiter": 40 * faces + 32 + 64 + 96 + 64,
  "gas-fluxes": 64 * faces + 32 + 64 + 32 + 64 + 16,
});

function tellKernels(own: Least, c: Least | undefined, bytes: Least, bandwidth: number | undefined): void {
  const cells = KERNEL_CELLS ** 2;
  say("| kernel, in AssemblyScript | here | C, gcc -O3 -march=native | ratio | bytes a cell | of the copy bandwidth |");
  say("|---|---|---|---|---|---|");
  for (const [name, ms] of Object.entries(own)) {
    const share = bandwidth ? `${((100 * bytes[name] * cells) / (ms / 1000) / bandwidth).toFixed(0)} %` : "–";
    const ratio = c ? (ms / c[name]).toFixed(2) : "–";
    say(`| ${name} | ${ms.toFixed(2)} | ${c ? c[name].toFixed(2) : "no gcc here"} | ${ratio} | ${Math.round(bytes[name])} | ${share} |`);
  }
}

/** A gas on as many cells, with its loops as the product runs them, and the same data for C. */
function gasOnMemory() {
  const p = presetParameters(travellingVortex);
  const mesh = vortexMesh(p, KERNEL_CELLS, KERNEL_CELLS, "rows");
  const g = flowGeometry(mesh);
  const { arrays, loops } = gasLoops(
    g,
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
