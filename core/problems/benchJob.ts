import type { RunResult } from "../assessment/evidence.ts";
import { flowBalance } from "../balance/balance.ts";
import { rectangleMesh } from "../mesh/rectangle.ts";
import { DEFAULT_STEADY_OPTIONS, type IterationReport, SteadyFlow } from "../solver/steadyFlow.ts";
import { benchProblem } from "./catalogue.ts";
import type { BenchProblem } from "./problem.ts";
import type { MeshSpec, RunSettings } from "./runSettings.ts";

/** One bench run: the solver on its mesh with the quantities of its problem. Pure; runs alike on the server and in a browser. */
export class BenchJob {
  readonly flow: SteadyFlow;
  private readonly problem: BenchProblem;

  constructor(private readonly settings: RunSettings) {
    this.problem = benchProblem(settings.problemId ?? "");
    const mesh = rectangleMesh(this.problem.rectangle(settings.parameters, settings.mesh as MeshSpec));
    this.flow = new SteadyFlow(mesh, this.problem.physics(settings.parameters), { ...DEFAULT_STEADY_OPTIONS, ...settings.numerics });
  }

  get underWay(): boolean {
    return this.flow.state === "running" || this.flow.state === "climbing";
  }

  /** Names of what `step` returns. */
  get columns(): { role: "iteration" | "residual" | "quantity"; key: string }[] {
    return [
      { role: "iteration", key: "iteration" },
      ...["x momentum", "y momentum", "mass"].map((key) => ({ role: "residual" as const, key })),
      ...this.problem.quantities.map((q) => ({ role: "quantity" as const, key: q.key })),
    ];
  }

  /** Starting levels of the residuals: their largest over three iterations from rest; momentum components share one. */
  get starts(): Record<string, number> {
    const { xMomentum, yMomentum, mass } = this.flow.restLevel;
    const momentum = Math.max(xMomentum, yMomentum);
    return { "x momentum": momentum, "y momentum": momentum, mass };
  }

  /** One iteration; a row of the record when it was one of the finest mesh. */
  step(): number[] | undefined {
    const entry: IterationReport | undefined = this.flow.advance();
    if (!entry) return undefined;
    const q = this.problem.evaluate(this.flow, this.settings.parameters);
    return [entry.iteration, entry.xMomentum, entry.yMomentum, entry.mass, ...this.problem.quantities.map((s) => q[s.key])];
  }

  result(): RunResult {
    const p = this.settings.parameters;
    return {
      quantities: this.problem.evaluate(this.flow, p),
      balance: flowBalance(this.flow, p.densityKgM3, this.problem.physics(p).bodyForce),
      profiles: this.problem.profiles(this.flow, p),
      errorNorms: this.problem.errorNorms(this.flow, p),
    };
  }

  /** Speed of every cell, m/s. */
  speed(): Float32Array {
    const { u, v } = this.flow.finest;
    return Float32Array.from(u, (x, i) => Math.hypot(x, v[i]));
  }
}
