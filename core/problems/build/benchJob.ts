import type { FaceMesh } from "../../mesh/faceMesh.ts";
import { assessBalance, type BalanceLine } from "../../method/balance/balance.ts";
import { earlyWarnings, iterationsLeft, stands } from "../../method/iteration/watch.ts";
import { fluidOfRun } from "../../monitors/fieldNames.ts";
import { type KeyedMonitor, Moment, readMonitor } from "../../monitors/monitor.ts";
import type { BalanceRecord, BoundaryFlux } from "../../records/balance.ts";
import type { LawReading } from "../../records/laws.ts";
import type { RunResult } from "../../records/run.ts";
import { unpackMesh } from "../../solver/meshFile.ts";
import { mirrorLaw } from "../../solver/readings/flowLaws.ts";
import type { CellField, Checkpoint, Simulation, SimulationReport } from "../../solver/simulation.ts";
import type { Formulas } from "../describe/problem.ts";
import type { MeshSpec, RunSettings } from "../describe/runSettings.ts";
import { benchProblem } from "./catalogue.ts";
import type { BenchProblem, RunRecord } from "./problem.ts";

export interface RecordColumn {
  readonly role: "iteration" | "time" | "residual" | "quantity" | "balance";
  readonly key: string;
}

export interface RunStatus {
  readonly warnings: readonly string[];
  readonly iterationsLeft?: number;
  readonly secondsLeft?: number;
  /** share of the time that is done, transient runs */
  readonly share?: number;
  readonly memoryBytes: number;
  /** net of mass, momentum and everything carried against its throughput */
  readonly balance: readonly BalanceLine[];
  /** what leaves through each boundary */
  readonly boundaries: readonly BoundaryFlux[];
}

/** What a run starts from in place of rest. */
export interface StartResult {
  readonly fields: readonly CellField[];
  /** file of the mesh they lie on; where it is absent the mesh is generated anew from the settings */
  readonly mesh?: Uint8Array;
}

/** Fields as they were at a time of a transient run. */
export interface KeptMoment {
  readonly sequence: number;
  readonly timeS: number;
  readonly fields: readonly { readonly name: string; readonly unit: string; readonly values: Float32Array }[];
}

/** One bench run: the solver on its mesh with the quantities of its problem. Pure; runs alike on the server, on a node and in a browser. */
export class BenchJob {
  readonly simulation: Simulation;
  readonly mesh: FaceMesh;
  /** names of what `step` returns */
  readonly columns: readonly RecordColumn[];
  private readonly problem: BenchProblem;
  private readonly formulas: Formulas;
  private readonly watched: readonly string[];
  /** whose net over throughput stands in every row */
  private readonly balanced: readonly string[];
  private readonly record: number[][] = [];
  /** of those to be kept, how many the time has passed */
  private moments = 0;

  private readonly monitors: readonly KeyedMonitor[];

  /** @param start what `settings.startFrom` names, when the run does not begin at rest */
  constructor(
    private readonly settings: RunSettings,
    start?: StartResult,
  ) {
    this.problem = benchProblem(settings.problemId ?? "");
    this.formulas = settings.formulas ?? {};
    this.mesh = this.problem.mesh(settings.parameters, settings.mesh as MeshSpec);
    this.simulation = this.problem.simulate(settings.parameters, this.mesh, settings.numerics, this.formulas);
    const summarised = this.problem.summarised ?? [];
    this.monitors = settings.monitors ?? [];
    this.watched = [...this.problem.quantities.map((q) => q.key).filter((key) => !summarised.includes(key)), ...this.monitors.map((m) => m.key)];
    if (settings.startFrom && start) {
      const { problemId, parameters, mesh } = settings.startFrom;
      this.simulation.startFrom(start.mesh ? unpackMesh(start.mesh) : benchProblem(problemId).mesh(parameters, mesh), start.fields);
    }
    const carried = this.simulation.residualNames.filter((name) => !MECHANICAL.includes(name));
    this.balanced = [...MECHANICAL, ...(carried.length || !this.problem.physicsWords.compressible ? carried : ["energy"])];
    this.columns = [
      { role: "iteration", key: "iteration" },
      ...(this.transient ? [{ role: "time" as const, key: "time" }] : []),
      ...this.simulation.residualNames.map((key) => ({ role: "residual" as const, key })),
      ...this.watched.map((key) => ({ role: "quantity" as const, key })),
      ...this.balanced.map((key) => ({ role: "balance" as const, key })),
    ];
  }

