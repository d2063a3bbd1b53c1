import { readFileSync, writeFileSync } from "node:fs";
import { significant } from "../core/formatting/number.ts";
import { shapedRectangle } from "../core/mesh/shaped.ts";
import type { CellShape } from "../core/mesh/shapes.ts";
import { BenchJob } from "../core/problems/build/benchJob.ts";
import { benchProblem } from "../core/problems/build/catalogue.ts";
import { cornerMesh, cornerPhysics } from "../core/problems/build/corners.ts";
import { liddedBoxPhysics } from "../core/problems/build/liddedBox.ts";
import { DEFAULT_NUMERICS } from "../core/problems/describe/caseSetup.ts";
import { presetFormulas, presetParameters } from "../core/problems/describe/catalogue.ts";
import type { Numerics } from "../core/problems/describe/runSettings.ts";
import { SteadyGas } from "../core/solver/gas/steadyGas.ts";
import { DEFAULT_STEADY_OPTIONS, SteadyFlow, type SteadyFlowOptions } from "../core/solver/incompressible/steadyFlow.ts";
import { cpuSeconds } from "./cpu.ts";

/** Writes docs/bench-verification.md from real runs: `npm run bench-verification [words]`; words pick single cases, whose parts of the page are then written anew. */

const only = process.argv.slice(2);
const out: string[] = [];
const say = (line = "") => {
  out.push(line);
  console.log(line);
};
const wanted = (name: string) => only.length === 0 || only.some((w) => name.includes(w));
const uniform = { kind: "uniform" } as const;

interface Plan {
  readonly id: string;
  readonly title: string;
  readonly meshes: readonly (readonly [number, number])[];
  readonly shape?: CellShape;
  readonly parameters?: Readonly<Record<string, number>>;
  readonly formulas?: Readonly<Record<string, string>>;
  readonly numerics?: Partial<Numerics>;
  readonly similarity?: Readonly<Record<string, number>>;
}

function runs(plan: Plan) {
  const p = benchProblem(plan.id);
  const parameters: Record<string, number> = { ...presetParameters(p), ...plan.parameters };
  for (const s of p.similarity ?? []) if (plan.similarity?.[s.key] !== undefined) parameters[s.sets] = s.solve(plan.similarity[s.key], parameters);
  const formulas = { ...presetFormulas(p), ...plan.formulas };
  const { gradingX, gradingY } = p.family;
  const results = plan.meshes.map(([nx, ny]) => {
    const job = new BenchJob({
      problemId: plan.id,
      parameters,
      formulas,
      numerics: { ...DEFAULT_NUMERICS, ...p.numerics, ...plan.numerics },
      mesh: { nx, ny, gradingX, gradingY, ...(plan.shape ? { shape: plan.shape } : {}) },
      code: "bench",
    });
    while (job.underWay) job.step();
    return { nx, ny, cells: job.mesh.cellCount, state: job.simulation.state, iterations: job.simulation.iterations, result: job.result() };
  });
  return { p, parameters, formulas, results };
}

const twice = (nx: number, ny: number, count = 4) => Array.from({ length: count }, (_, k) => [nx * 2 ** k, ny * 2 ** k] as const);
const number = (x: number | undefined, digits = 3) => (x === undefined || !Number.isFinite(x) ? "–" : significant(x, digits));

const TRANSIENT_FLOW = {
  streamFunction: "y + 0.2 * sin(pi * x) * sin(pi * y) * cos(2 * t) / pi",
  pressure: "0.3 * cos(pi * x) * cos(pi * y) * sin(2 * t)",
};

/** slow enough for shear and heat to count as much as what flows */
const SLOW_GAS = { density: "1 + 0.2 * sin(x + y)", u: "0.4 * cos(x) * y", v: "0.5 * y + 0.2 * sin(2 * x)", pressure: "5 + cos(x * y)" };

