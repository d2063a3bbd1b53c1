import { execFileSync } from "node:child_process";
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import path from "node:path";
import { BenchJob } from "../core/problems/build/benchJob.ts";
import { benchProblem } from "../core/problems/build/catalogue.ts";
import { DEFAULT_NUMERICS } from "../core/problems/describe/caseSetup.ts";
import { presetFormulas, presetParameters } from "../core/problems/describe/catalogue.ts";
import { familyMesh } from "../core/problems/describe/problem.ts";
import type { Simulation } from "../core/solver/simulation.ts";
import { cpuSeconds } from "./cpu.ts";
import { programInC } from "./inC.ts";
import { MODULES, type Recording, recorded, replayed } from "./recorder.ts";
import { say } from "./say.ts";

/** Whole iterations of the solvers against the same work in C: the loops' own sources, translated line by line (bench/inC.ts) and compiled by gcc. */
interface Subject {
  readonly title: string;
  readonly id: string;
  readonly nx: number;
  readonly ny: number;
  /** iterations or steps before the one that is measured */
  readonly before: number;
}

const SUBJECTS: readonly Subject[] = [
  { title: "lidded box, one cycle", id: "lidded-box", nx: 256, ny: 256, before: 6 },
  { title: "chamber, one cycle", id: "chamber", nx: 256, ny: 256, before: 6 },
  { title: "shedding post, one time step", id: "post-shedding", nx: 384, ny: 120, before: 6 },
  { title: "ramp, one implicit step", id: "ramp", nx: 240, ny: 160, before: 12 },
];
/** for single loops: arrays well beyond the processor's cache */
const LARGE: Subject = { title: "lidded box, 640 × 640", id: "lidded-box", nx: 640, ny: 640, before: 3 };

const ROUNDS = 3;
const REPEATS = 4;
const AIM = 1.3;
const KERNEL_AIM = 1.2;
/** a loop is listed where it takes this share of the whole */
const LISTED = 0.01;
/** what a C that may fuse a multiplication and an addition into one rounding is compiled with, and what gives the same bits */
const FLAGS = { native: ["-O3", "-march=native"], sameBits: ["-O3", "-march=native", "-ffp-contract=off"] } as const;

function started({ id, nx, ny, before }: Subject): Simulation {
  const p = benchProblem(id);
  const { simulation } = new BenchJob({
    problemId: id,
    parameters: presetParameters(p),
    formulas: presetFormulas(p),
    numerics: { ...DEFAULT_NUMERICS, ...p.numerics, maxIterations: 10_000, dropOrders: 14 },
    mesh: familyMesh(p.family, nx, ny),
    code: "bench",
  });
  while (simulation.state === "climbing") simulation.advance();
  for (let k = 0; k < before; k++) simulation.advance();
  return simulation;
}

interface InC {
  readonly whole: number;
  readonly of: ReadonlyMap<string, number>;
}

/** The calls of a recording in C; undefined where there is no gcc. */
class Replay {
  private readonly folder = mkdtempSync(path.join(tmpdir(), "tin-ruler-cycles-"));
  private readonly names: readonly string[];

  constructor(recording: Recording) {
    const { source, number } = programInC(MODULES);
    this.names = [...new Set(recording.calls.map((c) => c.name))];
    this.kinds = new Map(this.names.map((name) => [name, number(name)]));
    writeFileSync(this.at("source.c"), source);
    writeFileSync(this.at("image"), recording.image);
    const numbers = recording.calls.flatMap(({ name, given }) => [this.kinds.get(name) as number, given.length, ...given]);
    writeFileSync(this.at("calls"), new Uint8Array(Float64Array.from(numbers).buffer));
    for (const [name, flags] of Object.entries(FLAGS)) {
      execFileSync("gcc", [
        ...flags,
        "-w",
        "-static",
        `-DSIZE=${recording.image.length}`,
        "-mcmodel=medium",
        "-o",
        this.at(name),
        this.at("source.c"),
        "-lm",
      ]);
    }
  }

  private readonly kinds: ReadonlyMap<string, number>;

  private at(name: string): string {
    return path.join(this.folder, name);
  }

  run(program: keyof typeof FLAGS, rounds = 2, result = "-"): InC {
    const given = [this.at("image"), this.at("calls"), String(rounds), result === "-" ? result : this.at(result)];
    const [whole, ...each] = execFileSync(this.at(program), given, { encoding: "utf8" }).trim().split(" ").map(Number);
    return { whole, of: new Map(this.names.map((name) => [name, each[this.kinds.get(name) as number]])) };
  }

  result(): Uint8Array {
    this.run("sameBits", 1, "result");
    return readFileSync(this.at("result"));
  }

  remove(): void {
    rmSync(this.folder, { recursive: true, force: true });
  }
}

const least = (a: number | undefined, b: number) => Math.min(a ?? Number.POSITIVE_INFINITY, b);

/** ms of a loop */
interface LoopTimes {
  readonly here: number;
  readonly c: number;
  readonly notFused: number;
}

interface Measured {
  readonly subject: Subject;
  readonly cells: number;
  readonly calls: number;
  readonly here: number;
  readonly native: number;
  readonly sameBits: number;
  readonly equal: boolean;
  readonly loops: ReadonlyMap<string, LoopTimes>;
}

/** Least CPU ms of an iteration of the solver as the product runs it, the same one again and again. */
export function cycleHere(given: string): void {
  const simulation = started(JSON.parse(given) as Subject);
  const state = simulation.save();
  let ms: number | undefined;
  for (let k = 0; k < REPEATS; k++) {
    simulation.restore(state);
    ms = least(ms, 1000 * cpuSeconds(() => simulation.advance()));
  }
  console.log(ms);
}

