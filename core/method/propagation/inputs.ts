import type { InputUncertainty, SweptPoint } from "../../records/inputs.ts";
import type { DerivedSet } from "./derived.ts";

export interface Sensitivity {
  /** relative change of the quantity over relative change of the input */
  readonly value: number;
  readonly by: "typed" | "formula" | "sweep";
}

/** What sensitivities can be worked out from besides what was typed. */
export interface SensitivityMeans {
  readonly values: Readonly<Record<string, number>>;
  readonly derived?: { readonly set: DerivedSet; readonly keys: readonly string[]; readonly constants: Readonly<Record<string, number>> };
  readonly swept: readonly SweptPoint[];
}

/** How a quantity answers to an input: as typed, else by its formula, else by the runs of a sweep about the present value; undefined when nothing tells. */
export function sensitivityOf(input: InputUncertainty, quantityKey: string, means: SensitivityMeans): Sensitivity | undefined {
  const typed = input.sensitivities[quantityKey];
  if (typed !== undefined) return { value: typed, by: "typed" };
  return byFormula(input, quantityKey, means) ?? bySweep(input, quantityKey, means.swept);
}

/** A derived quantity answers through its formula and through the quantities it is made of, all of which have to be known. */
function byFormula(input: InputUncertainty, quantityKey: string, means: SensitivityMeans): Sensitivity | undefined {
  const { derived, values } = means;
  if (!derived?.keys.includes(quantityKey)) return undefined;
  const found = derived.set.values({ ...derived.constants, ...values })[quantityKey];
  if (!found || !(Math.abs(found.value) > 0)) return undefined;
  let sum = 0;
  for (const [name, slope] of Object.entries(found.sensitivities)) {
    if (slope === 0 || (name !== input.key && name in derived.constants)) continue;
    const part = name === input.key ? 1 : sensitivityOf(input, name, means)?.value;
    if (part === undefined) return undefined;
    const base = name === input.key ? input.value : values[name];
    sum += ((slope * base) / found.value) * part;
  }
  return { value: sum, by: "formula" };
}

const FEWEST = 2;

/** Slope of the logarithms by least squares over runs that differ in this input alone. */
function bySweep(input: InputUncertainty, quantityKey: string, swept: readonly SweptPoint[]): Sensitivity | undefined {
  const points = swept.flatMap((s) => {
    const [x, y] = [s.parameters[input.key], s.quantities[quantityKey]];
    return x > 0 && Math.abs(y) > 0 ? [{ x: Math.log(x), y: Math.log(Math.abs(y)), rest: JSON.stringify({ ...s.parameters, [input.key]: 0 }) }] : [];
  });
  const alike = points.filter((p) => p.rest === points[0].rest);
  if (new Set(alike.map((p) => p.x)).size < FEWEST) return undefined;
  const [mx, my] = [alike.reduce((s, p) => s + p.x, 0) / alike.length, alike.reduce((s, p) => s + p.y, 0) / alike.length];
  const slope = alike.reduce((s, p) => s + (p.x - mx) * (p.y - my), 0) / alike.reduce((s, p) => s + (p.x - mx) ** 2, 0);
  return { value: slope, by: "sweep" };
}

export interface InputShare {
  readonly key: string;
  readonly label: string;
  readonly sensitivity?: Sensitivity;
  /** 95 %, fraction of the quantity */
  readonly relative?: number;
}

/** What the uncertainties of the inputs make of a quantity, first order, as fractions of it: root of the squares, undefined while one answer is not known. */
export function inputUncertainty(
  inputs: readonly InputUncertainty[],
  quantityKey: string,
  means: SensitivityMeans,
): { shares: readonly InputShare[]; relative?: number } {
  const shares = inputs.map((input): InputShare => {
    const sensitivity = sensitivityOf(input, quantityKey, means);
    const own = Math.abs(input.uncertainty / input.value);
    return {
      key: input.key,
      label: input.label,
      ...(sensitivity && Number.isFinite(own) ? { sensitivity, relative: Math.abs(sensitivity.value) * own } : {}),
    };
  });
  const known = shares.every((s) => s.relative !== undefined);
  return { shares, ...(inputs.length && known ? { relative: Math.sqrt(shares.reduce((sum, s) => sum + (s.relative ?? 0) ** 2, 0)) } : {}) };
}