const EXACT: readonly Plan[] = [
  { id: "plates", title: "Plates with a pressure gradient, joined ends", meshes: twice(8, 8), parameters: { pressureGradientPaM: -0.05 } },
  { id: "pipe", title: "Pipe, developed (revolved mesh)", meshes: twice(8, 8) },
  { id: "cylinders", title: "Rotating cylinders (ring of cells)", meshes: twice(32, 8) },
  ...(["rows", "smooth", "jittered", "triangles", "hexagons"] as const).map((shape) => ({
    id: "wake",
    title: `Grid wake, ${shape}`,
    meshes: twice(24, 16),
    shape,
  })),
  { id: "eddies", title: "Decaying eddies, rows", meshes: twice(12, 12, 5), shape: "rows", parameters: { endTimeS: 2 } },
  { id: "eddies", title: "Decaying eddies, jittered", meshes: twice(12, 12), shape: "jittered", parameters: { endTimeS: 2 } },
  ...(["smooth", "jittered", "triangles", "hexagons"] as const).map((shape) => ({
    id: "manufactured-flow",
    title: `Manufactured flow, ${shape}`,
    meshes: twice(12, 12),
    shape,
  })),
  ...(["plane", "ring"] as const).flatMap((room) =>
    (["smooth", "triangles", "hexagons"] as const).map((shape) => ({
      id: "manufactured-carried",
      title: `Manufactured heat carried by a flow, ${room}, ${shape}`,
      meshes: twice(12, 12),
      shape,
      parameters: { round: room === "ring" ? 1 : 0 },
    })),
  ),
  {
    id: "manufactured-carried",
    title: "Manufactured heat conducted in a ring, smooth",
    meshes: twice(12, 12),
    shape: "smooth",
    parameters: { round: 1 },
    formulas: { carried: "4 + 3 * sin(pi * x) * cos(pi * y / 2) + x * y", streamFunction: "0", pressure: "0" },
  },
  {
    id: "manufactured-flow",
    title: "Manufactured flow that changes in time, smooth",
    meshes: twice(8, 8),
    shape: "smooth",
    formulas: TRANSIENT_FLOW,
  },
  ...(["rows", "smooth", "jittered", "triangles", "hexagons"] as const).map((shape) => ({
    id: "manufactured-gas",
    title: `Manufactured gas, inviscid, ${shape}`,
    meshes: twice(8, 8),
    shape,
  })),
  { id: "manufactured-gas", title: "Manufactured gas, viscous, smooth", meshes: twice(8, 8, 5), shape: "smooth", parameters: { viscosityPaS: 200 } },
  {
    id: "manufactured-gas",
    title: "Manufactured gas, viscous, ring, smooth",
    meshes: twice(8, 8, 5),
    shape: "smooth",
    parameters: { viscosityPaS: 200, round: 1 },
  },
  ...(["rows", "smooth", "triangles"] as const).map((shape) => ({
    id: "manufactured-gas",
    title: `Manufactured gas, slow and viscous, ${shape}`,
    meshes: twice(8, 8, shape === "triangles" ? 3 : 4),
    shape,
    parameters: { viscosityPaS: 0.5 },
    formulas: SLOW_GAS,
  })),
  { id: "travelling-vortex", title: "Travelling vortex, one passage", meshes: twice(16, 16), shape: "rows" },
  { id: "shock-tube", title: "Shock tube (L1 counts)", meshes: [100, 200, 400, 800].map((n) => [n, 4] as const) },
  {
    id: "ramp",
    title: "Compression ramp (L1 counts)",
    meshes: [
      [30, 20],
      [60, 40],
      [120, 80],
    ],
  },
  {
    id: "corner",
    title: "Expansion corner (L1 counts)",
    meshes: [
      [30, 20],
      [60, 40],
      [120, 80],
    ],
  },
];