/** In a process of its own: what records the calls must not be in the way of what is measured. */
const inOwnProcess = (subject: Subject): number =>
  Number(
    execFileSync(process.execPath, ["--import", "tsx", "bench/run.ts", "cycle-here", JSON.stringify(subject)], { encoding: "utf8" })
      .trim()
      .split("\n")
      .pop(),
  );

/** The product's own iteration, whole, and the same calls in C, by turns, so that what else the machine does weighs on both. */
function measured(subject: Subject, rounds = ROUNDS): Measured {
  const recording = recorded(
    () => started(subject),
    (s) => void s.advance(),
  );
  const replay = new Replay(recording);
  try {
    replayed(recording);
    const equal = Buffer.compare(Buffer.from(replay.result()), Buffer.from(recording.memory)) === 0;
    let [here, native, sameBits] = [undefined, undefined, undefined] as (number | undefined)[];
    const loops = new Map<string, LoopTimes>();
    for (let round = 0; round < rounds; round++) {
      here = least(here, inOwnProcess(subject));
      const c = replay.run("native");
      native = least(native, c.whole);
      const notFused = replay.run("sameBits");
      sameBits = least(sameBits, notFused.whole);
      for (const [name, ms] of replayed(recording)) {
        const kept = loops.get(name);
        const of = (found: InC) => found.of.get(name) ?? Number.NaN;
        loops.set(name, { here: least(kept?.here, ms), c: least(kept?.c, of(c)), notFused: least(kept?.notFused, of(notFused)) });
      }
    }
    const [h, n, b] = [here, native, sameBits] as [number, number, number];
    return { subject, cells: subject.nx * subject.ny, calls: recording.calls.length, here: h, native: n, sameBits: b, equal, loops };
  } finally {
    replay.remove();
  }
}

function hasCompiler(): boolean {
  try {
    execFileSync("gcc", ["--version"], { stdio: "ignore" });
    return true;
  } catch {
    return false;
  }
}

/** Copying bandwidth on arrays no cache holds, bytes a second. */
function copyBandwidth(): number {
  const [from, to] = [new Float64Array(2 ** 25).fill(1), new Float64Array(2 ** 25)];
  let best = Number.POSITIVE_INFINITY;
  for (let k = 0; k < 6; k++)
    best = least(
      best,
      cpuSeconds(() => to.set(from)),
    );
  return (2 * from.byteLength) / best;
}

/** Writes the parts of docs/benchmarks.md on whole iterations and on single loops. */
export function cycles(): void {
  say("");
  say("## Whole iterations against C");
  say("");
  say(`Written by \`npm run bench cycles\` on ${new Date().toISOString().slice(0, 10)}, on the same machine.`);
  say("");
  if (!hasCompiler()) {
    say("There is no gcc here: nothing was compared.");
    return;
  }
  say(
    "Here: an iteration of the solver as the product runs it, all of it. C: every call of a compiled loop, fill and copy that it makes, carried out on the same memory by the same loops translated to C, `gcc -O3 -march=native`; what the product does beside them, such as loops along boundaries, C is spared. Least CPU ms of a dozen, by turns. C rounds a product and a sum at once where the processor can (fused); the compiled form has no such instruction, so that the second ratio is with that switched off, where the memory afterwards is the same to the last bit.",
  );
  say("");
  say("| | cells | calls | here | C | ratio | C, not fused | ratio | same bits |");
  say("|---|---|---|---|---|---|---|---|---|");
  const ratios = SUBJECTS.map((subject) => {
    const m = measured(subject);
    const ratio = m.here / m.native;
    say(
      `| ${subject.title} | ${subject.nx} × ${subject.ny} | ${m.calls} | ${m.here.toFixed(1)} | ${m.native.toFixed(1)} | ${ratio.toFixed(2)} | ${m.sameBits.toFixed(1)} | ${(m.here / m.sameBits).toFixed(2)} | ${m.equal ? "yes" : "no"} |`,
    );
    return ratio;
  });
  say("");
  say(`Worst: ${Math.max(...ratios).toFixed(2)} (aim: at most ${AIM}).`);
  loopsOf(measured(LARGE, 3), copyBandwidth());
}

function loopsOf({ loops, cells, subject }: Measured, bandwidth: number): void {
  say("");
  say(`## Single loops against C, in one cycle of the ${subject.title}`);
  say("");
  say(`Copying moves ${(bandwidth / 1e9).toFixed(1)} GB/s here (256 MB, read and written): no loop that must move its bytes can be faster.`);
  say("");
  say("| loop | ms here | ms in C | ratio | C, not fused | ratio |");
  say("|---|---|---|---|---|---|");
  const all = [...loops].filter(([name]) => name.includes("_"));
  const total = all.reduce((sum, [, t]) => sum + t.here, 0);
  const listed = all.filter(([, t]) => t.here > LISTED * total).sort((a, b) => b[1].here - a[1].here);
  for (const [name, t] of listed) {
    const against = [t.c, t.notFused].flatMap((ms) => [ms.toFixed(1), (t.here / ms).toFixed(2)]);
    say(`| ${[name.replace("_", ": "), t.here.toFixed(1), ...against].join(" | ")} |`);
  }
  const summary = (what: "c" | "notFused") => {
    const ratio = (l: (typeof all)[number]) => l[1].here / l[1][what];
    const worst = listed.reduce((w, l) => (ratio(l) > ratio(w) ? l : w));
    return `${(total / all.reduce((sum, [, t]) => sum + t[what], 0)).toFixed(2)}, worst ${worst[0].replace("_", ": ")} with ${ratio(worst).toFixed(2)}`;
  };
  say("");
  say(`Together ${summary("c")}; not fused together ${summary("notFused")} (aim: at most ${KERNEL_AIM}). On ${cells} cells no array fits the cache.`);
}
