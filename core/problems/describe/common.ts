import type { Grading } from "../../mesh/grading.ts";
import type { ParameterSpec } from "./problem.ts";

export const UNIFORM: Grading = { kind: "uniform" };

/** Air at 4 degrees C, of which the cold store is full. */
export const AIR = { density: 1.274, viscosity: 1.74e-5, prandtl: 0.71, gasConstant: 287.05, gamma: 1.4 } as const;

export const FLUID = [
  { key: "densityKgM3", label: "Density", unit: "kg/m^3", preset: AIR.density, min: 1e-3, max: 2e4, help: "Of the fluid, constant." },
  { key: "viscosityPaS", label: "Dynamic viscosity", unit: "Pa s", preset: AIR.viscosity, min: 1e-8, max: 1e4, help: "Of the fluid, constant." },
] as const satisfies readonly ParameterSpec[];

export const GAS = [
  { key: "gamma", label: "Ratio of specific heats", unit: "", preset: AIR.gamma, min: 1.01, max: 2.9, help: "Of the perfect gas." },
  { key: "gasConstant", label: "Gas constant", unit: "J/(kg K)", preset: AIR.gasConstant, min: 1, max: 1e4, help: "Of the perfect gas." },
] as const satisfies readonly ParameterSpec[];

/** A perfect gas without friction and conduction. */
export const inviscidGas = (p: { readonly gamma: number; readonly gasConstant: number }) => ({
  gamma: p.gamma,
  gasConstant: p.gasConstant,
  viscosityPaS: 0,
  prandtl: 0.71,
});

/** A value known exactly. */
export const exact = (quantityKey: string, value: number) => ({ quantityKey, value, standardUncertainty: 0, uncertaintyNote: "exact" });

/** Steady laminar flow of constant density. */
export const STEADY_PLANE = { time: "steady", model: "laminar", space: "plane", compressible: false } as const;

/** Points of a straight line, ends included: [x0, y0, ...]. */
export function line(from: readonly [number, number], to: readonly [number, number], count: number): Float64Array {
  const out = new Float64Array(2 * count);
  for (let k = 0; k < count; k++) {
    const t = k / (count - 1);
    out[2 * k] = from[0] + t * (to[0] - from[0]);
    out[2 * k + 1] = from[1] + t * (to[1] - from[1]);
  }
  return out;
}

/** Where values along increasing positions first change sign from negative to positive after `from`, by a straight line. */
export function crossing(at: ArrayLike<number>, values: ArrayLike<number>, from = Number.NEGATIVE_INFINITY): number {
  for (let k = 0; k + 1 < at.length; k++) {
    if (at[k + 1] <= from || !(values[k] < 0 && values[k + 1] >= 0)) continue;
    return at[k] - (values[k] * (at[k + 1] - at[k])) / (values[k + 1] - values[k]);
  }
  return Number.NaN;
}

/** tables of a number this near to the case's own are all shown */
const NEAR = 0.2;

/** Published tables near a number; where none is, the nearest stays and says that it is used outside its range. */
export function nearest<T>(tables: readonly T[], numberOf: (t: T) => number, value: number): T[] {
  const near = tables.filter((t) => Math.abs(value / numberOf(t) - 1) < NEAR);
  if (near.length || !tables.length) return near;
  const away = (t: T) => Math.abs(Math.log(value / numberOf(t)));
  const least = Math.min(...tables.map(away));
  return Number.isFinite(least) ? tables.filter((t) => away(t) === least) : [];
}
