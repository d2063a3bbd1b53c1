import type { Grading } from "../mesh/grading.ts";
import type { RectangleMesh, RectangleSpec } from "../mesh/rectangle.ts";
import type { Yardstick } from "../reference/yardstick.ts";
import type { FlowPhysics } from "../solver/flowLevel.ts";
import type { SteadyFlow } from "../solver/steadyFlow.ts";

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

/** A quantity a template delivers. */
export interface QuantitySpec {
  readonly key: string;
  readonly name: string;
  readonly symbol: string;
  readonly unit: string;
  /** largest error accepted by preset, a fraction of the quantity's scale */
  readonly limit: number;
  /** differences of fields at walls converge last */
  readonly derivative?: boolean;
}

/** Values along a line: abscissa and value, both in the units named. */
export interface Profile {
  readonly key: string;
  readonly name: string;
  readonly abscissa: { readonly name: string; readonly unit: string; readonly values: readonly number[] };
  readonly value: { readonly name: string; readonly unit: string; readonly values: readonly number[] };
}

/** Error of a field against an exact one, cell-centre values, volume weighted. */
export interface ErrorNorms {
  readonly field: string;
  readonly unit: string;
  readonly l1: number;
  readonly l2: number;
  readonly linf: number;
  /** largest exact value: what the norms are small against */
  readonly scale: number;
  readonly worstAtM: readonly [number, number];
}

export interface FamilySpec {
  readonly baseNx: number;
  readonly baseNy: number;
  readonly ratio: number;
  readonly count: number;
  readonly gradingX: Grading;
  readonly gradingY: Grading;
}

/** A benchmark the built-in solver can run. */
export interface BenchProblem {
  readonly id: string;
  readonly title: string;
  readonly kind: "exact" | "published";
  readonly tests: string;
  readonly parameters: readonly ParameterSpec[];
  readonly quantities: readonly QuantitySpec[];
  readonly family: FamilySpec;
  readonly formalOrder: 2;
  readonly reference: (p: Parameters) => { velocityMS: number; lengthM: number; velocityName: string; lengthName: string };
  readonly rectangle: (p: Parameters, mesh: { nx: number; ny: number; gradingX: Grading; gradingY: Grading }) => RectangleSpec;
  readonly physics: (p: Parameters) => FlowPhysics;
  readonly evaluate: (flow: SteadyFlow, p: Parameters) => Record<string, number>;
  readonly profiles: (flow: SteadyFlow, p: Parameters) => Profile[];
  readonly errorNorms: (flow: SteadyFlow, p: Parameters) => ErrorNorms[];
  readonly yardsticks: (p: Parameters) => Yardstick[];
}

/** Cell-centre coordinates along x and y of a rectangle, m. */
export function centres(mesh: RectangleMesh): { x: Float64Array; y: Float64Array; nx: number; ny: number } {
  const mid = (lines: Float64Array) => lines.subarray(1).map((b, i) => (b + lines[i]) / 2);
  return { x: mid(mesh.xLinesM), y: mid(mesh.yLinesM), nx: mesh.xLinesM.length - 1, ny: mesh.yLinesM.length - 1 };
}