  private get transient(): boolean {
    return "timeS" in this.simulation;
  }

  get underWay(): boolean {
    return this.simulation.state === "running" || this.simulation.state === "climbing";
  }

  /** Starting levels of the residuals: see `Simulation.starts`. */
  get starts(): Record<string, number> {
    return Object.fromEntries(this.simulation.residualNames.map((name, k) => [name, this.simulation.starts[k]]));
  }

  /** One iteration or time step; a row of the record unless it was spent on a coarser mesh. */
  step(): number[] | undefined {
    const entry: SimulationReport | undefined = this.simulation.advance();
    if (!entry) return undefined;
    const moment = this.moment();
    const q = this.evaluate(moment);
    const row = [
      entry.iteration,
      ...(this.transient ? [entry.timeS ?? 0] : []),
      ...entry.residuals,
      ...this.watched.map((key) => q[key]),
      ...this.nets(moment),
    ];
    this.record.push(row);
    return row;
  }

  /**
   * The fields in single precision, once the time has come to the next of the moments that are to be kept (`Numerics.moments`): the first state at or
   * behind it. Numbered from 1; what was passed over in one long step is one moment.
   */
  dueMoment(): KeptMoment | undefined {
    const sequence = this.momentsPassed();
    if (sequence <= this.moments) return undefined;
    this.moments = sequence;
    const fields = this.simulation.fields().map(({ name, unit, values }) => ({ name, unit, values: Float32Array.from(values) }));
    return { sequence, timeS: this.timeS, fields };
  }

  private get timeS(): number {
    return (this.simulation as Simulation & { readonly timeS?: number }).timeS ?? 0;
  }

  private momentsPassed(): number {
    const { moments = 0 } = this.settings.numerics;
    const end = this.settings.parameters.endTimeS;
    // The last step may end a rounding short of the end.
    return this.transient && end > 0 ? Math.min(moments, Math.floor((this.timeS / end) * moments + 1e-9)) : 0;
  }

  private moment(): Moment {
    return new Moment(this.simulation, fluidOfRun(this.settings.parameters));
  }

  private nets(moment: Moment): number[] {
    const { lines } = assessBalance(moment.balance);
    return this.balanced.map((key) => lines.find((l) => l.what === key)?.relative ?? Number.NaN);
  }

  private evaluate(moment: Moment): Record<string, number> {
    const { parameters } = this.settings;
    const own = Object.fromEntries(this.monitors.map(({ key, monitor }) => [key, readMonitor(monitor, moment)]));
    return { ...this.problem.evaluate(this.simulation, parameters, this.mesh), ...own };
  }

  /** Rows so far, in the order of `columns`. */
  get rows(): readonly (readonly number[])[] {
    return this.record;
  }

  /** Why the run should end now although it has not reached its target; see `StopRules`. */
  stopReason(seconds: number): string | undefined {
    const rules = this.settings.numerics.stop;
    if (!rules) return undefined;
    if (rules.longestS !== undefined && seconds > rules.longestS) return `Stopped after ${rules.longestS} s of computing, as asked.`;
    if (rules.onceSteady && !this.transient && stands(this.watchedQuantities(), STEADY_SHARE))
      return "Stopped because every quantity stands still, as asked.";
    return undefined;
  }

  private watchedQuantities() {
    const references = new Map(
      this.problem
        .yardsticks(this.settings.parameters, this.formulas)
        .filter((y) => y.validity.inside)
        .flatMap((y) => y.values.map((v) => [v.quantityKey, v.value] as const)),
    );
    return this.problem.quantities
      .filter((q) => this.watched.includes(q.key))
      .map((q) => ({ name: q.name, limit: q.limit, values: this.column("quantity", q.key), reference: references.get(q.key) }));
  }

