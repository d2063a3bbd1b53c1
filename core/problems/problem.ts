import type { FaceMesh } from "../mesh/faceMesh.ts";
import type { Grading } from "../mesh/grading.ts";
import type { MeshQuality } from "../mesh/quality.ts";
import type { RectangleMesh } from "../mesh/rectangle.ts";
import type { CellShape } from "../mesh/shaped.ts";
import type { SecondReading } from "../records/laws.ts";
import type { ErrorNorms, Profile } from "../records/profile.ts";
import type { QuantitySpec } from "../records/quantity.ts";
import type { Yardstick } from "../records/yardstick.ts";
import type { Mirror } from "../solver/readings/flowLaws.ts";
import type { Simulation } from "../solver/simulation.ts";
import type { MeshSpec, Numerics } from "./runSettings.ts";

/** Numbers a template asks for, in SI. */
export interface ParameterSpec {
  readonly key: string;
  readonly label: string;
  /** SI unit, "" for a pure number */
  readonly unit: string;
  readonly preset: number;
  readonly min: number;
  readonly max: number;
  readonly help: string;
  /** the only values it may have, with their names */
  readonly choices?: readonly { readonly value: number; readonly name: string }[];
}

export type Parameters = Readonly<Record<string, number>>;

export interface FamilySpec {
  readonly baseNx: number;
  readonly baseNy: number;
  readonly ratio: number;
  readonly count: number;
  readonly gradingX: Grading;
  readonly gradingY: Grading;
  readonly shape?: CellShape;
}

/** A mesh of a family with other counts. */
export function familyMesh({ gradingX, gradingY, shape }: FamilySpec, nx: number, ny: number): MeshSpec {
  return { nx, ny, gradingX, gradingY, ...(shape ? { shape } : {}) };
}

/** A text a template asks for: a formula in x, y and t. */
export interface FormulaSpec {
  readonly key: string;
  readonly label: string;
  readonly preset: string;
  readonly help: string;
}

export type Formulas = Readonly<Record<string, string>>;

/** Record of a run: one row an iteration or step, in the order of the problem's watched quantities. */
export interface RunRecord {
  /** s; absent in steady runs */
  readonly timeS?: readonly number[];
  readonly quantities: Readonly<Record<string, readonly number[]>>;
}

/** What a problem is, with the mesh and the solver it uses. */
export interface ProblemDefinition<M extends FaceMesh, S extends Simulation> {
  readonly id: string;
  readonly title: string;
  readonly kind: "exact" | "published";
  /** what the problem tests */
  readonly tests: string;
  /** what order must come out, in words */
  readonly order: string;
  readonly formalOrder: number;
  readonly physicsWords: {
    readonly time: "steady" | "transient";
    readonly model: "laminar" | "inviscid";
    readonly space: "plane" | "axisymmetric";
    readonly compressible: boolean;
  };
  readonly parameters: readonly ParameterSpec[];
  /** its fluid is made up: no name of a real one goes with its presets */
  readonly madeUpFluid?: boolean;
  readonly formulas?: readonly FormulaSpec[];
  /** quantities watched in every iteration or step; those of `summarise` follow from the whole record */
  readonly quantities: readonly QuantitySpec[];
  readonly summarised?: readonly string[];
  readonly family: FamilySpec;
  /** what the two counts of a mesh mean, where they are not columns and rows */
  readonly counts?: { readonly nx: string; readonly ny: string };
  /** cells of a mesh, where they are not columns times rows */
  readonly cellCount?: (p: Parameters, spec: MeshSpec) => number;
  /** cell shapes it can be run on */
  readonly shapes?: readonly CellShape[];
  /** whether grading along x and y can be chosen */
  readonly graded: boolean;
  readonly numerics: Partial<Numerics>;
  readonly reference: (p: Parameters) => { velocityMS: number; lengthM: number; velocityName: string; lengthName: string };
  /** similarity numbers that can be typed in place of a parameter: which one it sets, and its value */
  readonly similarity?: readonly SimilaritySpec[];
  readonly mesh: (p: Parameters, spec: MeshSpec) => M;
  /** quality without building the mesh, where that is possible */
  readonly quickQuality?: (p: Parameters, spec: MeshSpec) => MeshQuality;
  readonly simulate: (p: Parameters, mesh: M, numerics: Numerics, formulas: Formulas) => S;
  readonly evaluate: (sim: S, p: Parameters, mesh: M) => Record<string, number>;
  readonly summarise?: (record: RunRecord, p: Parameters) => Record<string, number>;
  readonly profiles: (sim: S, p: Parameters, mesh: M) => Profile[];
  readonly errorNorms: (sim: S, p: Parameters, mesh: M, formulas: Formulas) => ErrorNorms[];
  readonly yardsticks: (p: Parameters, formulas: Formulas) => Yardstick[];
  /** how the set-up maps onto itself, where it does on these parameters and a mesh of rows */
  readonly mirror?: (p: Parameters) => Mirror | undefined;
  /** quantities worked out again in a way that shares nothing with the first */
  readonly second?: (sim: S, p: Parameters, mesh: M) => SecondReading[];
}

export interface SimilaritySpec {
  readonly key: string;
  readonly label: string;
  readonly preset: number;
  /** parameter it sets */
  readonly sets: string;
  /** value of that parameter for a value of the number, all others as they are */
  readonly solve: (value: number, p: Parameters) => number;
  readonly note: string;
}

/** A benchmark the built-in solver can run; its mesh and simulation are its own. */
export type BenchProblem = ProblemDefinition<FaceMesh, Simulation>;

/** Hides the kinds of mesh and simulation a problem works with: a problem only ever sees those it made itself. */
export function problem<M extends FaceMesh, S extends Simulation>(definition: ProblemDefinition<M, S>): ProblemDefinition<M, S> & BenchProblem {
  return definition as ProblemDefinition<M, S> & BenchProblem;
}

/** Cell-centre coordinates along x and y of a rectangle, m. */
export function centres(mesh: RectangleMesh): { x: Float64Array; y: Float64Array; nx: number; ny: number } {
  const mid = (lines: Float64Array) => lines.subarray(1).map((b, i) => (b + lines[i]) / 2);
  return { x: mid(mesh.xLinesM), y: mid(mesh.yLinesM), nx: mesh.xLinesM.length - 1, ny: mesh.yLinesM.length - 1 };
}

/** Cells a mesh of a problem has, without making it: rows, two triangles a rectangle, a honeycomb whose odd rows have one more. */
export function cellCount(problem: BenchProblem, p: Parameters, spec: MeshSpec): number {
  if (problem.cellCount) return problem.cellCount(p, spec);
  const rows = spec.nx * spec.ny;
  if (spec.shape === "triangles") return 2 * rows;
  return spec.shape === "hexagons" ? rows + Math.floor(spec.ny / 2) : rows;
}
