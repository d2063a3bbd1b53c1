import type { FaceMesh } from "../mesh/faceMesh.ts";
import { samplerOf } from "../solver/readings/sampler.ts";
import type { DerivedField } from "./derived.ts";
import { fieldFormula, type NamedField } from "./fieldFormula.ts";
import { symbolsOf } from "./symbols.ts";

const SLOPES = ["_dx", "_dy"] as const;

/** Names a formula over the fields of a plane run may use: of each its own, and its slopes along x and y. */
export function planeNames(fields: readonly DerivedField[]): string[] {
  const symbols = symbolsOf(fields.map((f) => f.key));
  return [...symbols, ...symbols.flatMap((s) => SLOPES.map((d) => `${s}${d}`))];
}

/**
 * A field made by a formula over the fields of a plane run. `u_dx` is the slope of u along x, by least squares over neighbouring cells; it is worked out
 * where the formula names it: "u_dx + v_dy" is the divergence.
 * @throws {DerivedError} it is no formula, names what is not there, or its units do not go together
 */
export function planeFormula(
  mesh: FaceMesh,
  fields: readonly DerivedField[],
  text: string,
): { readonly values: Float64Array; readonly unit: string } {
  const symbols = symbolsOf(fields.map((f) => f.key));
  const named = fields.flatMap((f, k): NamedField[] => {
    const own = { symbol: symbols[k], unit: f.unit, values: f.values };
    const wanted = SLOPES.some((d) => new RegExp(`\\b${symbols[k]}${d}\\b`).test(text));
    if (!wanted) return [own, ...SLOPES.map((d) => ({ symbol: `${symbols[k]}${d}`, unit: perMetre(f.unit), values: [] }))];
    const slopes = samplerOf(mesh).slopes(f.values);
    return [own, ...SLOPES.map((d, i) => ({ symbol: `${symbols[k]}${d}`, unit: perMetre(f.unit), values: slopes[i] }))];
  });
  return fieldFormula(text, named);
}

const perMetre = (unit: string): string => (unit === "1" || unit === "" ? "1/m" : `(${unit})/m`);