const PUBLISHED: readonly Plan[] = [
  {
    id: "lidded-box",
    title: "Lidded box, Re 1000",
    meshes: [
      [64, 64],
      [128, 128],
      [256, 256],
    ],
    numerics: { dropOrders: 6 },
  },
  ...[1e3, 1e4, 1e5, 1e6].map((rayleigh) => ({
    id: "chamber",
    title: `Chamber with one warm wall, Ra ${rayleigh.toExponential(0).replace("e+", "e")}`,
    meshes: [
      [32, 32],
      [64, 64],
      [128, 128],
    ] as const,
    similarity: { rayleigh },
  })),
  {
    id: "chamber",
    title: "Chamber with one warm wall, Ra 1e6, sides that halve badly",
    meshes: [17, 23, 33, 45, 63, 81, 127].map((n) => [n, n] as const),
    similarity: { rayleigh: 1e6 },
  },
  ...[100, 200, 400].map((reynolds) => ({
    id: "step",
    title: `Step, Re ${reynolds}`,
    meshes: [
      [80, 20],
      [160, 40],
      [320, 80],
    ] as const,
    similarity: { reynolds },
    parameters: { lengthSteps: 20, inletSteps: 5 },
  })),
  {
    id: "post",
    title: "Post in a channel, Re 20",
    meshes: [
      [64, 20],
      [128, 40],
      [256, 80],
    ],
  },
  { id: "pipe-entry", title: "Pipe, developing flow", meshes: twice(32, 8, 3) },
  ...[
    [0, 0, "duct, wall held"],
    [0, 1, "duct, heated evenly"],
    [1, 0, "pipe, wall held"],
    [1, 1, "pipe, heated evenly"],
  ].map(([section, wall, name]) => ({
    id: "heated",
    title: `Heated ${name}`,
    meshes: twice(48, 8, 3),
    parameters: { section: Number(section), wall: Number(wall) },
  })),
  {
    id: "contoured-duct",
    title: "Contoured duct, standing shock (one-dimensional theory)",
    meshes: [
      [40, 4],
      [80, 8],
      [160, 16],
    ],
  },
  { id: "contoured-duct", title: "Contoured duct, shock-free (one-dimensional theory)", meshes: twice(40, 4, 3), parameters: { backRatio: 0.15 } },
  {
    id: "post-shedding",
    title: "Post in a channel, shedding, Re 100",
    meshes: [
      [96, 30],
      [128, 40],
    ],
    parameters: { endTimeS: 36 },
  },
];

const IRREGULAR =
  "Pressure is formally of first order here: faces of irregular cells do not halve the line between centres, and what that leaves in the pressure falls with the spacing only. It shows first where the velocity's own share is small.";
const irregular = (plan: Plan) => (plan.shape === "jittered" || plan.shape === "triangles") && !plan.id.includes("gas");

/** fields that have to reach their order on a smooth solution, and the least it may be on the finest pair */
const HELD_FIELDS = ["u", "v", "density"];
const LEAST_ORDER = 1.85;
const JUMPS = ["shock-tube", "ramp", "corner"];
/** what fell short, told at the end; the command then fails */
const short: string[] = [];

