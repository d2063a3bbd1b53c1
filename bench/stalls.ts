/**
 * Looks for set-ups that do not settle: twenty seeded choices of parameters, mesh and grading of every template, each run to its end; in time the
 * first steps. Writes docs/settling.md.
 * npm run bench-stalls                all templates
 * npm run bench-stalls -- chamber     of this one, on the screen alone, as a line of JSON each
 */
import { spawn } from "node:child_process";
import { writeFileSync } from "node:fs";
import { randomFrom } from "../core/numeric/random.ts";
import { BenchJob } from "../core/problems/build/benchJob.ts";
import { BENCH_PROBLEMS, benchProblem } from "../core/problems/build/catalogue.ts";
import type { BenchProblem } from "../core/problems/build/problem.ts";
import { DEFAULT_NUMERICS } from "../core/problems/describe/caseSetup.ts";
import { presetFormulas } from "../core/problems/describe/catalogue.ts";
import type { ParameterSpec } from "../core/problems/describe/problem.ts";
import type { MeshSpec } from "../core/problems/describe/runSettings.ts";
import { out, say } from "./say.ts";

const CHOICES = 20;
const SEED = 20260404;
/** steps of a run in time, of which each must come down to its own target */
const STEPS = 30;
/** seconds of computing after which a run is given up as stalled */
const LONGEST_S = 120;

interface Outcome {
  readonly choice: string;
  readonly end: "settled" | "refused" | "named" | "stalled";
  readonly iterations: number;
  readonly words: string;
}

/** A parameter within a factor of two of its preset, or any of its choices; what is preset to nothing, up to the size of another in its unit. */
function chosen(s: ParameterSpec, all: readonly ParameterSpec[], random: () => number): number {
  if (s.choices) return s.choices[Math.floor(random() * s.choices.length)].value;
  const alike = Math.max(0, ...all.filter((o) => o.unit === s.unit).map((o) => Math.abs(o.preset)));
  const drawn = s.preset === 0 ? alike * (2 * random() - 1) : s.preset * 2 ** (2 * random() - 1);
  return Math.min(s.max, Math.max(s.min, Number(drawn.toPrecision(4))));
}

function meshOf({ family, graded, shapes }: BenchProblem, random: () => number): MeshSpec {
  const count = (base: number) => Math.max(4, Math.round(base * (0.6 + 1.4 * random())));
  const grading = (own: MeshSpec["gradingX"]) =>
    !graded || random() < 0.5 ? own : random() < 0.5 ? ({ kind: "uniform" } as const) : ({ kind: "both-ends", strength: 1 + random() } as const);
  return {
    nx: count(family.baseNx),
    ny: count(family.baseNy),
    gradingX: grading(family.gradingX),
    gradingY: grading(family.gradingY),
    ...(shapes ? { shape: shapes[Math.floor(random() * shapes.length)] } : {}),
  };
}

function attempt(p: BenchProblem, random: () => number): Outcome {
  const parameters = Object.fromEntries(p.parameters.map((s) => [s.key, chosen(s, p.parameters, random)]));
  const mesh = meshOf(p, random);
  const choice = `${mesh.nx} × ${mesh.ny}${mesh.shape ? ` ${mesh.shape}` : ""}, ${mesh.gradingX.kind}/${mesh.gradingY.kind}; ${Object.entries(
    parameters,
  )
    .map(([k, v]) => `${k} ${v}`)
    .join(", ")}`;
  try {
    const numerics = { ...DEFAULT_NUMERICS, ...p.numerics };
    const job = new BenchJob({ problemId: p.id, parameters, formulas: presetFormulas(p), numerics, mesh, code: "bench" });
    const begun = performance.now();
    const inTime = job.columns.some((c) => c.role === "time");
    while (job.underWay && (!inTime || job.simulation.iterations < STEPS) && performance.now() - begun < 1000 * LONGEST_S) job.step();
    const settling = job.underWay;
    if (settling) job.simulation.finish();
    const { state, reason, iterations } = job.simulation;
    const done = state === "reached-target" || (inTime && settling);
    const named = reason ?? "";
    return { choice, iterations, end: done ? "settled" : named ? "named" : "stalled", words: named || (done ? "" : state) };
  } catch (error) {
    return { choice, iterations: 0, end: "refused", words: (error as Error).message };
  }
}

function one(id: string): void {
  const random = randomFrom(SEED);
  for (let k = 0; k < CHOICES; k++) process.stdout.write(`${JSON.stringify(attempt(benchProblem(id), random))}\n`);
}

/** A template in a process of its own, so that two go on side by side. */
function apart(id: string): Promise<Outcome[]> {
  return new Promise((resolve, reject) => {
    const child = spawn(process.execPath, ["--import", "tsx", import.meta.filename, id], { stdio: ["ignore", "pipe", "inherit"] });
    let text = "";
    child.stdout.on("data", (d) => {
      text += d;
    });
    child.on("exit", (code) =>
      code === 0
        ? resolve(
            text
              .trim()
              .split("\n")
              .map((line) => JSON.parse(line) as Outcome),
          )
        : reject(new Error(`${id} ended with ${code}`)),
    );
  });
}

async function all(): Promise<void> {
  const found = new Map<string, Outcome[]>();
  const left = BENCH_PROBLEMS.map((p) => p.id);
  const lane = async () => {
    for (let id = left.shift(); id; id = left.shift()) {
      found.set(id, await apart(id));
      console.error(`${id}: ${found.get(id)?.filter((o) => o.end === "settled").length} of ${CHOICES} settled`);
    }
  };
  await Promise.all([lane(), lane()]);
  say("# Does every template settle?");
  say();
  say(
    `Written by \`npm run bench-stalls\`: ${CHOICES} seeded choices of every template, parameters within a factor of two of the preset (choices any), meshes of 0.6 to 2 times the preset's counts, gradings and cell shapes the template offers. Steady runs go to their target or ${LONGEST_S} s, runs in time ${STEPS} steps.`,
  );
  say();
  say("| template | settled | most iterations | refused before they began | ended with a reason | stalled without one |");
  say("| --- | --- | --- | --- | --- | --- |");
  for (const { id, title } of BENCH_PROBLEMS) {
    const list = found.get(id) ?? [];
    const count = (end: Outcome["end"]) => list.filter((o) => o.end === end).length;
    say(
      `| ${title} | ${count("settled")} | ${Math.max(0, ...list.filter((o) => o.end === "settled").map((o) => o.iterations))} | ${count("refused")} | ${count("named")} | ${count("stalled")} |`,
    );
  }
  const others = BENCH_PROBLEMS.flatMap(({ id, title }) =>
    (found.get(id) ?? []).filter((o) => o.end !== "settled").map((o) => `- ${title}, ${o.choice}: ${o.words} (${o.iterations} iterations)`),
  );
  if (others.length) {
    say();
    say("## What did not settle");
    say();
    for (const line of others) say(line);
  }
  writeFileSync("docs/settling.md", `${out.join("\n")}\n`);
}

if (process.argv[2]) one(process.argv[2]);
else await all();
