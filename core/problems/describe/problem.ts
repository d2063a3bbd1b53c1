import type { Grading } from "../../mesh/grading.ts";
import type { CellShape } from "../../mesh/shapes.ts";
import type { QuantitySpec } from "../../records/quantity.ts";
import type { Reference } from "../../records/reference.ts";
import type { Setup } from "../../records/setup.ts";
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

/** Values of the parameters whose specifications are given: a key that none of them has does not compile. */
export type ValuesOf<Specs extends readonly Pick<ParameterSpec, "key">[]> = Readonly<Record<Specs[number]["key"], number>>;

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

/** What a problem is: data and formulas that pages show. How it is meshed and solved is built elsewhere, so that no page loads a solver. */
export interface ProblemDescription<P extends Parameters = Parameters> {
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
  /** the parameter that says how far the domain reaches and nothing else, and the count of cells along it: runs that differ in it ask one question */
  readonly domain?: { readonly parameter: string & keyof P; readonly counts: "nx" | "ny" };
  /** what the two counts of a mesh mean, where they are not columns and rows */
  readonly counts?: { readonly nx: string; readonly ny: string };
  /** cells of a mesh, where they are not columns times rows */
  readonly cellCount?: (p: P, spec: MeshSpec) => number;
  /** cell shapes it can be run on */
  readonly shapes?: readonly CellShape[];
  /** whether grading along x and y can be chosen */
  readonly graded: boolean;
  readonly numerics: Partial<Numerics>;
  readonly reference: (p: P) => { velocityMS: number; lengthM: number; velocityName: string; lengthName: string };
  /** where the flow comes in undeveloped: what it needs to develop in; undefined where it does not */
  readonly entry?: (p: P) => Setup["entry"];
  /** similarity numbers that can be typed in place of a parameter: which one it sets, and its value */
  readonly similarity?: readonly SimilaritySpec<P>[];
}

export interface SimilaritySpec<P extends Parameters = Parameters> {
  readonly key: string;
  readonly label: string;
  readonly preset: number;
  /** parameter it sets */
  readonly sets: string & keyof P;
  /** value of that parameter for a value of the number, all others as they are */
  readonly solve: (value: number, p: P) => number;
  readonly note: string;
}

/** Cells a mesh of a problem has, without making it: rows, two triangles a rectangle, a honeycomb whose odd rows have one more. */
export function cellCount(problem: Pick<ProblemDescription, "cellCount">, p: Parameters, spec: MeshSpec): number {
  if (problem.cellCount) return problem.cellCount(p, spec);
  const rows = spec.nx * spec.ny;
  if (spec.shape === "triangles") return 2 * rows;
  return spec.shape === "hexagons" ? rows + Math.floor(spec.ny / 2) : rows;
}

/** What a problem's figures are held against: exact solutions and published tables. */
export interface ProblemTruth<P extends Parameters = Parameters> {
  readonly yardsticks: (p: P, formulas: Formulas) => Reference[];
}

/** Forgets which keys a problem's parameters have, so that problems of all kinds stand in one list: the keys come from its own specifications. */
export const anyParameters = <P extends Parameters>(d: ProblemDescription<P>): ProblemDescription => d as unknown as ProblemDescription;