function exactPart(): void {
  say("## Exact cases");
  say();
  say("Errors are of cell-centre values, volume weighted, over the largest exact value. The order is that of the finest pair.");
  say();
  for (const plan of EXACT) {
    if (!wanted(plan.title)) continue;
    const { p, results } = runs(plan);
    say(`### ${plan.title}`);
    say();
    const norms = results[0].result.errorNorms;
    say(`Formal order ${p.formalOrder}. ${p.order}${irregular(plan) && norms.some((n) => n.field === "p") ? ` ${IRREGULAR}` : ""}`);
    say();
    say(`| cells | iterations or steps | ${norms.flatMap((n) => [`${n.field}, L1`, "L2", "Linf"]).join(" | ")} |`);
    say(`|---|---|${norms.map(() => "---|---|---|").join("")}`);
    for (const r of results) {
      const cells = r.result.errorNorms.flatMap((n) => [n.l1, n.l2, n.linf].map((e) => (n.scale > 0 ? (e / n.scale).toExponential(2) : "–")));
      say(`| ${r.cells} | ${r.iterations}${r.state === "reached-target" ? "" : `, ${r.state}`} | ${cells.join(" | ")} |`);
    }
    const [a, b] = results.slice(-2);
    // Shapes without an exact ratio of spacings are judged by their cell counts.
    const ratio = Math.sqrt(b.cells / a.cells) || 2;
    const one = plan.id === "shock-tube" ? b.nx / a.nx : ratio;
    const orders = norms.flatMap((_, k) =>
      (["l1", "l2", "linf"] as const).map((w) => number(Math.log(a.result.errorNorms[k][w] / b.result.errorNorms[k][w]) / Math.log(one))),
    );
    say(`| order | | ${orders.join(" | ")} |`);
    say();
    norms.forEach((n, k) => {
      const found = Math.log(a.result.errorNorms[k].l2 / b.result.errorNorms[k].l2) / Math.log(one);
      const exact = b.result.errorNorms[k].linf < 1e-8 * n.scale;
      if (HELD_FIELDS.includes(n.field) && !JUMPS.includes(plan.id) && !exact && found < LEAST_ORDER)
        short.push(`${plan.title}: ${n.field} at order ${found.toFixed(2)}`);
    });
  }
}

function publishedPart(): void {
  say("## Published and theoretical figures");
  say();
  say("Extrapolated at order 2 from the two finest meshes; the difference is that of the extrapolated value.");
  say();
  for (const plan of PUBLISHED) {
    if (!wanted(plan.title)) continue;
    const { p, parameters, formulas, results } = runs(plan);
    say(`### ${plan.title}`);
    say();
    const inside = p.yardsticks(parameters, formulas).filter((y) => y.validity.inside);
    if (inside[0]) say(`${inside[0].source}.`);
    say();
    say(
      `| quantity | ${results.map((r) => `${r.cells} cells, ${r.iterations}${r.state === "reached-target" ? "" : `, ${r.state}`}`).join(" | ")} | extrapolated | published | difference |`,
    );
    say(`|---|${results.map(() => "---|").join("")}---|---|---|`);
    for (const q of p.quantities) {
      const reference = inside[0]?.values.find((v) => v.quantityKey === q.key)?.value;
      if (reference === undefined) continue;
      const values = results.map((r) => r.result.quantities[q.key]);
      const [a, b] = values.slice(-2);
      const ratio = results[results.length - 1].nx / results[results.length - 2].nx;
      const limit = b + (b - a) / (ratio * ratio - 1);
      say(
        `| ${q.symbol} | ${values.map((v) => number(v, 6)).join(" | ")} | ${number(limit, 6)} | ${number(reference, 6)} | ${number((limit / reference - 1) * 100, 2)} % |`,
      );
    }
    say();
  }
}

const finish = (flow: SteadyFlow) =>
  cpuSeconds(() => {
    while (flow.state === "running" || flow.state === "climbing") flow.advance();
  });

