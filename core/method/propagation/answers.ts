import { solveDense } from "../../numeric/solveDense.ts";
import type { InputUncertainty, SweptPoint } from "../../records/inputs.ts";

/** How a quantity answers to an input, as runs tell it: relative change over relative change. */
export interface Answer {
  readonly value: number;
  readonly by: "differences" | "sweep" | "sample";
  /** standard error, where there were more runs than unknowns */
  readonly standard?: number;
  /** answers to the step down and to the step up, where the present value was run as well */
  readonly sides?: readonly [down: number, up: number];
}

/** Runs as places in logarithms, or, where signs forbid those, as relative distances from the present value. */
interface Place {
  readonly x: number;
  readonly y: number;
}

const FEWEST = 2;
/** steps down and up differ by no more than this share of them */
const SAME_STEP = 1e-3;

/**
 * How a quantity answers to an input, by runs made for it: those that differ in this input alone, else a fit over runs that differ in several.
 * Runs of different sets are never mixed, since their meshes may differ; of several sets that tell, the last one counts.
 * @returns undefined where no set tells
 */
export function answerByRuns(input: InputUncertainty, quantityKey: string, swept: readonly SweptPoint[]): Answer | undefined {
  const sets = new Map<string | undefined, SweptPoint[]>();
  for (const s of swept) if (Number.isFinite(s.quantities[quantityKey])) sets.set(s.set, [...(sets.get(s.set) ?? []), s]);
  const told = [...sets.values()].flatMap((runs) => alone(input, quantityKey, runs) ?? together(input, quantityKey, runs) ?? []);
  return told[told.length - 1];
}

/** Slope over runs that differ in this input alone, the largest group of such. */
function alone(input: InputUncertainty, quantityKey: string, runs: readonly SweptPoint[]): Answer | undefined {
  const groups = new Map<string, SweptPoint[]>();
  for (const r of runs) {
    const rest = JSON.stringify({ ...r.parameters, [input.key]: 0 });
    groups.set(rest, [...(groups.get(rest) ?? []), r]);
  }
  const many = [...groups.values()].sort((a, b) => b.length - a.length)[0] ?? [];
  const at = many.map((r) => r.parameters[input.key]);
  if (new Set(at).size < FEWEST) return undefined;
  const places = placesOf(
    at,
    many.map((r) => r.quantities[quantityKey]),
    input.value,
  );
  if (!places) return undefined;
  const { slope } = straight(places);
  if (!Number.isFinite(slope)) return undefined;
  const [down, centre, up] = [-1, 0, 1].map((side) => places.filter((_, i) => Math.sign(at[i] - input.value) === side));
  const stepped = down.length === 1 && up.length === 1 && isSameStep(at, input.value);
  return {
    value: slope,
    by: stepped ? "differences" : "sweep",
    ...(stepped && centre.length ? { sides: [rise(down[0], centre[0]), rise(centre[0], up[0])] as const } : {}),
  };
}

const rise = (a: Place, b: Place): number => (b.y - a.y) / (b.x - a.x);

/** One step down and one up, equally long. */
function isSameStep(at: readonly number[], value: number): boolean {
  const down = value - Math.min(...at);
  const up = Math.max(...at) - value;
  return Math.abs(up - down) <= SAME_STEP * Math.max(up, down);
}

/** In logarithms, in which a power law is a straight line; where signs forbid it, relative to the present value and to what the quantity is there. */
function placesOf(at: readonly number[], values: readonly number[], present: number): Place[] | undefined {
  const oneSign = (q: readonly number[]) => q.every((v) => v > 0) || q.every((v) => v < 0);
  if (oneSign(at) && oneSign(values)) return at.map((x, i) => ({ x: Math.log(Math.abs(x)), y: Math.log(Math.abs(values[i])) }));
  const { slope, mean } = straight(at.map((x, i) => ({ x, y: values[i] })));
  const there = mean.y + slope * (present - mean.x);
  if (!(Math.abs(there) > 0 && present !== 0)) return undefined;
  return at.map((x, i) => ({ x: x / present - 1, y: values[i] / there - 1 }));
}

/** Straight line by least squares: its slope, and the middle it goes through. */
function straight(places: readonly Place[]): { slope: number; mean: Place } {
  const mean = { x: average(places.map((p) => p.x)), y: average(places.map((p) => p.y)) };
  const across = places.reduce((s, p) => s + (p.x - mean.x) ** 2, 0);
  return { slope: places.reduce((s, p) => s + (p.x - mean.x) * (p.y - mean.y), 0) / across, mean };
}

const average = (q: readonly number[]): number => q.reduce((s, v) => s + v, 0) / q.length;

/** Slopes of all inputs that vary in a set, by least squares in relative changes; needs more runs than unknowns. */
function together(input: InputUncertainty, quantityKey: string, runs: readonly SweptPoint[]): Answer | undefined {
  const keys = Object.keys(runs[0].parameters).filter((key) => new Set(runs.map((r) => r.parameters[key])).size > 1);
  const own = keys.indexOf(input.key);
  const spare = runs.length - keys.length - 1;
  if (own < 0 || keys.length < 2 || spare < 1) return undefined;
  const values = runs.map((r) => r.quantities[quantityKey]);
  const middle = average(values);
  if (!(Math.abs(middle) > 0)) return undefined;
  const centres = keys.map((key) => average(runs.map((r) => r.parameters[key])));
  if (centres.some((c) => c === 0)) return undefined;
  const x = runs.map((r) => keys.map((key, k) => r.parameters[key] / centres[k] - 1));
  const y = values.map((v) => v / middle - 1);
  const normal = keys.map((_, i) => keys.map((__, j) => x.reduce((s, row) => s + row[i] * row[j], 0)));
  const unit = keys.map((_, i) => (i === own ? 1 : 0));
  const slopes = solveDense(
    normal,
    keys.map((_, i) => x.reduce((s, row, r) => s + row[i] * y[r], 0)),
  );
  const inverse = solveDense(normal, unit);
  if (!slopes || !inverse) return undefined;
  const left = x.reduce((s, row, r) => s + (y[r] - row.reduce((t, v, k) => t + v * slopes[k], 0)) ** 2, 0) / spare;
  // The fit speaks of the middle of the set; at the present value quantity and input differ from it by what the fit says.
  const away = input.value / centres[own] - 1;
  const there = (1 + away) / (1 + slopes[own] * away);
  return { value: slopes[own] * there, by: "sample", standard: Math.sqrt(left * inverse[own]) * Math.abs(there) };
}