  /** What to tell while the run is under way: warnings, time left, memory, how mass closes. */
  status(secondsSoFar: number): RunStatus {
    const sim = this.simulation;
    const starts = this.starts;
    const residuals = Object.fromEntries(sim.residualNames.map((name) => [name, this.column("residual", name).map((r) => r / starts[name])]));
    const dropTarget = this.settings.numerics.dropOrders;
    const transient = this.transient;
    const balance = sim.balance();
    const last = this.record[this.record.length - 1];
    const end = this.settings.parameters.endTimeS;
    const pace = secondsSoFar / Math.max(1, this.record.length);
    const share = transient && last && end > 0 ? Math.min(1, last[1] / end) : undefined;
    const left = transient ? undefined : iterationsLeft(residuals, dropTarget);
    return {
      warnings: earlyWarnings({ residuals, dropTarget, quantities: this.watchedQuantities(), backflow: backflowOf(balance), transient }).map(
        (w) => w.sentence,
      ),
      iterationsLeft: left,
      secondsLeft: share !== undefined && share > 0 ? (secondsSoFar * (1 - share)) / share : left === undefined ? undefined : left * pace,
      share,
      memoryBytes: sim.memoryBytes,
      balance: assessBalance(balance).lines,
      boundaries: balance.boundaries,
    };
  }

  /** Names of the fields `field` can give while the run is under way. */
  get fieldNames(): string[] {
    return ["speed", ...this.simulation.fields().map((f) => f.name)];
  }

  /** One field, by its place in `fieldNames`, in single precision. */
  field(index: number): Float32Array {
    const fields = this.simulation.fields();
    if (index > 0 && index <= fields.length) return Float32Array.from(fields[index - 1].values);
    const [u, v] = [fields[0].values, fields[1].values];
    return Float32Array.from(u, (x, i) => Math.hypot(x, v[i]));
  }

  result(): RunResult {
    const p = this.settings.parameters;
    const { problem, simulation, mesh } = this;
    return {
      quantities: finite({ ...this.evaluate(this.moment()), ...problem.summarise?.(this.asRecord(), p) }),
      balance: simulation.balance(),
      profiles: problem.profiles(simulation, p, mesh),
      errorNorms: problem.errorNorms(simulation, p, mesh, this.formulas),
      laws: [...simulation.laws(), ...this.mirrored()],
      second: problem.second?.(simulation, p, mesh) ?? [],
    };
  }

  /** The answer against its own mirror image, where the set-up and the mesh have one. */
  private mirrored(): LawReading[] {
    const mirror = this.problem.mirror?.(this.settings.parameters);
    const { shape = "rows" } = this.settings.mesh as MeshSpec;
    if (!mirror || shape !== "rows") return [];
    const fields = this.simulation.fields();
    const [u, v] = ["u", "v"].map((name) => fields.find((f) => f.name === name)?.values);
    return u && v ? mirrorLaw(this.mesh, u, v, mirror) : [];
  }

  private column(role: RecordColumn["role"], key: string): number[] {
    const k = this.columns.findIndex((c) => c.role === role && c.key === key);
    return this.record.map((row) => row[k]);
  }

  private asRecord(): RunRecord {
    return {
      ...(this.transient ? { timeS: this.column("time", "time") } : {}),
      quantities: Object.fromEntries(this.watched.map((key) => [key, this.column("quantity", key)])),
    };
  }

  /** Everything a later `restore` needs to go on to the same bits. */
  save(): Checkpoint {
    return {
      simulation: this.simulation.save(),
      rows: this.record.length,
      width: this.columns.length,
      record: Float64Array.from(this.record.flat()),
    };
  }

  restore(saved: Checkpoint): void {
    this.simulation.restore(saved.simulation as Checkpoint);
    const width = saved.width as number;
    const flat = saved.record as Float64Array;
    this.record.splice(0);
    for (let k = 0; k < (saved.rows as number); k++) this.record.push(Array.from(flat.subarray(k * width, (k + 1) * width)));
    this.moments = this.momentsPassed();
  }
}

const MECHANICAL: readonly string[] = ["mass", "x momentum", "y momentum"];
const STEADY_SHARE = 0.1;

/** Share of what passes the outlets that comes back in; only outlets can let both ways. */
function backflowOf(balance: BalanceRecord): number {
  let [out, back] = [0, 0];
  for (const b of balance.boundaries) {
    if (!b.outlet) continue;
    out += Math.max(0, b.mass ?? 0);
    back += b.massBack ?? 0;
  }
  return out + back > 0 ? back / (out + back) : 0;
}

/** Quantities that came out as numbers: what a record does not show, such as a frequency of a flow that did not swing, is left out. */
function finite(values: Readonly<Record<string, number>>): Record<string, number> {
  return Object.fromEntries(Object.entries(values).filter(([, v]) => Number.isFinite(v)));
}
