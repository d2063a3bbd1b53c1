import { parseQuantity } from "../units/units.ts";
import { type Evaluated, evaluate, placesOf, type Solution, type SolutionAxis, type SolutionValue } from "./solution.ts";

/** A curve that was sampled. */
export interface SampledCurve {
  readonly key: string;
  readonly name: string;
  readonly x: SolutionAxis;
  readonly y: SolutionAxis;
  readonly points: readonly (readonly [x: number, y: number])[];
}

/** A solution at what was typed. */
export type Explored =
  | {
      readonly ok: true;
      /** SI */
      readonly parameters: Readonly<Record<string, number>>;
      /** what was taken for granted of what was typed */
      readonly said: readonly string[];
      readonly range: (Evaluated & { ok: true })["range"];
      readonly inside: boolean;
      readonly values: readonly Required<SolutionValue>[];
      readonly curves: readonly SampledCurve[];
    }
  | { readonly ok: false; readonly sentence: string; readonly mistakes: Readonly<Record<string, string>> };

/** Places a curve is sampled at unless asked otherwise. */
export const SAMPLES = 201;

/** Parameters of a solution as typed, with their units, in SI; presets where nothing was typed. */
export function readParameters(s: Solution, typed: Readonly<Record<string, string | number>>) {
  const parameters: Record<string, number> = {};
  const mistakes: Record<string, string> = {};
  const said: string[] = [];
  for (const p of s.parameters) {
    const entry = typed[p.key] ?? p.preset;
    if (typeof entry === "number") {
      parameters[p.key] = entry;
      continue;
    }
    const read = parseQuantity(entry, p.unit);
    if (!read.ok) mistakes[p.key] = read.sentence;
    else {
      parameters[p.key] = read.si;
      if (read.said) said.push(read.said);
    }
  }
  return { parameters, mistakes, said };
}

/**
 * A solution at parameters as they were typed: figures with their uncertainty at 95 %, curves sampled.
 * @param typed texts with units, or numbers in SI; presets stand in for the rest
 */
export function explore(s: Solution, typed: Readonly<Record<string, string | number>>, samples = SAMPLES): Explored {
  const { parameters, mistakes, said } = readParameters(s, typed);
  const wrong = Object.values(mistakes);
  if (wrong.length) return { ok: false, sentence: wrong[0], mistakes };
  const found = evaluate(s, parameters);
  if (!found.ok) return { ok: false, sentence: found.sentence, mistakes: {} };
  return {
    ok: true,
    parameters,
    said,
    range: found.range,
    inside: found.inside,
    values: found.values.map((v) => ({ ...v, uncertainty: v.uncertainty ?? s.uncertainty })),
    curves: found.curves.map(({ key, name, x, y, from, to, sample }) => {
      const places = placesOf({ from, to, x }, samples);
      const ys = sample(places);
      return { key, name, x, y, points: places.map((at, i) => [at, ys[i]] as const) };
    }),
  };
}
