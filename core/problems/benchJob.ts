import type { RunResult } from "../assessment/evidence.ts";
import type { FaceMesh } from "../mesh/faceMesh.ts";
import type { CellField, Checkpoint, Simulation, SimulationReport } from "../solver/simulation.ts";
import { benchProblem } from "./catalogue.ts";
import type { BenchProblem, Formulas, RunRecord } from "./problem.ts";
import type { MeshSpec, RunSettings } from "./runSettings.ts";

export interface RecordColumn {
  readonly role: "iteration" | "time" | "residual" | "quantity";
  readonly key: string;
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
  private readonly record: number[][] = [];

  constructor(private readonly settings: RunSettings) {
    this.problem = benchProblem(settings.problemId ?? "");
    this.formulas = settings.formulas ?? {};
    this.mesh = this.problem.mesh(settings.parameters, settings.mesh as MeshSpec);
    this.simulation = this.problem.simulate(settings.parameters, this.mesh, settings.numerics, this.formulas);
    const summarised = this.problem.summarised ?? [];
    this.watched = this.problem.quantities.map((q) => q.key).filter((key) => !summarised.includes(key));
    this.columns = [
      { role: "iteration", key: "iteration" },
      ...(this.transient ? [{ role: "time" as const, key: "time" }] : []),
      ...this.simulation.residualNames.map((key) => ({ role: "residual" as const, key })),
      ...this.watched.map((key) => ({ role: "quantity" as const, key })),
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
    const q = this.problem.evaluate(this.simulation, this.settings.parameters, this.mesh);
    const row = [entry.iteration, ...(this.transient ? [entry.timeS ?? 0] : []), ...entry.residuals, ...this.watched.map((key) => q[key])];
    this.record.push(row);
    return row;
  }

  /** Rows so far, in the order of `columns`. */
  get rows(): readonly (readonly number[])[] {
    return this.record;
  }

  result(): RunResult {
    const p = this.settings.parameters;
    const { problem, simulation, mesh } = this;
    return {
      quantities: finite({ ...problem.evaluate(simulation, p, mesh), ...problem.summarise?.(this.asRecord(), p) }),
      balance: simulation.balance(),
      profiles: problem.profiles(simulation, p, mesh),
      errorNorms: problem.errorNorms(simulation, p, mesh, this.formulas),
    };
  }

  private asRecord(): RunRecord {
    const column = (role: RecordColumn["role"], key: string) => {
      const k = this.columns.findIndex((c) => c.role === role && c.key === key);
      return this.record.map((row) => row[k]);
    };
    return {
      ...(this.transient ? { timeS: column("time", "time") } : {}),
      quantities: Object.fromEntries(this.watched.map((key) => [key, column("quantity", key)])),
    };
  }

  /** Everything a later `restore` needs to go on to the same bits. */
  save(): Checkpoint {
    return { simulation: this.simulation.save(), rows: this.record.length, width: this.columns.length, record: Float64Array.from(this.record.flat()) };
  }

  restore(saved: Checkpoint): void {
    this.simulation.restore(saved.simulation as Checkpoint);
    const width = saved.width as number;
    const flat = saved.record as Float64Array;
    this.record.splice(0);
    for (let k = 0; k < (saved.rows as number); k++) this.record.push(Array.from(flat.subarray(k * width, (k + 1) * width)));
  }

  /** Starts from the result of a run on another mesh. */
  startFrom(mesh: FaceMesh, fields: readonly CellField[]): void {
    this.simulation.startFrom(mesh, fields);
  }
}

/** Quantities that came out as numbers: what a record does not show, such as a frequency of a flow that did not swing, is left out. */
function finite(values: Readonly<Record<string, number>>): Record<string, number> {
  return Object.fromEntries(Object.entries(values).filter(([, v]) => Number.isFinite(v)));
}