function convergencePart(): void {
  if (!wanted("convergence")) return;
  say("## Convergence");
  say();
  say(
    "Lidded box at Re 1000, every residual six orders below its level at rest. Seconds are of one core, on a shared machine: only their ratios mean anything.",
  );
  say();
  const p = presetParameters(benchProblem("lidded-box"));
  const solve = (shape: CellShape, n: number, options: Partial<SteadyFlowOptions> = {}) => {
    const mesh = shapedRectangle({ lengthM: p.sideM, heightM: p.sideM, nx: n, ny: n, gradingX: uniform, gradingY: uniform, periodicX: false }, shape);
    const flow = new SteadyFlow(mesh, liddedBoxPhysics(p), { ...DEFAULT_STEADY_OPTIONS, dropOrders: 6, ...options });
    const seconds = finish(flow);
    return { cells: mesh.cellCount, cycles: flow.history.length, seconds, state: flow.state };
  };
  say("| mesh | scheme | cells | cycles | seconds |");
  say("|---|---|---|---|---|");
  let family = 0;
  let finest = 0;
  let fast = 0;
  for (const n of [16, 32, 64, 128, 256]) {
    const r = solve("rows", n, { scheme: "linear-upwind" });
    family += r.seconds;
    finest = r.seconds;
    if (n === 128) fast = r.seconds;
    say(`| rows | linear-upwind | ${r.cells} | ${r.cycles} | ${number(r.seconds)} |`);
  }
  for (const n of [64, 128, 256]) {
    const r = solve("rows", n);
    say(`| rows | central | ${r.cells} | ${r.cycles} | ${number(r.seconds)} |`);
  }
  for (const shape of ["jittered", "triangles", "hexagons"] as const) {
    const r = solve(shape, 64, { scheme: "linear-upwind" });
    say(`| ${shape} | linear-upwind | ${r.cells} | ${r.cycles} | ${number(r.seconds)} |`);
  }
  say();
  say(`The whole family from 16 to 256 cells a side took ${number(family / finest)} times its finest member.`);
  const plain = solve("rows", 128, { scheme: "linear-upwind", multigrid: false, coarseToFine: false, window: 0, maxIterations: 3000 });
  say(
    `Without nested meshes and acceleration, 128 cells a side took ${plain.cycles} passes of four steps (${plain.state}) and ${number(plain.seconds / fast)} times as long.`,
  );
  say();
  const q = presetParameters(benchProblem("ramp"));
  const gas = (explicit: boolean) => {
    const flow = new SteadyGas(cornerMesh(q, { nx: 120, ny: 80 }, 1), cornerPhysics(q), {
      riemannFlux: "contact",
      limiter: "smooth",
      maxIterations: 4000,
      dropOrders: 6,
      explicit,
    });
    while (flow.state === "running") flow.advance();
    return { iterations: flow.iterations, evaluations: flow.space.evaluations };
  };
  const [implicit, explicit] = [gas(false), gas(true)];
  say(
    `Compression ramp on 120 x 80, six orders: ${implicit.iterations} implicit iterations with ${implicit.evaluations} evaluations of the fluxes, against ${explicit.iterations} explicit iterations with ${explicit.evaluations} evaluations.`,
  );
  say();
}

say("# What the bench was proven by");
say();
say("Written by `npm run bench-verification` from runs of the solvers it speaks of; nothing here was typed.");
say();
exactPart();
publishedPart();
convergencePart();
const PAGE = "docs/bench-verification.md";

/** Parts of a page by their headings, in order. */
function partsOf(text: string): Map<string, string> {
  const found = text.split(/^(?=#{2,3} )/m).map((part): [string, string] => [part.slice(0, part.indexOf("\n")), part]);
  return new Map(found);
}

/** The page with the parts that were run again; a new one stands behind the one before it in the plan. */
function renewed(page: string, fresh: string): string {
  const parts = partsOf(page);
  const titles = [...EXACT, ...PUBLISHED].map((plan) => `### ${plan.title}`);
  for (const [heading, part] of partsOf(fresh)) {
    if (!heading.startsWith("### ")) continue;
    const before = titles
      .slice(0, titles.indexOf(heading))
      .reverse()
      .find((t) => parts.has(t));
    if (!parts.has(heading) && before) parts.set(before, parts.get(before) + part);
    else parts.set(heading, part);
  }
  return [...parts.values()].join("");
}

const text = `${out.join("\n").trimEnd()}\n`;
writeFileSync(PAGE, only.length === 0 ? text : renewed(readFileSync(PAGE, "utf8"), `${text}\n`));
if (short.length) {
  console.error(`Below order ${LEAST_ORDER}: ${short.join("; ")}.`);
  process.exitCode = 1;
}
