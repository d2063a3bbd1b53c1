import { slopeOf } from "../numeric/differences.ts";
import { randomFrom } from "../numeric/random.ts";
import { combine, type FieldFunction, Formula } from "./formula.ts";

/** A formula with what it stands for. */
export interface Named {
  /** a name programs can use */
  readonly key: string;
  readonly name: string;
  readonly unit: string;
  readonly formula: Formula;
}

/** A term of an equation, with its own formula. */
export interface Term {
  readonly equation: string;
  readonly term: string;
  readonly formula: Formula;
}

/** A manufactured solution written out: fields, the sources that keep them up, and every term of every equation. */
export interface WrittenSolution {
  readonly kind: "flow" | "gas" | "carried";
  /** what differences of the fields make of the equations */
  readonly differences: Differences;
  /** least y of the room it is meant for, 0 unless given */
  readonly lowest?: number;
  readonly fields: readonly Named[];
  readonly sources: readonly Named[];
  readonly terms: readonly Term[];
}

/** Every equation at a place, worked out from the fields by differences. */
export type Differences = (fields: readonly FieldFunction[], at: readonly [number, number, number]) => number[];

/** The radius, where the room lies round the axis y = 0. */
export const RADIUS = Formula.of("y");

/** The same point of a field with one coordinate moved. */
export const slopeAlong =
  (f: FieldFunction, k: 0 | 1 | 2): FieldFunction =>
  (x, y, t) =>
    slopeOf((s) => f(k === 0 ? x + s : x, k === 1 ? y + s : y, k === 2 ? t + s : t), 0, H);

/** step of the differences, m and s */
const H = 2e-3;

export const number = (value: number) => Formula.of(String(value));
/** The sum of all terms of every equation, in their order: the sources that keep the fields up. */
export function sourcesOf(terms: readonly Term[]): Formula[] {
  return [...new Set(terms.map((t) => t.equation))].map((name) => sumOf(terms.filter((t) => t.equation === name).map((t) => t.formula)));
}

/** The same as functions that add up the terms one by one. */
export function addedUp(terms: readonly Term[]): FieldFunction[] {
  return [...new Set(terms.map((t) => t.equation))].map((name) => {
    const of = terms.filter((t) => t.equation === name).map((t) => t.formula.at);
    return (x, y, t) => of.reduce((sum, f) => sum + f(x, y, t), 0);
  });
}

/** What is dear to work out and not always asked for: worked out when it is, and kept. */
export function once<T>(make: () => T): () => T {
  let made: { readonly value: T } | undefined;
  return () => {
    made ??= { value: make() };
    return made.value;
  };
}

const sumOf = (list: readonly Formula[]) => list.reduce((a, b) => combine("a + b", { a, b }));

/** Formulas of a whole equation are long: they are carried out as they stand. */
export const asItStands = <T extends { readonly formula: Formula }>(list: readonly T[]): T[] =>
  list.map((f) => ({ ...f, formula: new Formula(f.formula.node, false) }));

/** A solution whose formulas are carried out as they stand. */
export const writtenOut = (w: WrittenSolution): WrittenSolution => ({
  ...w,
  fields: asItStands(w.fields),
  sources: asItStands(w.sources),
  terms: asItStands(w.terms),
});

/** How much of an equation a term is. */
export interface TermShare {
  readonly equation: string;
  readonly term: string;
  /** root mean square over the unit box and the unit of time, in the equation's unit */
  readonly size: number;
  /** of the sizes of all terms of its equation */
  readonly share: number;
  /** it vanishes everywhere: a code may have it wrong and nobody would see */
  readonly untested: boolean;
}

const PLACES = 200;

/** Which terms of the equations a chosen solution exercises, over random places. */
export function exercised(w: WrittenSolution, seed = 1): TermShare[] {
  const next = randomFrom(seed);
  const places = Array.from({ length: PLACES }, () => [next(), (w.lowest ?? 0) + next(), next()] as const);
  const sizes = w.terms.map((t) => Math.sqrt(places.reduce((s, at) => s + t.formula.at(...at) ** 2, 0) / PLACES));
  return w.terms.map((t, i) => {
    const whole = w.terms.reduce((s, x, k) => (x.equation === t.equation ? s + sizes[k] : s), 0);
    const share = whole > 0 ? sizes[i] / whole : 0;
    return { equation: t.equation, term: t.term, size: sizes[i], share, untested: !(share > 1e-12) };
  });
}

/**
 * The largest distance of the sources from what differences of the fields alone make of the equations, over their largest size: what was derived
 * symbolically is held against something that was not.
 * @returns a fraction; differences leave some 1e-8
 */
export function distanceFromDifferences(w: WrittenSolution, seed = 2): number {
  const next = randomFrom(seed);
  const fields = w.fields.map((f) => f.formula.at);
  const rows = Array.from({ length: 20 }, () => {
    const at = [0.1 + 0.8 * next(), (w.lowest ?? 0) + 0.1 + 0.8 * next(), 0.1 + 0.8 * next()] as const;
    const expected = w.differences(fields, at);
    return w.sources.map((s, i) => [s.formula.at(...at), expected[i]] as const);
  });
  const size = w.sources.map((_, i) => Math.max(1e-300, ...rows.map((r) => Math.abs(r[i][1])), ...rows.map((r) => Math.abs(r[i][0]))));
  return Math.max(...rows.flatMap((r) => r.map(([a, b], i) => Math.abs(a - b) / size[i])));
}
