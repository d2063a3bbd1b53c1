import type { FaceMesh } from "../../mesh/faceMesh.ts";
import type { MeshQuality } from "../../mesh/quality.ts";
import type { RectangleMesh } from "../../mesh/rectangle.ts";
import type { SecondReading } from "../../records/laws.ts";
import type { ErrorNorms, Profile } from "../../records/profile.ts";
import type { Mirror } from "../../solver/readings/flowLaws.ts";
import type { Simulation } from "../../solver/simulation.ts";
import type { Formulas, Parameters, ProblemDescription, ProblemTruth } from "../describe/problem.ts";
import type { MeshSpec, Numerics } from "../describe/runSettings.ts";

/** Record of a run: one row an iteration or step, in the order of the problem's watched quantities. */
export interface RunRecord {
  /** s; absent in steady runs */
  readonly timeS?: readonly number[];
  readonly quantities: Readonly<Record<string, readonly number[]>>;
}

/** What a problem is, with the mesh and the solver it uses. */
export interface ProblemDefinition<P extends Parameters, M extends FaceMesh, S extends Simulation> extends ProblemDescription<P>, ProblemTruth<P> {
  readonly mesh: (p: P, spec: MeshSpec) => M;
  /** quality without building the mesh, where that is possible */
  readonly quickQuality?: (p: P, spec: MeshSpec) => MeshQuality;
  readonly simulate: (p: P, mesh: M, numerics: Numerics, formulas: Formulas) => S;
  readonly evaluate: (sim: S, p: P, mesh: M) => Record<string, number>;
  readonly summarise?: (record: RunRecord, p: P) => Record<string, number>;
  readonly profiles: (sim: S, p: P, mesh: M) => Profile[];
  readonly errorNorms: (sim: S, p: P, mesh: M, formulas: Formulas) => ErrorNorms[];
  /** how the set-up maps onto itself, where it does on these parameters and a mesh of rows */
  readonly mirror?: (p: P) => Mirror | undefined;
  /** quantities worked out again in a way that shares nothing with the first */
  readonly second?: (sim: S, p: P, mesh: M) => SecondReading[];
}

/** A benchmark the built-in solver can run; its mesh and simulation are its own. */
export type BenchProblem = ProblemDefinition<Parameters, FaceMesh, Simulation>;

/** Hides the parameters and the kinds of mesh and simulation a problem works with: a problem only ever sees those it made itself. */
export function problem<P extends Parameters, M extends FaceMesh, S extends Simulation>(
  definition: ProblemDefinition<P, M, S>,
): ProblemDefinition<P, M, S> & BenchProblem {
  return definition as unknown as ProblemDefinition<P, M, S> & BenchProblem;
}

/** Cell-centre coordinates along x and y of a rectangle, m. */
export function centres(mesh: RectangleMesh): { x: Float64Array; y: Float64Array; nx: number; ny: number } {
  const mid = (lines: Float64Array) => lines.subarray(1).map((b, i) => (b + lines[i]) / 2);
  return { x: mid(mesh.xLinesM), y: mid(mesh.yLinesM), nx: mesh.xLinesM.length - 1, ny: mesh.yLinesM.length - 1 };
}
